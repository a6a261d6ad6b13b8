import { defineStore } from 'pinia'
import {
  NOTHING_DONE,
  NOTHING_WAITS,
  applyDeckEdit,
  doneAgain,
  enqueued,
  firstHeldUp,
  firstSettled,
  invertDeckEdit,
  noted,
  sendingFirst,
  takenBack,
  withWaiting,
} from '@core/deck'
import type { DeckEdit, EditQueue, TalkFields } from '@core/deck'
import { EMPTY_PROGRAMME, Refusal } from '@core/model'
import type { Ms, Programme, Size, Slide, SlideId } from '@core/model'
import { ANYBODY, rehearsedTimes } from '@core/pace'
import type { Rehearsed, Speaker } from '@core/pace'
import { indexFilm } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { changedVisitsOf, recordedBySlide, visitsOf } from '@core/programme'
import { toFilm, toWire, withProgramme } from '@contracts'
import type { DeliveryView, FilmView, TalkView } from '@contracts'
import { api, oneAtATime, sentenceOf, wasBegunHere, watchTalk } from '~/client'

/** How long changes of words wait for more, in ms. */
const PATIENCE = 500
/** Wait before what could not be saved is tried again, in ms. */
const AGAIN = 2000

/** The open talk: deck, film and files as the server has them, with what was changed here ahead of it. */
export const useTalk = defineStore('talk', () => {
  const talk = shallowRef<TalkView | null>(null)
  const film = shallowRef<FilmView | null>(null)
  const ledger = shallowRef<readonly DeliveryView[]>([])
  const selected = ref<SlideId | null>(null)
  /** When it was selected, on the page's clock. */
  let selectedAt = 0
  /** Grows when more is known of what a file would cost. */
  const estimateVersion = ref(0)
  /** Grows when its share was changed, or something was asked on its page. */
  const asked = ref(0)
  /** Grows when more is known of what is said in it. */
  const wordsVersion = ref(0)
  /** Grows when more of a file was sent to somebody. */
  const sendingsVersion = ref(0)
  /** Grows when something of it was handed in for its call, or something was said of that. */
  const entriesVersion = ref(0)
  /** Grows when more of what is made of it to be taken along is there. */
  const exportsVersion = ref(0)
  /** Grows when more of its cameras' other backdrops is there. */
  const backdropsVersion = ref(0)
  const missing = ref(false)
  const trouble = ref<string | null>(null)
  const saved = ref<Date | null>(null)
  const queue = shallowRef(NOTHING_WAITS)
  const history = shallowRef(NOTHING_DONE)
  let sending: Promise<void> | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let unsubscribe: (() => void) | null = null
  /** Something of the talk was told while changes were on their way, and has not been asked for yet. */
  let reloadPending = false
  /** Which talk is open, or about to be. */
  let opened: string | null = null
  /** Grows whenever a talk is shown: one that is shown again is not to be closed by what waited before. */
  let openings = 0
  /** What was not saved yet of talks that were closed, to be laid over them when they are opened again. */
  const unsaved = new Map<string, EditQueue>()
  /** What is asked for again of the open talk. */
  let again = {
    talk: (): Promise<void> => Promise.resolve(),
    film: (): Promise<void> => Promise.resolve(),
    ledger: (): Promise<void> => Promise.resolve(),
  }

  /** Who speaks, for planning. */
  const speaker = computed<Speaker>(() => ({ wordsPerMinute: talk.value?.rate ?? ANYBODY.wordsPerMinute }))
  const slides = computed<readonly Slide[]>(() => talk.value?.slides ?? [])
  const slide = computed<Slide | null>(() => slides.value.find((one) => one.id === selected.value) ?? slides.value[0] ?? null)
  const programme = computed(() => film.value?.programme ?? EMPTY_PROGRAMME)
  const index = computed<FilmIndex | null>(() =>
    film.value === null || film.value.programme.pieces.length === 0 ? null : indexFilm(toFilm(film.value)),
  )
  const visits = computed(() => visitsOf(programme.value))
  /** Visits whose slide was changed since they were recorded, and at which nobody has looked. */
  const changedVisits = computed(() => changedVisitsOf(programme.value))
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
    history.value = noted(history.value, { kind: 'deck', edit, inverse: { kind: 'remove', slides: inserted.map((slide) => slide.id) } })
  }

  const rehearsed = computed<ReadonlyMap<SlideId, Rehearsed>>(() => rehearsedTimes(talk.value?.rehearsals ?? []))

  async function loadTalk(id: string): Promise<void> {
    const view = await api.get<TalkView>(`/talks/${id}`)
    if (opened !== id) return
    const reading = new Set((talk.value?.imports ?? []).filter((one) => one.state !== 'done').map((one) => one.id))
    // What waits to be saved is laid over what came.
    talk.value = { ...view, ...withWaiting({ shape: view.shape, slides: view.slides }, queue.value) }
    for (const one of view.imports) {
      // A short deck may have been read before the page first asked for it.
      if (one.state === 'done' && (wasBegunHere(one.id) || reading.has(one.id))) noteInserted(one.slides)
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
    unsubscribe = watchTalk(id, {
      ledger: () => void again.ledger().catch(report),
      estimate: () => {
        estimateVersion.value += 1
      },
      share: () => {
        asked.value += 1
      },
      words: () => {
        wordsVersion.value += 1
      },
      sending: () => {
        sendingsVersion.value += 1
      },
      entry: () => {
        entriesVersion.value += 1
      },
      export: () => {
        exportsVersion.value += 1
      },
      backdrop: () => {
        backdropsVersion.value += 1
      },
      programme: (revision) => {
        // What was changed here has been answered already.
        if (revision !== String(film.value?.programme.revision)) void again.film().catch(report)
      },
      talk: () => {
        if (sending === null && queue.value.waiting.length === 0) void again.talk().catch(report)
        else reloadPending = true
      },
      missed: () => void refresh().catch(report),
    })
  }

  function report(error: unknown): void {
    trouble.value = sentenceOf(error)
  }

  /** Opens a talk; the one that was open is let go. */
  async function open(id: string): Promise<void> {
    openings += 1
    if (talk.value?.id === id) return
    close()
    opened = id
    queue.value = unsaved.get(id) ?? NOTHING_WAITS
    unsaved.delete(id)
    again = { talk: oneAtATime(() => loadTalk(id)), film: oneAtATime(() => loadFilm(id)), ledger: oneAtATime(() => loadLedger(id)) }
    // Before it is asked for: nothing that happens meanwhile is missed.
    hear(id)
    try {
      await refresh()
      saved.value = new Date(talk.value?.changed ?? Date.now())
      if (queue.value.waiting.length > 0) void save()
    } catch (error) {
      missing.value = error instanceof Refusal && error.code === 'not-found'
      report(error)
    }
  }

  function close(): void {
    if (opened !== null && queue.value.waiting.length > 0) unsaved.set(opened, queue.value)
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
    queue.value = NOTHING_WAITS
    history.value = NOTHING_DONE
  }

  /** Leaves the talk once what was changed is saved; what cannot be saved now keeps it open, and is tried again. */
  async function leave(): Promise<void> {
    const opening = openings
    if (queue.value.waiting.length > 0) await save()
    if (openings === opening && queue.value.waiting.length === 0) close()
  }

  function applyLocally(edit: DeckEdit): void {
    if (talk.value === null) return
    const { shape, slides: after } = applyDeckEdit({ shape: talk.value.shape, slides: talk.value.slides }, edit)
    talk.value = { ...talk.value, shape, slides: after }
    queue.value = enqueued(queue.value, edit)
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
    history.value = noted(history.value, { kind: 'deck', edit: change, inverse })
  }

  function undo(): void {
    const last = takenBack(history.value)
    if (last === null) return
    history.value = last.history
    if (last.done.kind === 'deck') applyLocally(last.done.inverse)
    else void send(last.done.before)
  }

  function redo(): void {
    const last = doneAgain(history.value)
    if (last === null) return
    history.value = last.history
    if (last.done.kind === 'deck') applyLocally(last.done.edit)
    else void send(last.done.fields)
  }

  /** Changes what waits of a talk, whether it is still open or not. */
  function updateQueue(id: string, update: (queue: EditQueue) => EditQueue): void {
    if (opened === id) {
      queue.value = update(queue.value)
      return
    }
    const left = update(unsaved.get(id) ?? NOTHING_WAITS)
    if (left.waiting.length > 0) unsaved.set(id, left)
    else unsaved.delete(id)
  }

  /** Sends one change of the open talk. What the server refuses is taken back and said. @returns whether the next can be sent */
  async function sendOne({ id, revision }: TalkView, next: DeckEdit): Promise<boolean> {
    queue.value = sendingFirst(queue.value)
    try {
      const answer = await api.post<{ revision: number; shape: Size; slides: readonly Slide[] }>(`/talks/${id}/deck`, {
        revision,
        edit: toWire(next),
      })
      updateQueue(id, firstSettled)
      if (opened !== id || talk.value === null) return true
      const deck = { shape: answer.shape, slides: answer.slides }
      talk.value = { ...talk.value, revision: answer.revision, ...withWaiting(deck, queue.value) }
      saved.value = new Date()
      trouble.value = null
      return true
    } catch (error) {
      report(error)
      const refused = error instanceof Refusal && error.code !== 'unavailable'
      updateQueue(id, refused ? firstSettled : firstHeldUp)
      if (refused && opened === id) await again.talk().catch(report)
      return false
    }
  }

  async function sendAll(): Promise<void> {
    for (let [next] = queue.value.waiting; next !== undefined && talk.value !== null; [next] = queue.value.waiting) {
      if (!(await sendOne(talk.value, next))) break
    }
  }

  /** Saves what waits; what the server cannot be asked now is tried again. */
  async function save(): Promise<void> {
    if (sending !== null) return await sending
    sending = sendAll()
    try {
      await sending
    } finally {
      sending = null
    }
    if (queue.value.waiting.length > 0) {
      timer = setTimeout(() => {
        void save()
      }, AGAIN)
    } else if (reloadPending) {
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
    history.value = noted(history.value, { kind: 'talk', fields, before })
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

  /** Asks for deck, fields and recipe anew. @returns settles when an answer that was asked for after the call is there */
  const refreshTalk = (): Promise<void> => again.talk()

  async function refresh(): Promise<void> {
    await Promise.all([again.talk(), again.film(), again.ledger()])
  }

  return {
    talk,
    film,
    ledger,
    estimateVersion,
    wordsVersion,
    sendingsVersion,
    entriesVersion,
    exportsVersion,
    backdropsVersion,
    /** Whether who has it has no account: what goes beyond the talk itself is not theirs. */
    isGuests: computed(() => talk.value?.call?.guest === true),
    asked: readonly(asked),
    selected: readonly(selected),
    select,
    selectedAt: (): number => selectedAt,
    missing,
    trouble,
    saved,
    waiting: computed(() => queue.value.waiting),
    undoStack: computed(() => history.value.undo),
    redoStack: computed(() => history.value.redo),
    slides,
    slide,
    speaker,
    programme,
    index,
    visits,
    changedVisits,
    recorded,
    rehearsed,
    open,
    leave,
    edit,
    undo,
    redo,
    save,
    change,
    noteInserted,
    refresh,
    refreshTalk,
    refreshFilm,
    adopt,
    report,
  }
})
