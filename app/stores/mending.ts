import { defineStore } from 'pinia'
import type { Ms } from '@core/model'
import { seamsOf } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import type { HistoryView } from '@contracts'
import { thisBrowser } from '~/capture'
import { api, sentenceOf } from '~/client'
import { useTalk } from './talk'

/** Changes of the programme in Review: each is kept on the server at once, and can be taken back, today or days later. */
export const useMending = defineStore('mending', () => {
  const talk = useTalk()
  const history = shallowRef<HistoryView | null>(null)
  const busy = ref(false)
  const trouble = ref<string | null>(null)
  /** What was chosen on the waveforms, in programme time. */
  const range = shallowRef<{ readonly from: Ms, readonly to: Ms } | null>(null)

  const seams = computed(() => seamsOf(talk.programme))

  async function loadHistory(): Promise<void> {
    const id = talk.talk?.id
    if (id !== undefined) history.value = await api.get<HistoryView>(`/talks/${id}/programme/history?browser=${thisBrowser().browser}`)
  }

  let last: Promise<unknown> = Promise.resolve()
  let waiting = 0

  async function send(id: string, path: string, body: object): Promise<boolean> {
    trouble.value = null
    try {
      await api.post(`/talks/${id}/programme${path}`, body)
      return true
    } catch (error) {
      trouble.value = sentenceOf(error)
      return false
    } finally {
      // Also what was refused may have been changed elsewhere. A new revision brings its history along.
      await talk.refreshFilm().catch((error: unknown) => { trouble.value ??= sentenceOf(error) })
    }
  }

  /** One change after the other: a key that is pressed meanwhile waits its turn. What the server refuses is said, and nothing has changed. */
  async function change(path: string, body: object): Promise<boolean> {
    const id = talk.talk?.id
    if (id === undefined) return false
    waiting += 1
    busy.value = true
    const mine = last.then(() => send(id, path, body))
    last = mine
    const done = await mine
    waiting -= 1
    busy.value = waiting > 0
    return done
  }

  const author = (): string => thisBrowser().browser
  async function edit(what: ProgrammeEdit): Promise<void> {
    if (await change('', { revision: talk.programme.revision, author: author(), edit: what })) range.value = null
  }
  const back = (role: 'undo' | 'redo'): Promise<boolean> => change('/back', { author: author(), role })
  const returnTo = (revision: number): Promise<boolean> => change('/return', { author: author(), revision })
  async function name(revision: number, called: string): Promise<boolean> {
    const named = await change('/names', { revision, name: called })
    if (named) await loadHistory().catch((error: unknown) => { trouble.value = sentenceOf(error) })
    return named
  }

  watch(() => [talk.talk?.id, talk.programme.revision], () => {
    range.value = null
    void loadHistory().catch(() => undefined)
  }, { immediate: true })

  return { history, busy, trouble, range, seams, edit, back, returnTo, name }
})
