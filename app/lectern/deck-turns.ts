import type { Ref } from 'vue'
import type { Slide, SlideId } from '@core/model'
import type { DeckPosition } from './deck-position'
import type { NoteCue } from './lectern-screen'

export interface TurnedBy {
  readonly note: NoteCue
  readonly slide: Ref<Slide | null>
  /** Slides that are shown, and all of the deck. */
  readonly running: Ref<readonly Slide[]>
  readonly deck: () => readonly Slide[]
  readonly previous: Ref<DeckPosition | null>
  readonly following: () => DeckPosition | null
  /** Whether nothing can be turned to: something else says which slide is up. */
  readonly held: () => boolean
  /** Another slide is about to come. */
  readonly leaves: () => void
  /** A slide, or a step of it, has come. @param turned whether it is another slide */
  readonly came: (id: SlideId, turned: boolean, stamp: number) => void
}

/** Brings slides and steps up. Stamps are times of the page's clock. */
export function deckTurns({ note, slide, running, deck, previous, following, held, leaves, came }: TurnedBy) {
  /** A slide that is left out of the talk by now and is said again all the same. */
  const admitted = ref<SlideId | null>(null)

  function show(target: DeckPosition | null, stamp: number): void {
    if (target === null || held()) return
    const turned = target.slide.id !== slide.value?.id
    if (turned) leaves()
    note((at) => ({ kind: 'show', at, slide: target.slide.id, step: target.step }), stamp)
    came(target.slide.id, turned, stamp)
  }
  const goTo = (id: SlideId, stamp: number): void => {
    const target = running.value.find((one) => one.id === id)
    if (target !== undefined) show({ slide: target, step: 0 }, stamp)
  }
  return {
    admitted,
    show,
    goTo,
    next: (stamp: number): void => {
      show(following(), stamp)
    },
    back: (stamp: number): void => {
      show(previous.value, stamp)
    },
    /**
     * Brings up a slide that is to be said again, also one that is left out of the talk by now.
     * @returns false when it is not in the deck any more
     */
    bringUp: (id: SlideId, stamp: number): boolean => {
      if (!deck().some((one) => one.id === id)) return false
      admitted.value = id
      goTo(id, stamp)
      return true
    },
  }
}
