import { defineStore } from 'pinia'
import { landing as landingOf } from '@core/pace'
import type { RunThrough } from '@core/pace'
import { Refusal } from '@core/model'
import type { Cue, InkColour, InkWidth, Intent, Ms, PathPoint, Point, Slide, SlideId, Snapshot, Stroke } from '@core/model'
import { touchesStroke } from '@core/ink'
import { StretchRecorder, keepLocally, recordingType, sendTake, takeLock } from '~/capture'
import type { LocalStretch, LocalTake } from '~/capture'
import { api, sentenceOf } from '~/client'
import { useDevices } from './devices'
import { RunClock } from './run-clock'
import { useTalk } from './talk'

export type Phase = 'idle' | 'countdown' | 'recording' | 'paused' | 'stopping' | 'after' | 'rehearsing' | 'rehearsed'
/** `hand` goes on with a click; `spot` follows the hand and leaves nothing. */
export type Tool = 'hand' | 'pen' | 'marker' | 'eraser' | 'spot'

/** How often what is not on the server yet is sent, in ms. */
const SEND_EVERY = 1000
const COUNTDOWN = 3
/** Reach of the eraser, as a fraction of the slide's height. */
const ERASER = 0.018

/** A take under way: what is on screen, what was said to the recorder, and the clocks. */
export const useLectern = defineStore('lectern', () => {
  const talk = useTalk()
  const devices = useDevices()

  const phase = ref<Phase>('idle')
  const count = ref(0)
  const tool = ref<Tool>('hand')
  const colour = ref<InkColour>('brick')
  const width = ref<InkWidth>('fine')
  const slideId = ref<SlideId | null>(null)
  const step = ref(0)
  const blank = ref(false)
  const inset = ref(true)
  const preview = ref(true)
  const muted = ref(false)
  /** Places that were marked to be mended, in this take. */
  const stumbles = ref(0)
  const ink = shallowRef<readonly Stroke[]>([])
  const spent = ref<Ms>(0)
  const onSlide = ref<Ms>(0)
  const unsent = ref(false)
  const trouble = ref<string | null>(null)
  /** The run-through that was just ended. */
  const lastRun = shallowRef<RunThrough | null>(null)
  const lastTake = shallowRef<{ readonly id: string, readonly length: Ms } | null>(null)

  /** Has whoever draws end the stroke under way before the stretch closes. */
  const endStroke = shallowRef<(() => void) | null>(null)

  let take: LocalTake | null = null
  let stretch: LocalStretch | null = null
  let stretches = 0
  let cues = 0
  let before: Ms = 0
  let slideSince: Ms = 0
  let recorder: StretchRecorder | null = null
  let run: RunClock | null = null
  let closing: Promise<void> | null = null
  let release: (() => void) | null = null
  let ticking: ReturnType<typeof setInterval> | undefined
  let sending = false
  let counting: ReturnType<typeof setInterval> | undefined

  const running = computed(() => talk.slides.filter((slide) => !slide.skip))
  const slide = computed<Slide | null>(() => running.value.find((one) => one.id === slideId.value) ?? running.value[0] ?? null)
  const place = computed(() => (slide.value === null ? -1 : running.value.indexOf(slide.value)))
  const live = computed(() => phase.value === 'recording' || phase.value === 'rehearsing')
  /** A run-through is on, under way or paused. */
  const rehearsing = computed(() => phase.value === 'rehearsing' || (phase.value === 'paused' && take === null))
  const landing = computed<Ms>(() => (slide.value === null ? 0 : landingOf(running.value, slide.value.id, spent.value, onSlide.value, talk.speaker)))
  /** What the next press shows: a further step, the next slide, or nothing. */
  const coming = computed<{ readonly slide: Slide, readonly step: number } | null>(() => {
    if (slide.value === null) return null
    if (step.value < slide.value.steps.length - 1) return { slide: slide.value, step: step.value + 1 }
    const next = running.value[place.value + 1]
    return next === undefined ? null : { slide: next, step: 0 }
  })
  const going = computed<{ readonly slide: Slide, readonly step: number } | null>(() => {
    if (slide.value === null) return null
    if (step.value > 0) return { slide: slide.value, step: step.value - 1 }
    const last = running.value[place.value - 1]
    return last === undefined ? null : { slide: last, step: last.steps.length - 1 }
  })
  const shownInk = computed(() => ink.value.filter((stroke) => stroke.slide === slide.value?.id))

  function fail(error: unknown): void {
    trouble.value = error instanceof DOMException && error.name === 'QuotaExceededError'
      ? 'This computer has no room left for the recording. What was said until now is kept; stop here, free some space and go on.'
      : sentenceOf(error)
  }

  /** Notes an event of the take. @param stamp when it happened, on the page's clock */
  function cue(make: (at: Ms) => Cue, stamp: number): void {
    if (phase.value !== 'recording' || stretch === null || recorder === null) return
    const n = cues
    cues += 1
    void keepLocally('cues', { stretch: stretch.id, n, cue: make(recorder.now(stamp)) }).catch(fail)
  }

  function show(target: { readonly slide: Slide, readonly step: number } | null, stamp: number): void {
    if (target === null) return
    if (target.slide.id !== slide.value?.id) {
      endVisit()
      slideSince = now()
      onSlide.value = 0
    }
    slideId.value = target.slide.id
    step.value = target.step
    talk.selected = target.slide.id
    cue((at) => ({ kind: 'show', at, slide: target.slide.id, step: target.step }), stamp)
    if (blank.value) setBlank(false, stamp)
  }

  const forward = (stamp: number): void => { show(coming.value, stamp) }
  const back = (stamp: number): void => { show(going.value, stamp) }
  const goTo = (id: SlideId, stamp: number): void => {
    const target = running.value.find((one) => one.id === id)
    if (target !== undefined) show({ slide: target, step: 0 }, stamp)
  }

  function setBlank(on: boolean, stamp: number): void {
    blank.value = on
    cue((at) => ({ kind: 'blank', at, on }), stamp)
  }

  function setInset(on: boolean, stamp: number): void {
    inset.value = on
    cue((at) => ({ kind: 'inset', at, on }), stamp)
  }

  /** Lays down a finished stroke. @param began when the pen came down, on the page's clock */
  function draw(stroke: Stroke, began: number): void {
    ink.value = [...ink.value, stroke]
    cue((at) => ({ kind: 'ink', at, stroke }), began)
  }

  /** Erases whatever strokes an eraser touches. @param at in fractions of the slide */
  function eraseAt(at: Point, stamp: number): void {
    const shape = talk.talk?.shape ?? { width: 16, height: 9 }
    const touched = shownInk.value.filter((stroke) => touchesStroke(stroke, at, ERASER, shape))
    if (touched.length === 0) return
    ink.value = ink.value.filter((stroke) => !touched.includes(stroke))
    for (const stroke of touched) cue((when) => ({ kind: 'erase', at: when, stroke: stroke.id }), stamp)
  }

  /** Notes where the spot was. @param began when its path begins, on the page's clock */
  function point(path: readonly PathPoint[], began: number): void {
    cue((at) => ({ kind: 'point', at, path }), began)
  }

  /** While muted the voice is not stored; the stretch has silence there. */
  function setMuted(on: boolean, stamp: number): void {
    muted.value = on
    devices.setMuted(on)
    cue((at) => ({ kind: 'mute', at, on }), stamp)
  }

  /** Marks a place to be mended later. */
  function stumble(stamp: number): void {
    if (phase.value !== 'recording') return
    stumbles.value += 1
    cue((at) => ({ kind: 'stumble', at }), stamp)
  }

  function undoStroke(stamp: number): void {
    const last = shownInk.value.at(-1)
    if (last === undefined) return
    ink.value = ink.value.filter((stroke) => stroke !== last)
    cue((at) => ({ kind: 'erase', at, stroke: last.id }), stamp)
  }

  function wipe(stamp: number): void {
    const id = slide.value?.id
    if (id === undefined || shownInk.value.length === 0) return
    ink.value = ink.value.filter((stroke) => stroke.slide !== id)
    cue((at) => ({ kind: 'wipe', at, slide: id }), stamp)
  }

  const now = (): Ms => run?.now() ?? before + (phase.value === 'recording' ? recorder?.now() ?? 0 : 0)

  /** Notes how long the slide was up that is about to go, while rehearsing. */
  function endVisit(): void {
    if (slide.value !== null) run?.left(slide.value.id, now() - slideSince)
  }

  /** Runs through the talk: everything as when recording, but nothing is kept but the timings. */
  function rehearse(): void {
    if (phase.value !== 'idle' && phase.value !== 'after' && phase.value !== 'rehearsed') return
    const [first] = running.value
    if (first === undefined) return
    rest()
    goTo(first.id, performance.now())
    blank.value = false
    run = new RunClock()
    phase.value = 'rehearsing'
    ticking = setInterval(tick, 100)
  }

  async function endRehearsal(): Promise<void> {
    endVisit()
    before = now()
    clearInterval(ticking)
    phase.value = 'rehearsed'
    const ended = run
    run = null
    lastRun.value = ended?.run ?? null
    if (ended === null || ended.run.visits.length === 0 || talk.talk === null) return
    try {
      await api.put(`/talks/${talk.talk.id}/rehearsals/${ended.id}`, { started: ended.started, ...ended.run })
      await talk.refresh()
    } catch (error) {
      fail(error)
    }
  }

  function tick(): void {
    spent.value = now()
    onSlide.value = Math.max(0, now() - slideSince)
  }

  async function pump(): Promise<void> {
    if (sending || take === null) return
    sending = true
    try {
      const finished = await sendTake(take)
      unsent.value = false
      if (finished) letGo()
    } catch (error) {
      // Nothing is lost: it is kept here and sent as soon as the server answers.
      unsent.value = true
      if (error instanceof Refusal && error.code !== 'unavailable' && error.code !== 'conflict') fail(error)
    } finally {
      sending = false
    }
  }

  /** Keeps other pages from taking this take for a broken one, and the clocks going. */
  function hold(id: string): void {
    void navigator.locks.request(takeLock(id), () => new Promise<void>((resolve) => { release = resolve }))
    let beats = 0
    ticking = setInterval(() => {
      tick()
      beats += 1
      if (beats % (SEND_EVERY / 100) === 0) void pump()
    }, 100)
  }

  function letGo(): void {
    clearInterval(ticking)
    release?.()
    release = null
    take = null
    if (phase.value === 'stopping') phase.value = 'after'
  }

  async function openStretch(): Promise<void> {
    const { stream } = devices
    const current = slide.value
    if (stream === null || take === null || current === null) return
    const camera = stream.getVideoTracks().length > 0
    const opening: Snapshot = { slide: current.id, step: step.value, blank: blank.value, inset: inset.value, ink: ink.value }
    const fresh: LocalStretch = {
      id: crypto.randomUUID(), take: take.id, number: stretches, camera, mime: recordingType(camera), opening, offsets: null, closing: null,
    }
    stretches += 1
    cues = 0
    await keepLocally('stretches', fresh)
    stretch = fresh
    recorder = new StretchRecorder(stream, camera, {
      onSlice: (n, bytes, digest) => keepLocally('slices', { stretch: fresh.id, n, bytes, digest }),
      onOffsets: (offsets) => {
        if (stretch?.id !== fresh.id) return
        stretch = { ...stretch, offsets }
        void keepLocally('stretches', stretch).catch(fail)
      },
      onEnded: () => {
        if (phase.value === 'recording') void pause().then(() => { fail(new Refusal('unavailable', 'The camera or microphone stopped, so the take was paused. What was said is kept. Choose another device in the room check and go on.')) })
      },
      onTrouble: fail,
    })
    recorder.start()
    phase.value = 'recording'
    // A stretch says for itself that its voice is missing from the first.
    if (muted.value) cue((at) => ({ kind: 'mute', at, on: true }), performance.now())
  }

  async function closeStretch(): Promise<void> {
    if (recorder === null || stretch === null) return
    const ending = recorder
    const { length, slices } = await ending.stop()
    before += length
    stretch = { ...stretch, closing: { slices, cues, length } }
    recorder = null
    await keepLocally('stretches', stretch)
    stretch = null
  }

  async function begin(intent: Intent): Promise<void> {
    take = { id: crypto.randomUUID(), talk: talk.talk?.id ?? '', kind: 'full', intent, stopped: false, began: Date.now() }
    stretches = 0
    before = 0
    slideSince = 0
    ink.value = []
    blank.value = false
    stumbles.value = 0
    lastTake.value = null
    trouble.value = null
    await keepLocally('takes', take)
    hold(take.id)
    await openStretch()
  }

  /** Counts down, then records from the slide that is up. */
  function record(intent: Intent): void {
    if (phase.value !== 'idle' && phase.value !== 'after' && phase.value !== 'rehearsed') return
    if (devices.stream === null || slide.value === null) return
    phase.value = 'countdown'
    count.value = COUNTDOWN
    step.value = 0
    counting = setInterval(() => {
      count.value -= 1
      if (count.value > 0) return
      clearInterval(counting)
      begin(intent).catch((error: unknown) => {
        phase.value = 'idle'
        fail(error)
      })
    }, 1000)
  }

  function cancelCountdown(): void {
    if (phase.value !== 'countdown') return
    clearInterval(counting)
    phase.value = 'idle'
  }

  async function pause(): Promise<void> {
    if (phase.value === 'rehearsing') {
      run?.pause()
      phase.value = 'paused'
      return
    }
    if (phase.value !== 'recording') return
    endStroke.value?.()
    phase.value = 'paused'
    closing = closeStretch()
    await closing
    tick()
  }

  async function resume(): Promise<void> {
    if (phase.value === 'paused' && run !== null) {
      run.goOn()
      phase.value = 'rehearsing'
      return
    }
    // Going on at once waits until what was said before is closed.
    await closing
    if (phase.value !== 'paused' || stretch !== null) return
    await openStretch()
  }

  async function stop(): Promise<void> {
    if (run !== null) {
      await endRehearsal()
      return
    }
    if ((phase.value !== 'recording' && phase.value !== 'paused') || take === null) return
    endStroke.value?.()
    phase.value = 'stopping'
    await closeStretch()
    tick()
    lastTake.value = { id: take.id, length: before }
    muted.value = false
    devices.setMuted(false)
    take = { ...take, stopped: true }
    await keepLocally('takes', take)
    await pump()
  }

  /** Back to before a take. */
  function rest(): void {
    if (phase.value === 'after' || phase.value === 'rehearsed') phase.value = 'idle'
    lastRun.value = null
    spent.value = 0
    onSlide.value = 0
    before = 0
    slideSince = 0
    ink.value = []
  }

  return {
    phase, count, tool, colour, width, step, blank, inset, preview, muted, stumbles, ink, spent, onSlide, unsent, trouble, lastTake, lastRun, endStroke,
    running, slide, place, live, rehearsing, landing, coming, shownInk,
    forward, back, goTo, setBlank, setInset, setMuted, draw, eraseAt, point, stumble, undoStroke, wipe, record, rehearse, cancelCountdown, pause, resume, stop, rest,
  }
})
