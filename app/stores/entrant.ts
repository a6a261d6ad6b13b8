import { defineStore } from 'pinia'
import { countedEntry } from '@core/calls'
import type { EntrantView } from '@contracts'
import { api, bringEntry, sentenceOf } from '~/client'
import { useTalk } from '~/stores/talk'

/** The open talk's part in the call that it is made for: what was handed in, and what was said of it. */
export const useEntrant = defineStore('entrant', () => {
  const talk = useTalk()
  const view = shallowRef<EntrantView | null>(null)
  const trouble = ref<string | null>(null)
  const busy = ref(false)
  const path = (): string => `/talks/${talk.talk?.id ?? ''}/entry`

  async function load(): Promise<void> {
    if (talk.talk?.call == null) {
      view.value = null
      return
    }
    try {
      view.value = await api.get<EntrantView>(path())
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }
  async function does(work: () => Promise<EntrantView>): Promise<void> {
    busy.value = true
    trouble.value = null
    try {
      view.value = await work()
    } catch (error) {
      trouble.value = sentenceOf(error)
      // What was refused may have been told meanwhile.
      await load()
    } finally {
      busy.value = false
    }
  }
  /** @param delivery a finished file; null: one is made */
  const handIn = (delivery: string | null): Promise<void> => does(() => api.post<EntrantView>(path(), { delivery }))
  const bring = (files: readonly File[]): Promise<void> => does(() => bringEntry(talk.talk?.id ?? '', files))
  const takeNewRules = (): Promise<void> =>
    does(async () => {
      const next = await api.post<EntrantView>(`${path()}/rules`)
      await talk.refresh()
      return next
    })
  const renewLink = (): Promise<void> => does(() => api.post<EntrantView>(`${path()}/link`))

  /** What counts; null: nothing was taken yet. */
  const counted = computed(() => countedEntry(view.value?.entries ?? []))
  const pending = computed(() => view.value?.entries.find(({ state }) => state === 'making' || state === 'checking') ?? null)
  /** The newest, where it was not taken. */
  const refused = computed(() => {
    const newest = view.value?.entries[0]
    return newest?.state === 'refused' ? newest : null
  })

  watch(() => [talk.talk?.id, talk.talk?.call?.title, talk.entriesVersion], load, { immediate: true })
  return { view, trouble, busy, counted, pending, refused, load, handIn, bring, takeNewRules, renewLink }
})
