import { useLocalStorage, watchDebounced } from '@vueuse/core'
import type { TalkCard, TalkCount, TalkOrder } from '@contracts'
import { api } from '~/client'

/** Talks that are shown at first, and that come when more are wanted. */
const SOME = 60

/** A person's talks: those that are looked for, in an order, some at a time. */
export function useTalks(attempt: (work: () => Promise<void>) => Promise<void>) {
  const talks = shallowRef<readonly TalkCard[] | null>(null)
  const count = shallowRef<TalkCount | null>(null)
  const wanted = ref('')
  const order = useLocalStorage<TalkOrder>('aisle-talks-order', 'waiting')
  /** Which asking is the last: an answer to an earlier one comes too late. */
  let asked = 0

  async function fetchTalks(most: number): Promise<void> {
    asked += 1
    const own = asked
    const query = new URLSearchParams({ words: wanted.value, order: order.value, most: String(most) })
    const [cards, found] = await Promise.all([
      api.get<readonly TalkCard[]>(`/talks?${query.toString()}`),
      api.get<TalkCount>(`/talks/count?${new URLSearchParams({ words: wanted.value }).toString()}`),
    ])
    if (own !== asked) return
    talks.value = cards
    count.value = found
  }
  /** Looks again, for as many as are shown. */
  const load = (): Promise<void> => fetchTalks(Math.min(500, Math.max(SOME, talks.value?.length ?? 0)))
  const more = (): Promise<void> =>
    attempt(async () => {
      const shown = talks.value ?? []
      const query = new URLSearchParams({ words: wanted.value, order: order.value, from: String(shown.length), most: String(SOME) })
      const next = await api.get<readonly TalkCard[]>(`/talks?${query.toString()}`)
      const there = new Set(shown.map(({ id }) => id))
      talks.value = [...shown, ...next.filter(({ id }) => !there.has(id))]
    })
  watch(order, () => attempt(() => fetchTalks(SOME)))
  watchDebounced(wanted, () => attempt(() => fetchTalks(SOME)), { debounce: 200 })
  return { talks, count, wanted, order, load, more }
}
