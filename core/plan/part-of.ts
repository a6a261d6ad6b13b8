import { Refusal, unreachable } from '@core/model'
import type { Ms, PartWanted, Piece, Programme, SlideId } from '@core/model'
import { divide, dressedFrom, playedPieces, wholeLength } from '@core/programme'

/**
 * The part of a programme that a file is to hold. What is seen and heard in it is as it is in the whole.
 * @param part a range is in ms of the programme; what lies outside of it is left out
 * @throws Refusal `conflict` when nothing of the programme is in it
 */
export function partOf(programme: Programme, part: PartWanted): Programme {
  const wanted = wantedPieces(programme, part)
  if (wanted.length === 0 && programme.pieces.length > 0) {
    throw new Refusal(
      'conflict',
      part.kind === 'range' ? 'Nothing of the talk lies between these times.' : 'None of these slides is shown in the talk.',
    )
  }
  if (part.kind === 'all') return programme
  return part.kind === 'range' ? dressedFrom(programme, part.from, wanted) : { ...programme, pieces: wanted }
}

function piecesBetween(programme: Programme, { from, to }: { readonly from: Ms; readonly to: Ms }): readonly Piece[] {
  const {
    pieces,
    places: [first, last],
  } = divide(programme, [from, Math.max(from, to)])
  return playedPieces({ pieces: pieces.slice(first, last) })
}

/** What is up for less is not seen, in ms. */
const NOT_SEEN = 40

/**
 * The slides that are seen in a part of a programme, in the order in which they first are; one that only just begins or ends in it is
 * not.
 */
export function slidesSeenIn(programme: Programme, part: PartWanted): readonly SlideId[] {
  const seen = new Map<SlideId, Ms>()
  for (const piece of wantedPieces(programme, part)) seen.set(piece.slide, (seen.get(piece.slide) ?? 0) + wholeLength(piece))
  return [...seen].flatMap(([slide, length]) => (length < NOT_SEEN ? [] : [slide]))
}

function wantedPieces(programme: Programme, part: PartWanted): readonly Piece[] {
  switch (part.kind) {
    case 'all':
      return playedPieces(programme)
    case 'range':
      return piecesBetween(programme, part)
    case 'slides': {
      const slides = new Set(part.slides)
      return (part.within === undefined ? playedPieces(programme) : piecesBetween(programme, part.within)).filter((piece) =>
        slides.has(piece.slide),
      )
    }
    default:
      return unreachable(part)
  }
}
