import type { Piece } from '@core/model'
import { changeProgramme, deliverNow, demoProduct, demoTalk, forgetParts } from './demo-product'
import { lengthened } from './lengthened'
import type { Figure } from './figure'

const SLIDES = 20
/** How much longer the second slide is the second time, in ms: all after it lies elsewhere between frames. */
const LONGER = 337

/**
 * The same talk of twenty slides with camera at 1080 lines after its second slide was taken again and became an odd number of
 * milliseconds longer, against its first export.
 */
export async function measure(): Promise<Figure> {
  const end = await demoProduct()
  try {
    const talk = await demoTalk()
    await lengthened(talk, 3, (programme) => ({ ...programme, pieces: programme.pieces.slice(0, SLIDES) }))
    await forgetParts()
    const first = await deliverNow(talk, {})
    await changeProgramme(talk, (programme) => ({
      ...programme,
      pieces: programme.pieces.map((piece, n) => (n === 1 ? takenAgain(piece) : piece)),
    }))
    const again = await deliverNow(talk, {})
    const value = Number((again.took / first.took).toFixed(3))
    return {
      value,
      unit: 'x',
      target: '0.15 or less',
      ok: value <= 0.15,
      detail: {
        firstMs: Math.round(first.took),
        againMs: Math.round(again.took),
        filmMs: again.facts.length,
        framesEncoded: first.facts.encoded,
        framesEncodedAgain: again.facts.encoded,
        frames: again.facts.frames,
        longerMs: again.facts.length - first.facts.length,
      },
    }
  } finally {
    end()
  }
}

/** Another part of the recording in its place. */
function takenAgain(piece: Piece): Piece {
  if (piece.kind === 'still') throw new Error('the demo talk is recorded')
  const moved = { stretch: piece.show.stretch, from: piece.show.from + 11, to: piece.show.to + 11 + LONGER, rate: piece.show.rate }
  return { ...piece, show: moved, voice: moved, camera: moved }
}
