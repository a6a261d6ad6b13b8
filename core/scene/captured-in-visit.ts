import type { Clip, Film, VisitId } from '@core/model'
import { clipsPlayedIn } from '@core/session'

/** Windows that were recorded and are shown in a visit, in the order in which they came to be. */
export function capturedInVisit({ programme, slides, stretches }: Film, visit: VisitId): readonly Clip[] {
  const pieces = programme.pieces.filter((piece) => piece.visit === visit)
  const played = new Set(
    pieces.flatMap((piece) => {
      const stretch = piece.kind === 'recorded' ? stretches.get(piece.show.stretch) : undefined
      return stretch === undefined ? [] : clipsPlayedIn(stretch)
    }),
  )
  const [first] = pieces
  const clips = first === undefined ? undefined : slides.get(first.slide)?.clips
  return (clips ?? []).filter(({ id, captured }) => captured === true && played.has(id))
}
