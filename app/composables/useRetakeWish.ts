import { useTalk } from '~/stores/talk'

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
