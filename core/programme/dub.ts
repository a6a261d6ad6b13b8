import { AS_RECORDED } from '@core/model'
import type { Ms, Piece, Programme, Span, StretchId } from '@core/model'
import { divide } from './divide'
import { pieceLength, pieceStarts } from './length'

/** A voice that was recorded over what a programme shows. */
export interface DubStretch {
  readonly id: StretchId
  readonly length: Ms
  readonly camera: boolean
}

/**
 * Puts a new voice over what is shown already. Pictures, steps, ink and their times stay; the voice is heard as it was spoken, whatever
 * the tempo of what is shown. The old camera goes from that part unless a new one was recorded with the voice, so that no mouth moves
 * to other words. A part that is held without a recording stays without a voice. What reaches past the programme's end is not heard.
 * @param at programme time in ms at which the first stretch begins; the next one follows where it ends
 */
export function dub(programme: Programme, at: Ms, stretches: readonly DubStretch[]): Programme {
  let { pieces } = programme
  let from = at
  for (const stretch of stretches) {
    const end = from + stretch.length
    const divided = divide({ pieces }, [from, end])
    const [first = 0, last = 0] = divided.places
    const starts = pieceStarts(divided)
    const begin = from
    // Rounded one way at both ends, so that a voice goes on over the end of a piece where it stopped.
    const inVoice = (time: Ms): Ms => Math.max(0, Math.min(stretch.length, Math.round(time - begin)))
    pieces = divided.pieces.map((piece, n): Piece => {
      if (piece.kind === 'still' || piece.out !== undefined || n < first || n >= last) return piece
      const start = starts[n] ?? 0
      const span: Span = { stretch: stretch.id, from: inVoice(start), to: inVoice(start + pieceLength(piece)), rate: AS_RECORDED }
      const voice = span.to > span.from ? span : null
      return { ...piece, voice, camera: stretch.camera ? voice : null }
    })
    from = end
  }
  return { ...programme, pieces }
}
