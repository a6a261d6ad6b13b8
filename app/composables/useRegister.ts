import { useDocumentVisibility, useIntervalFn } from '@vueuse/core'
import type { Review } from '@core/calls'
import type { EntryView, RegisterView } from '@contracts'
import { api } from '~/client'
import { useAttempt } from './useAttempt'

/** How often what others hand in is looked for while the page is seen, in ms. */
const LOOK = 10_000

/** The register of a call, as it fills. */
export function useRegister(call: () => string) {
  const register = shallowRef<RegisterView | null>(null)
  const { busy, trouble, attempt } = useAttempt()
  const path = (): string => `/calls/${call()}`
  /** Entries that are chosen to be taken along; a row that goes is no longer among them. */
  const chosen = ref<ReadonlySet<string>>(new Set())
  const opened = ref<string | null>(null)
  /** What was said last of letters. */
  const told = ref<string | null>(null)

  async function fetchAll(): Promise<void> {
    const found = await api.get<RegisterView>(`${path()}/register`)
    register.value = found
    const there = new Set(found.rows.map(({ entry }) => entry?.id))
    chosen.value = new Set([...chosen.value].filter((id) => there.has(id)))
  }
  const load = (): Promise<void> => attempt(fetchAll)
  const visibility = useDocumentVisibility()
  useIntervalFn(() => {
    // What could not be looked for now comes the next time; what is said of something that failed stays.
    if (visibility.value === 'visible' && !busy.value && trouble.value === null) void fetchAll().catch(() => undefined)
  }, LOOK)

  const row = computed(() => register.value?.rows.find(({ entry }) => entry !== null && entry.id === opened.value) ?? null)
  const say = (entry: string, review: Review, remark: string): Promise<void> =>
    attempt(async () => {
      await api.patch<EntryView>(`${path()}/entries/${entry}`, { review, remark })
      await fetchAll()
    })
  /** Opening an entry is looking at it. */
  async function open(entry: EntryView): Promise<void> {
    opened.value = opened.value === entry.id ? null : entry.id
    if (opened.value !== null && entry.review === 'unseen') await say(entry.id, 'seen', '')
  }
  const choose = (entry: string, on: boolean): void => {
    chosen.value = new Set(on ? [...chosen.value, entry] : [...chosen.value].filter((id) => id !== entry))
  }
  const remind = (entrants?: readonly string[]): Promise<void> =>
    attempt(async () => {
      const { written } = await api.post<{ written: number }>(`${path()}/letters`, entrants === undefined ? {} : { entrants })
      told.value =
        written === 0
          ? 'Everybody was written to within the hour.'
          : `${String(written)} ${written === 1 ? 'letter is' : 'letters are'} on the way.`
      await fetchAll()
    })
  const sendLink = (entrant: string, name: string): Promise<void> =>
    attempt(async () => {
      await api.post(`${path()}/entrants/${entrant}/link`)
      told.value = `${name} is sent the link.`
    })
  return { register, busy, trouble, told, chosen, opened, row, load, say, open, choose, remind, sendLink }
}

export type Register = ReturnType<typeof useRegister>
