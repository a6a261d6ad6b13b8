import { MOST_DRAWN_STEPS } from '@core/model'
import type { Drawing, ObjectMotion, Slide, Step } from '@core/model'

/** Steps that a slide has by itself. */
export const ownSteps = (slide: Pick<Slide, 'steps'>): readonly Step[] => slide.steps.filter((step) => step.added !== true)

/** A step that shows what the last one does, so that what is drawn on the slide can begin with it. */
function repeated({ reveal: _, motions: __, ...step }: Step): Step {
  return { ...step, added: true }
}

/** How many steps a drawing asks for. */
const stepsOfDrawing = ({ motions }: Drawing): number => motions.reduce((most, { step }) => Math.max(most, step + 1), 0)

/** A slide with steps enough for what is drawn on it. */
export function withDrawnSteps(slide: Slide): Slide {
  const own = ownSteps(slide)
  const last = own.at(-1)
  const more = slide.drawing === undefined || last === undefined ? 0 : Math.max(0, stepsOfDrawing(slide.drawing) - own.length)
  if (last === undefined || slide.steps.length === own.length + more) return slide
  return { ...slide, steps: [...own, ...Array.from({ length: more }, () => repeated(last))] }
}

/** A drawing in which every motion moves something that is there, in steps that a slide may have. @param own steps of the slide itself */
export function consistent(drawing: Drawing, own: number): Drawing {
  const there = new Set(drawing.objects.map(({ id }) => id))
  const motions = drawing.motions
    .filter(({ object }) => there.has(object))
    .map((motion): ObjectMotion => ({ ...motion, step: Math.min(motion.step, own + MOST_DRAWN_STEPS - 1) }))
  return { ...drawing, motions }
}
