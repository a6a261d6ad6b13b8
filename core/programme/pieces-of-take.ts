import { isInkCue, screenChanges } from '@core/session'
import { AS_RECORDED, asId } from '@core/model'
import type { Ms, Piece, SlideId, Stretch, Take, VisitId } from '@core/model'

interface Showing {
  readonly slide: SlideId
  readonly from: Ms
}

/** When a stretch turns to another slide, beginning with the slide it opens on. Steps of one slide are one showing. */
export function showingsOf(stretch: Stretch): readonly Showing[] {
  const showings: Showing[] = [{ slide: stretch.opening.slide, from: 0 }]
  for (const { cue, before, after } of screenChanges(stretch, (cue) => cue.at < stretch.kept && !isInkCue(cue))) {
    if (before.slide === after.slide) continue
    // Two turns in the same millisecond: the earlier slide was never seen.
    if (cue.at === showings.at(-1)?.from) showings.pop()
    if (showings.at(-1)?.slide !== after.slide) showings.push({ slide: after.slide, from: cue.at })
  }
  return showings
}

/**
 * The pieces of a take as it was recorded: one for each showing in what counts of each stretch. A slide that stays up over a pause
 * makes two pieces of one visit.
 */
export function piecesOfTake(take: Take): readonly Piece[] {
  const pieces: Piece[] = []
  let slide: SlideId | undefined
  let visit: VisitId = asId('')
  for (const stretch of take.stretches) {
    const showings = showingsOf(stretch)
    for (const [index, showing] of showings.entries()) {
      const to = showings[index + 1]?.from ?? stretch.kept
      if (to <= showing.from) continue
      const name = `${stretch.id}.${String(showing.from)}`
      if (slide !== showing.slide) visit = asId(name)
      slide = showing.slide
      const span = { stretch: stretch.id, from: showing.from, to, rate: AS_RECORDED }
      pieces.push({
        kind: 'recorded',
        visit,
        slide: showing.slide,
        show: span,
        voice: stretch.voice ? span : null,
        camera: stretch.camera ? span : null,
      })
    }
  }
  return pieces
}
