import type { Ms, Piece, Programme, Span, StretchId } from '@core/model'
import { dividedAt } from './cut'
import { pieceStarts } from './length'

/** A voice that was recorded over what a programme shows. */
export interface DubStretch {
  readonly id: StretchId
  readonly length: Ms
  readonly camera: boolean
}

/** A part of the recording that is heard over a piece: as long as what the piece shows, from `into` ms on. */
const over = (piece: Piece & { kind: 'recorded' }, stretch: StretchId, into: Ms): Span =>
  ({ stretch, from: into, to: into + piece.show.to - piece.show.from })

/**
 * Puts a new voice over what is shown already. Pictures, steps, ink and their times stay; the old camera goes from that
 * part unless a new one was recorded with the voice, so that no mouth moves to other words. A part that is held without
 * a recording stays without a voice. What reaches past the programme's end is not heard.
 * @param at programme time in ms at which the first stretch begins; the next one follows where it ends
 */
export function dub(programme: Programme, at: Ms, stretches: readonly DubStretch[]): Programme {
  let now = programme
  let from = at
  for (const stretch of stretches) {
    const end = from + stretch.length
    now = dividedAt(dividedAt(now, from), end)
    const starts = pieceStarts(now)
    const pieces = now.pieces.map((piece, n): Piece => {
      const start = starts[n] ?? 0
      if (piece.kind === 'still' || start < from || start >= end) return piece
      const voice = over(piece, stretch.id, start - from)
      return { ...piece, voice, camera: stretch.camera ? voice : null }
    })
    now = { ...now, pieces }
    from = end
  }
  return { ...now, revision: programme.revision + 1 }
}
