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
}

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
  const place = useKept<Place | null>(`aisle-place:${key}`, null, {
    serializer: { read: readPlace, write: JSON.stringify },
  })
  const before = ref<Ms | null>(null)
  onMounted(() => {
    before.value = worthGoingBack(view, place.value)
  })
  useIntervalFn(() => {
    const visit = visitAt(view.visits, at.value)
    if (visit !== null && at.value > 0) place.value = { visit: visit.id, into: Math.round(at.value - visit.start) }
  }, EVERY)
  return { before }
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
    return typeof found?.visit === 'string' && typeof found.into === 'number' ? { visit: found.visit, into: found.into } : null
  } catch {
    return null
  }
}
