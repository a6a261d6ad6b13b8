import type { NewBackdrop } from '@core/model'
import { withBackdrop } from '@core/programme'
import { changeProgramme, deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import type { Figure } from './figure'

const MOST = 1.5
const BACKDROP: NewBackdrop = { kind: 'soft', finder: 'outline' }

/** What a backdrop behind all faces costs an export: where its films are there, as after Review, and where they are made for it. */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const { database } = await import('@server/database')
    const { currentProgramme } = await import('@server/domain')
    const { makeBackdrop } = await import('@server/media')
    const talk = await demoTalk()
    await forgetParts()
    const plain = (await deliverNow(talk, {})).took
    const { pieces } = await currentProgramme(database(), talk)
    const stretches = [...new Set(pieces.flatMap((piece) => (piece.kind === 'recorded' && piece.camera ? [piece.camera.stretch] : [])))]
    await changeProgramme(talk, (programme) => withBackdrop(programme, stretches, [], BACKDROP))
    await forgetParts()
    const began = performance.now()
    for (const stretch of stretches) await makeBackdrop({ stretch, backdrop: BACKDROP })
    const making = performance.now() - began
    const ready = (await deliverNow(talk, {})).took
    await forgetParts()
    const whole = (await deliverNow(talk, {})).took
    const ratio = ready / plain
    return {
      value: Number(ratio.toFixed(2)),
      unit: 'times an export without',
      target: `≤ ${String(MOST)} where the films of the face are there`,
      ok: ratio <= MOST,
      detail: { plain, ready, making, whole, withMaking: Number((whole / plain).toFixed(2)) },
    }
  } finally {
    end()
  }
}
