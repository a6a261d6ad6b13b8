import type { Piece, SlideId, Take } from '@core/model'
import { piecesOfTake } from './pieces-of-take'

/** One showing of a slide as it was recorded: what a visit could be made of. */
export interface Recording {
  readonly take: Take['id']
  readonly pieces: readonly Piece[]
}

/** Every showing of a slide in takes, in their order. Voices over what was there show nothing of their own. */
export function recordingsOf(slide: SlideId, takes: readonly Take[]): readonly Recording[] {
  return takes
    .filter((take) => take.kind !== 'dub' && take.kind !== 'rehearsal')
    .flatMap((take) => {
      const pieces = piecesOfTake(take).filter((piece) => piece.slide === slide)
      const visits = [...new Set(pieces.map((piece) => piece.visit))]
      return visits.map((visit) => ({ take: take.id, pieces: pieces.filter((piece) => piece.visit === visit) }))
    })
}
