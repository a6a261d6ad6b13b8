import { spanLength } from '@core/model'
import type { Ms, Piece, Programme } from '@core/model'

/** Length of a piece in the finished talk: source length over rate, rounded to the millisecond once. */
export function pieceLength(piece: Piece): Ms {
  if (piece.kind === 'still') return piece.length
  return Math.round((spanLength(piece.show) * piece.rate.den) / piece.rate.num)
}

/** Length of the whole programme. */
export const programmeLength = (programme: Programme): Ms =>
  programme.pieces.reduce((sum, piece) => sum + pieceLength(piece), 0)

/** When each piece starts; one more entry than there are pieces, the last being the programme's length. */
export function pieceStarts(programme: Programme): readonly Ms[] {
  const starts: Ms[] = [0]
  for (const piece of programme.pieces) starts.push((starts.at(-1) ?? 0) + pieceLength(piece))
  return starts
}
