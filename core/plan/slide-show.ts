import { EMPTY_PROGRAMME, Refusal, asId } from '@core/model'
import type { Film, Piece, Size, Slide } from '@core/model'
import { plannedTime } from '@core/pace'
import type { Speaker } from '@core/pace'

/**
 * A film of slides at their planned times, with nothing that was recorded. The steps of a slide share its time.
 * @param slides the run sheet; those that are skipped are left out
 * @throws Refusal `conflict` when no slide is left
 */
export function slideShow(shape: Size, slides: readonly Slide[], speaker: Speaker): Film {
  const shown = slides.filter((slide) => !slide.skip && slide.steps.length > 0)
  if (shown.length === 0) throw new Refusal('conflict', 'There is no slide to show. Add some in Prepare.')
  const pieces = shown.flatMap((slide): readonly Piece[] => {
    const time = plannedTime(slide, speaker)
    const turn = (step: number): number => Math.round((time * step) / slide.steps.length)
    return slide.steps.map((_, step) => ({
      kind: 'still',
      still: asId(`${slide.id}.${String(step)}`),
      visit: asId(slide.id),
      slide: slide.id,
      step,
      from: 0,
      to: turn(step + 1) - turn(step),
    }))
  })
  return {
    programme: { ...EMPTY_PROGRAMME, pieces, slides: Object.fromEntries(shown.map((slide) => [slide.id, slide.version])) },
    shape,
    slides: new Map(shown.map((slide) => [slide.id, slide])),
    stretches: new Map(),
  }
}
