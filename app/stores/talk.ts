import { dequal } from 'dequal'
import { defineStore } from 'pinia'
import { applyDeckEdit, invertDeckEdit } from '@core/deck'
import type { DeckEdit } from '@core/deck'
import { EMPTY_PROGRAMME, Refusal } from '@core/model'
import type { Ms, Programme, Size, Slide, SlideId } from '@core/model'
import { ANYBODY, rehearsedTimes } from '@core/pace'
import type { Rehearsed, Speaker } from '@core/pace'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { recordedBySlide, visitsOf } from '@core/programme'
import { toFilm, toWire, withProgramme } from '@contracts'
import type { DeliveryView, FilmView, TalkView } from '@contracts'
import { api, hearTalks, oneAtATime, sentenceOf } from '~/client'

/** How long changes of words wait for more, in ms. */
const PATIENCE = 500
/** Wait before what could not be saved is tried again, in ms. */
const AGAIN = 2000

/** What can be set of a talk itself. */
export interface TalkFields {
  readonly name?: string
  readonly limit?: Ms | null
  readonly language?: string
}

/** A change that was made here, and what takes it back. */
type Done =
  | { readonly kind: 'deck'; readonly edit: DeckEdit; readonly inverse: DeckEdit }
  | { readonly kind: 'talk'; readonly fields: TalkFields; readonly before: TalkFields }

/** Two changes of the same field of the same slide, one right after the other, are one to save and one to undo. */
function merged(last: DeckEdit | undefined, edit: DeckEdit): DeckEdit | null {
  if (last?.kind !== 'set' || edit.kind !== 'set') return null
  const same = dequal([last.slides, Object.keys(last.fields)], [edit.slides, Object.keys(edit.fields)])
  return same ? edit : null
}

/** The open talk: deck, film and files as the server has them, with what was changed here ahead of it. */
export const useTalk = defineStore('talk', () => {
  const talk = shallowRef<TalkView | null>(null)
  const film = shallowRef<FilmView | null>(null)
  const ledger = shallowRef<readonly DeliveryView[]>([])
  const selected = ref<SlideId | null>(null)
  /** When it was selected, on the page's clock. */
  let selectedAt = 0
  /** Grows when more is known of what a file would cost. */
  const looked = ref(0)
  const missing = ref(false)
  const trouble = ref<string | null>(null)
  const saved = ref<Date | null>(null)
  const waiting = shallowRef<readonly DeckEdit[]>([])
  const undoStack = shallowRef<readonly Done[]>([])
  const redoStack = shallowRef<readonly Done[]>([])
  let sending: Promise<void> | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let unsubscribe: (() => void) | null = null
  /** Something of the talk was told while changes were on their way, and has not been asked for yet. */
  let reloadPending = false
  /** Which talk is open, or about to be. */
  let opened: string | null = null
  /** What is asked for again of the open talk. */
  let again = {
    talk: (): Promise<void> => Promise.resolve(),
    film: (): Promise<void> => Promise.resolve(),
    ledger: (): Promise<void> => Promise.resolve(),
  }

  /** Who speaks, for planning. */
  const speaker = computed<Speaker>(() => ({ rate: talk.value?.rate ?? ANYBODY.rate }))
  const slides = computed<readonly Slide[]>(() => talk.value?.slides ?? [])
  const slide = computed<Slide | null>(() => slides.value.find((one) => one.id === selected.value) ?? slides.value[0] ?? null)
  const programme = computed(() => film.value?.programme ?? EMPTY_PROGRAMME)
  const index = computed<FilmIndex | null>(() =>
    film.value === null || film.value.programme.pieces.length === 0 ? null : indexFilm(toFilm(film.value)),
  )
  const visits = computed(() => visitsOf(programme.value))
  const recorded = computed<ReadonlyMap<SlideId, Ms>>(() => recordedBySlide(visits.value))

  /** Brings a slide up. @param stamp when that was asked for, on the page's clock; now when left out */
  function select(id: SlideId | null, stamp: number = performance.now()): void {
    selectedAt = stamp
    selected.value = id
  }

  /** Slides that came in by themselves can be taken out again like those that were made here. */
  function noteInserted(ids: readonly SlideId[]): void {
    const wanted = new Set(ids)
    const inserted = slides.value.filter((slide) => wanted.has(slide.id))
    const [first] = inserted
    if (first === undefined) return
    const edit: DeckEdit = { kind: 'insert', at: slides.value.indexOf(first), slides: inserted }
    undoStack.value = [...undoStack.value, { kind: 'deck', edit, inverse: { kind: 'remove', slides: inserted.map((slide) => slide.id) } }]
    redoStack.value = []
  }

  const rehearsed = computed<ReadonlyMap<SlideId, Rehearsed>>(() => rehearsedTimes(talk.value?.rehearsals ?? []))

  async function loadTalk(id: string): Promise<void> {
    const view = await api.get<TalkView>(`/talks/${id}`)
    if (opened !== id) return
    const reading = new Set((talk.value?.imports ?? []).filter((one) => one.state !== 'done').map((one) => one.id))
    // What waits to be saved is laid over what came.
    talk.value = { ...view, ...waiting.value.reduce(safely, { shape: view.shape, slides: view.slides }) }
    for (const one of view.imports) if (one.state === 'done' && reading.has(one.id)) noteInserted(one.slides)
  }

  function safely(deck: { shape: TalkView['shape']; slides: readonly Slide[] }, edit: DeckEdit): typeof deck {
    try {
      return applyDeckEdit(deck, edit)
    } catch {
      return deck
    }
  }

  async function loadFilm(id: string): Promise<void> {
    const view = await api.get<FilmView>(`/talks/${id}/film`)
    // Asked for before a change was made here, it may come after it.
    if (opened === id && view.programme.revision >= programme.value.revision) film.value = view
  }

  async function loadLedger(id: string): Promise<void> {
    const view = await api.get<DeliveryView[]>(`/talks/${id}/deliveries`)
    if (opened === id) ledger.value = view
  }

  function hear(id: string): void {
    unsubscribe = hearTalks(
      (told) => {
        if (told.talk !== id) return
        if (told.kind === 'delivery') void again.ledger().catch(report)
        else if (told.kind === 'estimate') looked.value += 1
        else if (told.kind === 'programme') {
          // What was changed here has been asked for already.
          if (told.id !== String(film.value?.programme.revision)) void again.film().catch(report)
        } else if (sending === null && waiting.value.length === 0) void again.talk().catch(report)
        else reloadPending = true
      },
      () => {
        void refresh().catch(report)
      },
    )
  }

  function report(error: unknown): void {
    trouble.value = sentenceOf(error)
  }

  /** Opens a talk; the one that was open is let go. */
  async function open(id: string): Promise<void> {
    if (talk.value?.id === id) return
    close()
    opened = id
    again = { talk: oneAtATime(() => loadTalk(id)), film: oneAtATime(() => loadFilm(id)), ledger: oneAtATime(() => loadLedger(id)) }
    // Before it is asked for: nothing that happens meanwhile is missed.
    hear(id)
    try {
      await refresh()
      saved.value = new Date(talk.value?.changed ?? Date.now())
    } catch (error) {
      missing.value = error instanceof Refusal && error.code === 'not-found'
      report(error)
    }
  }

  function close(): void {
    unsubscribe?.()
    unsubscribe = null
    opened = null
    reloadPending = false
    talk.value = null
    film.value = null
    ledger.value = []
    selected.value = null
    missing.value = false
    trouble.value = null
    waiting.value = []
    undoStack.value = []
    redoStack.value = []
  }

  function applyLocally(edit: DeckEdit): void {
    if (talk.value === null) return
    const { shape, slides: after } = applyDeckEdit({ shape: talk.value.shape, slides: talk.value.slides }, edit)
    talk.value = { ...talk.value, shape, slides: after }
    const joined = sending === null ? merged(waiting.value.at(-1), edit) : null
    waiting.value = joined === null ? [...waiting.value, edit] : [...waiting.value.slice(0, -1), joined]
    clearTimeout(timer)
    timer = setTimeout(() => {
      void save()
    }, PATIENCE)
  }

  /** Changes the deck here and now; it is saved within a second. What cannot be done is said, and nothing changes. */
  function edit(change: DeckEdit): void {
    if (talk.value === null) return
    const deck = { shape: talk.value.shape, slides: talk.value.slides }
    try {
      applyLocally(change)
    } catch (error) {
      report(error)
      return
    }
    const inverse = invertDeckEdit(deck, change)
    const last = undoStack.value.at(-1)
    const joined = last?.kind === 'deck' ? merged(last.edit, change) : null
    undoStack.value =
      joined !== null && last?.kind === 'deck'
        ? [...undoStack.value.slice(0, -1), { kind: 'deck', edit: joined, inverse: last.inverse }]
        : [...undoStack.value, { kind: 'deck', edit: change, inverse }]
    redoStack.value = []
  }

  function undo(): void {
    const last = undoStack.value.at(-1)
    if (last === undefined) return
    undoStack.value = undoStack.value.slice(0, -1)
    redoStack.value = [...redoStack.value, last]
    if (last.kind === 'deck') applyLocally(last.inverse)
    else void send(last.before)
  }

  function redo(): void {
    const last = redoStack.value.at(-1)
    if (last === undefined) return
    redoStack.value = redoStack.value.slice(0, -1)
    undoStack.value = [...undoStack.value, last]
    if (last.kind === 'deck') applyLocally(last.edit)
    else void send(last.fields)
  }

  async function sendAll(): Promise<void> {
    while (waiting.value.length > 0 && talk.value !== null) {
      const [next] = waiting.value
      if (next === undefined) return
      const answer = await api.post<{ revision: number; shape: Size; slides: readonly Slide[] }>(`/talks/${talk.value.id}/deck`, {
        revision: talk.value.revision,
        edit: toWire(next),
      })
      waiting.value = waiting.value.slice(1)
      talk.value = {
        ...talk.value,
        revision: answer.revision,
        ...waiting.value.reduce(safely, { shape: answer.shape, slides: answer.slides }),
      }
      saved.value = new Date()
      trouble.value = null
    }
  }

  /** Saves what waits. What the server refuses is taken back and said; what it cannot be asked now is tried again. */
  async function save(): Promise<void> {
    if (sending !== null) return await sending
    sending = sendAll()
    try {
      await sending
    } catch (error) {
      report(error)
      const refused = error instanceof Refusal && error.code !== 'unavailable'
      if (refused && talk.value !== null) {
        waiting.value = waiting.value.slice(1)
        await again.talk().catch(report)
      }
      if (waiting.value.length > 0)
        timer = setTimeout(() => {
          void save()
        }, AGAIN)
    } finally {
      sending = null
    }
    if (reloadPending && waiting.value.length === 0) {
      reloadPending = false
      await again.talk().catch(report)
    }
  }

  async function send(fields: TalkFields): Promise<void> {
    if (talk.value === null) return
    try {
      const view = await api.patch<TalkView>(`/talks/${talk.value.id}`, fields)
      talk.value = { ...talk.value, name: view.name, limit: view.limit, language: view.language, recipe: view.recipe }
      saved.value = new Date()
    } catch (error) {
      report(error)
    }
  }

  /** Changes the talk's own fields; can be taken back like a change of its deck. */
  async function change(fields: TalkFields): Promise<void> {
    if (talk.value === null) return
    const { name, limit, language } = talk.value
    const before = Object.fromEntries(Object.entries({ name, limit, language }).filter(([key]) => key in fields)) as TalkFields
    undoStack.value = [...undoStack.value, { kind: 'talk', fields, before }]
    redoStack.value = []
    await send(fields)
  }

  /** Asks for the film anew, as after a change of its programme that was refused. */
  const refreshFilm = (): Promise<void> => again.film()

  /** Shows a programme that a change of it answered; the film is asked for anew where that holds what was never seen here. */
  async function adopt(id: string, changed: Programme): Promise<void> {
    if (opened !== id || film.value === null || changed.revision <= programme.value.revision) return
    const next = withProgramme(film.value, changed)
    if (next === null) await again.film()
    else film.value = next
  }

  async function refresh(): Promise<void> {
    await Promise.all([again.talk(), again.film(), again.ledger()])
  }

  return {
    talk,
    film,
    ledger,
    looked,
    selected: readonly(selected),
    select,
    selectedAt: (): number => selectedAt,
    missing,
    trouble,
    saved,
    waiting,
    undoStack,
    redoStack,
    slides,
    slide,
    speaker,
    programme,
    index,
    visits,
    recorded,
    rehearsed,
    open,
    close,
    edit,
    undo,
    redo,
    save,
    change,
    noteInserted,
    refresh,
    refreshFilm,
    adopt,
    report,
  }
})
