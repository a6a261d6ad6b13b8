import { statSync } from 'node:fs'
import { deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { lengthened } from './lengthened'
import type { Figure } from './figure'

/**
 * A film of slides without camera at 1080 lines, ten minutes long, ink growing on about a tenth of it: its length against the time to
 * export it.
 */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    await lengthened(talk, 5, (programme) => ({
      ...programme,
      pieces: programme.pieces.map((piece) => (piece.kind === 'recorded' ? { ...piece, camera: null } : piece)),
    }))
    await forgetParts()
    const { took, file, facts } = await deliverNow(talk, {})
    const value = Number((facts.length / took).toFixed(1))
    return {
      value,
      unit: 'x',
      target: '15 or more',
      ok: value >= 15,
      detail: {
        exportMs: Math.round(took),
        filmMs: facts.length,
        bytes: statSync(file).size,
        framesEncoded: facts.encoded,
        frames: facts.frames,
      },
    }
  } finally {
    end()
  }
}
