import type { Ms, Piece, Programme, Ratio } from '@core/model'

/**
 * How long after a piece's beginning a moment of its recording is shown or heard.
 * @param at of the recording @param from where the piece begins in it
 * @returns whole ms of the talk; negative for what lies before the piece
 */
export const intoPiece = (at: Ms, from: Ms, rate: Ratio): Ms => Math.round(((at - from) * rate.den) / rate.num)

/**
 * Which moment of its recording a piece has reached.
 * @param into ms of the talk since the piece began @param from where it begins in the recording
 * @returns ms of the recording, not whole
 */
export const sourceAt = (into: Ms, from: Ms, rate: Ratio): number => from + (into * rate.num) / rate.den

/** Length of a piece in the finished talk: source length over rate, rounded to the millisecond once. */
export function pieceLength(piece: Piece): Ms {
  if (piece.kind === 'still') return piece.length
  return intoPiece(piece.show.to, piece.show.from, piece.rate)
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
