import { defineStore } from 'pinia'
import { applyDeckEdit, invertDeckEdit } from '@core/deck'
import type { DeckEdit } from '@core/deck'
import { EMPTY_PROGRAMME, Refusal } from '@core/model'
import type { Ms, Slide, SlideId } from '@core/model'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { recordedBySlide, visitsOf } from '@core/programme'
import { toFilm, toWire } from '@contracts'
import type { DeliveryView, FilmView, TalkEvent, TalkView } from '@contracts'
import { api, sentenceOf } from '~/client'

/** How long changes of words wait for more, in ms. */
const PATIENCE = 500
/** Wait before what could not be saved is tried again, in ms. */
const AGAIN = 2000

interface Done {
  readonly edit: DeckEdit
  readonly inverse: DeckEdit
}

/** Two changes of the same field of the same slide, one right after the other, are one to save and one to undo. */
function merged(last: DeckEdit | undefined, edit: DeckEdit): DeckEdit | null {
  if (last?.kind !== 'set' || edit.kind !== 'set') return null
  const same = JSON.stringify([last.slides, Object.keys(last.fields)]) === JSON.stringify([edit.slides, Object.keys(edit.fields)])
  return same ? edit : null
}

/** The open talk: deck, film and files as the server has them, with what was changed here ahead of it. */
export const useTalk = defineStore('talk', () => {
  const talk = shallowRef<TalkView | null>(null)
  const film = shallowRef<FilmView | null>(null)
  const ledger = shallowRef<readonly DeliveryView[]>([])
  const selected = ref<SlideId | null>(null)
  const missing = ref(false)
  const trouble = ref<string | null>(null)
  const saved = ref<Date | null>(null)
  const waiting = shallowRef<readonly DeckEdit[]>([])
  const done = shallowRef<readonly Done[]>([])
  const undone = shallowRef<readonly Done[]>([])
  let sending: Promise<void> | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let events: EventSource | null = null

  const slides = computed<readonly Slide[]>(() => talk.value?.slides ?? [])
  const slide = computed<Slide | null>(() => slides.value.find((one) => one.id === selected.value) ?? slides.value[0] ?? null)
  const programme = computed(() => film.value?.programme ?? EMPTY_PROGRAMME)
  const index = computed<FilmIndex | null>(() => (film.value === null || film.value.programme.pieces.length === 0 ? null : indexFilm(toFilm(film.value))))
  const visits = computed(() => visitsOf(programme.value))
  const recorded = computed<ReadonlyMap<SlideId, Ms>>(() => recordedBySlide(visits.value))

  async function loadTalk(id: string): Promise<void> {
    const view = await api.get<TalkView>(`/talks/${id}`)
    // What waits to be saved is laid over what came.
    talk.value = { ...view, slides: waiting.value.reduce((deck, edit) => safely(deck, edit), { shape: view.shape, slides: view.slides }).slides }
  }

  function safely(deck: { shape: TalkView['shape'], slides: readonly Slide[] }, edit: DeckEdit): typeof deck {
    try {
      return applyDeckEdit(deck, edit)
    } catch {
      return deck
    }
  }

  async function loadFilm(id: string): Promise<void> {
    film.value = await api.get<FilmView>(`/talks/${id}/film`)
  }

  async function loadLedger(id: string): Promise<void> {
    ledger.value = await api.get<DeliveryView[]>(`/talks/${id}/deliveries`)
  }

  function hear(id: string): void {
    events?.close()
    events = new EventSource(`/api/talks/${id}/events`)
    let broken = false
    events.onerror = () => { broken = true }
    events.onopen = () => {
      if (broken) void Promise.all([loadTalk(id), loadFilm(id), loadLedger(id)]).catch(report)
      broken = false
    }
    events.onmessage = (message) => {
      const told = JSON.parse(String(message.data)) as TalkEvent
      if (told.kind === 'delivery') void loadLedger(id).catch(report)
      else if (told.kind === 'programme') void loadFilm(id).catch(report)
      else if (sending === null && waiting.value.length === 0) void loadTalk(id).catch(report)
    }
  }

  function report(error: unknown): void {
    trouble.value = sentenceOf(error)
  }

  /** Opens a talk; the one that was open is let go. */
  async function open(id: string): Promise<void> {
    if (talk.value?.id === id) return
    close()
    try {
      await Promise.all([loadTalk(id), loadFilm(id), loadLedger(id)])
      saved.value = new Date(talk.value?.changed ?? Date.now())
      hear(id)
    } catch (error) {
      missing.value = error instanceof Refusal && error.code === 'not-found'
      report(error)
    }
  }

  function close(): void {
    events?.close()
    events = null
    talk.value = null
    film.value = null
    ledger.value = []
    selected.value = null
    missing.value = false
    trouble.value = null
    waiting.value = []
    done.value = []
    undone.value = []
  }

  function lay(edit: DeckEdit): void {
    if (talk.value === null) return
    talk.value = { ...talk.value, slides: applyDeckEdit(talk.value, edit).slides }
    const joined = sending === null ? merged(waiting.value.at(-1), edit) : null
    waiting.value = joined === null ? [...waiting.value, edit] : [...waiting.value.slice(0, -1), joined]
    clearTimeout(timer)
    timer = setTimeout(() => { void send() }, PATIENCE)
  }

  /** Changes the deck here and now; it is saved within a second. */
  function edit(change: DeckEdit): void {
    if (talk.value === null) return
    const inverse = invertDeckEdit(talk.value, change)
    const last = done.value.at(-1)
    const joined = merged(last?.edit, change)
    done.value = joined !== null && last !== undefined
      ? [...done.value.slice(0, -1), { edit: joined, inverse: last.inverse }]
      : [...done.value, { edit: change, inverse }]
    undone.value = []
    lay(change)
  }

  function undo(): void {
    const last = done.value.at(-1)
    if (last === undefined) return
    done.value = done.value.slice(0, -1)
    undone.value = [...undone.value, last]
    lay(last.inverse)
  }

  function redo(): void {
    const last = undone.value.at(-1)
    if (last === undefined) return
    undone.value = undone.value.slice(0, -1)
    done.value = [...done.value, last]
    lay(last.edit)
  }

  async function sendAll(): Promise<void> {
    while (waiting.value.length > 0 && talk.value !== null) {
      const [next] = waiting.value
      if (next === undefined) return
      const answer = await api.post<{ revision: number, slides: readonly Slide[] }>(`/talks/${talk.value.id}/deck`, { revision: talk.value.revision, edit: toWire(next) })
      waiting.value = waiting.value.slice(1)
      talk.value = { ...talk.value, revision: answer.revision, slides: waiting.value.reduce(safely, { shape: talk.value.shape, slides: answer.slides }).slides }
      saved.value = new Date()
      trouble.value = null
    }
  }

  /** Saves what waits. What the server refuses is taken back and said; what it cannot be asked now is tried again. */
  async function send(): Promise<void> {
    if (sending !== null) return await sending
    sending = sendAll()
    try {
      await sending
    } catch (error) {
      report(error)
      const refused = error instanceof Refusal && error.code !== 'unavailable'
      if (refused && talk.value !== null) {
        waiting.value = waiting.value.slice(1)
        await loadTalk(talk.value.id).catch(report)
      }
      if (waiting.value.length > 0) timer = setTimeout(() => { void send() }, AGAIN)
    } finally {
      sending = null
    }
  }

  async function change(fields: { name?: string, limit?: Ms | null }): Promise<void> {
    if (talk.value === null) return
    try {
      const view = await api.patch<TalkView>(`/talks/${talk.value.id}`, fields)
      talk.value = { ...talk.value, name: view.name, limit: view.limit, recipe: view.recipe }
      saved.value = new Date()
    } catch (error) {
      report(error)
    }
  }

  async function refresh(): Promise<void> {
    const id = talk.value?.id
    if (id !== undefined) await Promise.all([loadTalk(id), loadFilm(id), loadLedger(id)])
  }

  return {
    talk, film, ledger, selected, missing, trouble, saved, waiting, done, undone,
    slides, slide, programme, index, visits, recorded,
    open, close, edit, undo, redo, send, change, refresh, report,
  }
})
