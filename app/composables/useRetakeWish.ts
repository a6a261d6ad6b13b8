import type { Ms, VisitId } from '@core/model'
import { useTalk } from '~/stores/talk'

/** How much of a visit is said again: all of it, a part of it in ms from its beginning, or it and everything after it. */
export type RetakeWish = 'visit' | { readonly from: Ms; readonly to: Ms } | 'rest'

/** Address of the Lectern where a visit of a talk is said again. */
export function retakePath(talk: string, visit: VisitId, wish: RetakeWish = 'visit'): string {
  const path = `/talks/${talk}/lectern?retake=${encodeURIComponent(visit)}`
  if (wish === 'visit') return path
  return wish === 'rest' ? `${path}&rest=1` : `${path}&from=${String(wish.from)}&to=${String(wish.to)}`
}

/** What Review sent here to be said again, as the page's address names it. */
export function useRetakeWish() {
  const route = useRoute()
  const talk = useTalk()

  /** The visit. */
  const wanted = computed(() => talk.visits.find((visit) => visit.id === route.query['retake']) ?? null)

  /** The part of that visit which is to be said again, in ms from its beginning; null: all of it. */
  const part = computed(() => {
    if (wanted.value === null) return null
    const [from, to] = [Number(route.query['from']), Number(route.query['to'])]
    return from >= 0 && to > from && to <= wanted.value.length ? { from, to } : null
  })

  /** Whether everything from that visit on is to be said again. */
  const rest = computed(() => wanted.value !== null && route.query['rest'] === '1')

  return { wanted, part, rest }
}
