import type { Deck, Framing, SlideId } from '@core/model'
import { coveredShare, contentOfSteps, framingOf } from './framing-of'
import { MOST_COVERED, placeInset } from './place-inset'

/** What clearing the inset did, by slide. */
export interface Cleared {
  readonly framings: ReadonlyMap<SlideId, Framing>
  /** Slides on which it was moved, in deck order. */
  readonly moved: readonly SlideId[]
  /** Slides on which no place is free: there the face stands beside the slide. */
  readonly beside: readonly SlideId[]
}

/**
 * Moves the face on every slide where it covers more than it should to the best free place, and beside the slide where
 * there is none. Slides that are in order, skipped, or have the face off stay as they are.
 */
export function clearInsets(deck: Deck): Cleared {
  const framings = new Map<SlideId, Framing>()
  const moved: SlideId[] = []
  const beside: SlideId[] = []
  for (const slide of deck.slides) {
    const now = framingOf(slide, deck.shape)
    if (slide.skip || now.off || coveredShare(slide, now, deck.shape) <= MOST_COVERED) continue
    const { rect } = placeInset(contentOfSteps(slide, deck.shape), deck.shape, now.outline)
    const better: Framing = { ...now, placing: 'over', rect }
    if (coveredShare(slide, better, deck.shape) <= MOST_COVERED) {
      framings.set(slide.id, better)
      moved.push(slide.id)
    } else {
      framings.set(slide.id, { ...now, placing: 'beside' })
      beside.push(slide.id)
    }
  }
  return { framings, moved, beside }
}
