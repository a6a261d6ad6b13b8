import { useIntervalFn } from '@vueuse/core'
import type { Ref } from 'vue'
import { visitAt } from '@core/screening'
import type { Ms } from '@core/model'
import type { ScreeningView } from '@contracts'
import { useKept } from './useKept'

/** Where somebody was, tied to a slide: what was changed before it moves nothing. */
interface Place {
  readonly visit: string
  readonly into: Ms
  /** It was watched to its end, now or before. */
  readonly finished?: boolean
}

const nameOf = (key: string): string => `aisle-place:${key}`

/** So often it is noted, in ms, and so far from either end it is worth going back to. */
const EVERY = 2000
const WORTH: Ms = 15_000

/**
 * Remembers in this browser where somebody was in a talk.
 * @param key of the page
 * @param at where the film is
 * @returns where they were when they came back; null when that is where it begins
 */
export function useScreeningPlace(key: string, view: ScreeningView, at: Ref<Ms>) {
  const place = useKept<Place | null>(nameOf(key), null, {
    serializer: { read: readPlace, write: JSON.stringify },
  })
  const before = ref<Ms | null>(null)
  onMounted(() => {
    before.value = worthGoingBack(view, place.value)
  })
  useIntervalFn(() => {
    const visit = visitAt(view.visits, at.value)
    if (visit === null || at.value === 0) return
    const finished = place.value?.finished === true || at.value > view.length - WORTH / 3
    place.value = { visit: visit.id, into: Math.round(at.value - visit.start), finished }
  }, EVERY)
  return { before }
}

/** How far somebody is in a talk, by what this browser keeps of it; null: they have not begun. */
export function progressOf(key: string): 'begun' | 'finished' | null {
  try {
    const place = readPlace(window.localStorage.getItem(nameOf(key)) ?? 'null')
    if (place === null) return null
    return place.finished === true ? 'finished' : 'begun'
  } catch {
    return null
  }
}

/** When a place comes in the talk as it is now; null when that is where it begins or ends, or no longer there. */
function worthGoingBack(view: ScreeningView, place: Place | null): Ms | null {
  const visit = view.visits.find(({ id }) => id === place?.visit)
  if (visit === undefined || place === null) return null
  const found = visit.start + Math.min(place.into, visit.length - 1)
  return found > WORTH && found < view.length - WORTH ? found : null
}

/** What stands in a browser's storage may be anything. */
function readPlace(text: string): Place | null {
  try {
    const found = JSON.parse(text) as Partial<Place> | null
    return typeof found?.visit === 'string' && typeof found.into === 'number'
      ? { visit: found.visit, into: found.into, finished: found.finished === true }
      : null
  } catch {
    return null
  }
}
