import { intoSpan, pieceStarts, shownSpan, sourceAt } from '@core/programme'
import type { Ms, Piece, Programme } from '@core/model'

/** A moment of a film, told by what is on then: it goes wherever that goes. */
export interface Moment {
  readonly visit: string
  /** How far into what was recorded of that visit, in ms of the recording; what was cut of it counts, and tempo does not. */
  readonly into: Ms
}

type Pieces = Pick<Programme, 'pieces'>

/** How much of a recording a piece is, whatever it was cut for and however fast it is played. */
const sourceLength = (piece: Piece): Ms => {
  const { from, to } = shownSpan(piece)
  return to - from
}

/** The moment at a time of a film; the last one, when the time lies beyond its end. @returns null when nothing is played */
export function momentAt(programme: Pieces, at: Ms): Moment | null {
  const { pieces } = programme
  const starts = pieceStarts(programme)
  const begun = pieces.findLastIndex((piece, n) => piece.out === undefined && (starts[n] ?? 0) <= at)
  const number = begun < 0 ? pieces.findIndex((piece) => piece.out === undefined) : begun
  const piece = pieces[number]
  if (piece === undefined) return null
  const first = pieces.findIndex(({ visit }) => visit === piece.visit)
  const before = pieces.slice(first, number).reduce((sum, one) => sum + sourceLength(one), 0)
  const span = shownSpan(piece)
  const inside = Math.max(0, Math.min(sourceLength(piece), sourceAt(span, at - (starts[number] ?? 0)) - span.from))
  return { visit: piece.visit, into: Math.round(before + inside) }
}

/**
 * When a moment is in a film: where it was cut, at the cut; where its visit is shorter now, at its end.
 * @returns null when nothing of the visit is in it any more
 */
export function momentOf(programme: Pieces, { visit, into }: Moment): Ms | null {
  const starts = pieceStarts(programme)
  let [left, found]: [Ms, Ms | null] = [into, null]
  for (const [n, piece] of programme.pieces.entries()) {
    if (piece.visit !== visit) continue
    const length = sourceLength(piece)
    const span = shownSpan(piece)
    if (piece.out === undefined) found = Math.round((starts[n] ?? 0) + intoSpan(span, span.from + Math.max(0, Math.min(left, length))))
    if (left < length && found !== null) return found
    left -= length
  }
  return found
}
