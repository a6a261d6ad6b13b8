import { Refusal, unreachable } from '@core/model'
import type { PartWanted, Piece, Programme } from '@core/model'
import { divide, playedPieces } from '@core/programme'

/**
 * The part of a programme that a file is to hold. What is seen and heard in it is as it is in the whole.
 * @param part a range is in ms of the programme; what lies outside of it is left out
 * @throws Refusal `conflict` when nothing of the programme is in it
 */
export function partOf(programme: Programme, part: PartWanted): Programme {
  const wanted = wantedPieces(programme, part)
  if (wanted.length === 0 && programme.pieces.length > 0) {
    throw new Refusal('conflict', part.kind === 'range' ? 'Nothing of the talk lies between these times.' : 'None of these slides is shown in the talk.')
  }
  return part.kind === 'all' ? programme : { ...programme, pieces: wanted }
}

function wantedPieces(programme: Programme, part: PartWanted): readonly Piece[] {
  switch (part.kind) {
    case 'all': return playedPieces(programme)
    case 'range': {
      const { pieces, places: [first, last] } = divide(programme, [part.from, Math.max(part.from, part.to)])
      return playedPieces({ pieces: pieces.slice(first, last) })
    }
    case 'slides': {
      const slides = new Set(part.slides)
      return playedPieces(programme).filter((piece) => slides.has(piece.slide))
    }
    default: return unreachable(part)
  }
}
