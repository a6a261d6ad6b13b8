import { consistent, withDrawnSteps } from '@core/objects'
import type { Slide, SlideId } from '@core/model'

/** A slide of the deck, and the one that was brought which is the same slide as it is now. */
export interface SlidePair {
  readonly slide: SlideId
  readonly brought: SlideId
}

/** What is seen and read of a slide now, on the slide that was there: its words for the presenter and its times stay. */
function renewed(old: Slide, now: Slide): Slide {
  const last = now.steps.length - 1
  const { proposedInset: _, clips: own, drawing, ...kept } = old
  // Clips that were put on it by hand stay where the new one brings none.
  const clips = now.clips ?? own?.map((clip) => ({ ...clip, step: Math.min(clip.step, last) }))
  return withDrawnSteps({
    ...kept,
    version: old.version + 1,
    title: now.title === '' ? old.title : now.title,
    section: now.section === '' ? old.section : now.section,
    notes: old.notes === '' ? now.notes : old.notes,
    viewerNotes: old.viewerNotes === '' ? now.viewerNotes : old.viewerNotes,
    description: now.description === '' ? old.description : now.description,
    steps: now.steps,
    composition: now.composition,
    transition: now.transition,
    ...(now.proposedInset === undefined ? {} : { proposedInset: now.proposedInset }),
    ...(clips === undefined ? {} : { clips }),
    // So does what was drawn on it.
    ...(drawing === undefined ? {} : { drawing: consistent(drawing, now.steps.length) }),
  })
}

/**
 * A deck after another was taken over: in the order of the new one, each slide that was there before being itself, with its recordings,
 * notes, times and framing.
 * @param pairs no slide in more than one
 */
export function takenOver(old: readonly Slide[], brought: readonly Slide[], pairs: readonly SlidePair[]): readonly Slide[] {
  const [byOld, byNew] = [new Map(old.map((slide) => [slide.id, slide])), new Map(pairs.map((pair) => [pair.brought, pair.slide]))]
  return brought.map((slide) => {
    const was = byOld.get(byNew.get(slide.id) ?? slide.id)
    return was === undefined ? slide : renewed(was, slide)
  })
}
