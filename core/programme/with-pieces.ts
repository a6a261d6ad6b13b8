import type { Piece, Programme, StillPiece, VisitId } from '@core/model'

/** A programme of other pieces. */
export const withPieces = (programme: Programme, pieces: readonly Piece[]): Programme => ({ ...programme, pieces })

/** A piece as it is when it is played. */
export function asPlayed(piece: StillPiece): StillPiece
export function asPlayed(piece: Piece): Piece
export function asPlayed({ out: _, ...played }: Piece): Piece {
  return played
}

/** A programme in which a visit is framed like another. */
export function framedLike(programme: Programme, visit: VisitId, id: VisitId): Programme {
  const framing = programme.framings[visit]
  return framing === undefined ? programme : { ...programme, framings: { ...programme.framings, [id]: framing } }
}
