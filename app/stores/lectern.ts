import { defineStore } from 'pinia'
import type { Cue, Intent, Ms, SlideId, Snapshot, Stroke, TakeKind } from '@core/model'
import type { RunThrough } from '@core/pace'
import { sceneAt } from '@core/scene'
import { DEAF, listened } from '@core/voice'
import { TakeRecorder, watchSleep } from '~/capture'
import type { HeardPart, Source } from '~/capture'
import { api, sentenceOf } from '~/client'
import { beforeTake } from '~/lectern/before-take'
import { countDown } from '~/lectern/count-down'
import { deckPlace, slidesToShow } from '~/lectern/deck-place'
import type { Stand } from '~/lectern/deck-place'
import { inkLayer } from '~/lectern/ink-layer'
import { leadingIn } from '~/lectern/lead-in'
import { interruptions } from '~/lectern/interruptions'
import { RunClock } from '~/lectern/run-clock'
import { slideClock } from '~/lectern/slide-clock'
import { takeSafety } from '~/lectern/take-safety'
import { useDevices } from './devices'
import { useHabits } from './habits'
import { useTalk } from './talk'

export type Phase = 'idle' | 'countdown' | 'recording' | 'paused' | 'stopping' | 'after' | 'rehearsing' | 'rehearsed'
/** What is recorded: everything; timings and ink without a voice; a voice over what is there. */
export type Manner = 'full' | 'silent' | 'dub'

/** A take or run-through under way, and all that is on screen with it. */
export const useLectern = defineStore('lectern', () => {
  const talk = useTalk()
  const devices = useDevices()
  const habits = useHabits()

  const phase = ref<Phase>('idle')
  const manner = ref<Manner>('full')
  const intent = shallowRef<Intent>({ kind: 'replaceAll' })
  const blank = ref(false)
  const inset = ref(true)
  const preview = ref(true)
  const muted = ref(false)
  /** Places that were marked to be mended, in this take. */
  const stumbles = ref(0)
  const trouble = ref<string | null>(null)
  /** The run-through that was just ended. */
  const lastRun = shallowRef<RunThrough | null>(null)
  const lastTake = shallowRef<{ readonly id: string; readonly length: Ms } | null>(null)
  /** Has whoever draws end the stroke under way before the stretch closes. */
  const endStroke = shallowRef<(() => void) | null>(null)

  const take = shallowRef<TakeRecorder | null>(null)
  let run: RunClock | null = null
  let closing: Promise<void> | null = null
  let ticking: ReturnType<typeof setInterval> | undefined
  let deaf: (() => void) | null = null
  let awake: (() => void) | null = null
  const counting = countDown()
  const leading = leadingIn()
  const safety = takeSafety()

  /** A slide that is left out of the talk by now and is said again all the same. */
  const admitted = ref<SlideId | null>(null)
  const running = computed(() => slidesToShow(talk.slides, admitted.value))
  /** One slide, or a part of it, is said again: the take stays on that slide. */
  const again = (): boolean => intent.value.kind === 'retake' || intent.value.kind === 'range'
  const { slideId, step, slide, place, coming, going } = deckPlace(running, () => again() && take.value !== null)
  const live = computed(() => phase.value === 'recording' || phase.value === 'rehearsing')
  /** A take or run-through has begun and is not over, paused or not. */
  const underWay = (): boolean => live.value || phase.value === 'paused' || (phase.value === 'countdown' && take.value !== null)
  /** A run-through is on, under way or paused. */
  const rehearsing = computed(() => phase.value === 'rehearsing' || (phase.value === 'paused' && take.value === null))
  const dubbing = computed(() => manner.value === 'dub' && ['countdown', 'recording', 'paused'].includes(phase.value))
  /** What stands before this take in the finished talk. */
  const before = computed<Ms>(() => beforeTake(intent.value, talk.programme, talk.visits))
  /** How long this take may still be, in ms; null when nothing ends it. */
  const left = computed<Ms | null>(() => {
    if (phase.value !== 'recording' && phase.value !== 'paused') return null
    if (manner.value === 'dub') return talk.index === null ? null : talk.index.length - clock.spent.value
    const limit = talk.talk?.limit ?? null
    return habits.now.endAtLimit && limit !== null && !again() && take.value !== null ? limit - clock.spent.value : null
  })

  function fail(error: unknown): void {
    const full = error instanceof DOMException && error.name === 'QuotaExceededError'
    trouble.value = full
      ? 'This computer has no room left for the recording, so the take was paused. What was said until now is kept; stop here, ' +
        'free some space and go on.'
      : sentenceOf(error)
    if (full) void pause()
  }

  /** Notes an event of the take. @param stamp when it happened, on the page's clock */
  const cue = (make: (at: Ms) => Cue, stamp: number): void => {
    take.value?.cue(make, stamp)
  }
  const layer = inkLayer(
    cue,
    () => slide.value?.id ?? null,
    () => talk.talk?.shape ?? { width: 16, height: 9 },
  )

  /** Time of this take or run, what stands before it left out. */
  const now = (): Ms => run?.now() ?? take.value?.now() ?? 0

  const clock = slideClock({
    running,
    slide,
    before,
    now,
    on: () => live.value || phase.value === 'paused' || phase.value === 'stopping',
    speaker: () => talk.speaker,
  })

  /** Notes how long the slide was up that is about to go. */
  function endVisit(): void {
    const length = clock.endVisit()
    if (slide.value !== null) run?.left(slide.value.id, length)
  }

  function show(target: Stand | null, stamp: number): void {
    if (target === null || dubbing.value) return
    const turns = target.slide.id !== slide.value?.id
    // Also while it is paused: what was said until then was said on the slide that goes.
    if (turns && underWay()) endVisit()
    slideId.value = target.slide.id
    step.value = target.step
    talk.selected = target.slide.id
    cue((at) => ({ kind: 'show', at, slide: target.slide.id, step: target.step }), stamp)
    if (blank.value) setBlank(false, stamp)
    if (turns) clock.reckon(true)
  }

  /** On, or the end: after the last step of a take that is to end there, or of the slide that is retaken. */
  function forward(stamp: number): void {
    if (coming.value === null && phase.value === 'recording' && (habits.now.endAfterLast || again())) void stop(stamp)
    else show(coming.value, stamp)
  }
  const back = (stamp: number): void => {
    show(going.value, stamp)
  }
  const goTo = (id: SlideId, stamp: number): void => {
    const target = running.value.find((one) => one.id === id)
    if (target !== undefined) show({ slide: target, step: 0 }, stamp)
  }

  /**
   * Brings up a slide that is to be said again, also one that is left out of the talk by now.
   * @returns false when it is not in the deck any more
   */
  function bringUp(id: SlideId, stamp: number): boolean {
    if (!talk.slides.some((one) => one.id === id)) {
      trouble.value =
        'The slide that was said there is not in the deck any more. Bring it back in Prepare, or take another recording of it in Review.'
      return false
    }
    admitted.value = id
    goTo(id, stamp)
    return true
  }

  function setBlank(on: boolean, stamp: number): void {
    blank.value = on
    cue((at) => ({ kind: 'blank', at, on }), stamp)
  }

  function setInset(on: boolean, stamp: number): void {
    inset.value = on
    cue((at) => ({ kind: 'inset', at, on }), stamp)
  }

  /** While muted the voice is not stored; the stretch has silence there. */
  function setMuted(on: boolean, stamp: number): void {
    muted.value = on
    devices.setMuted(on)
    cue((at) => ({ kind: 'mute', at, on }), stamp)
  }

  /** Stops the camera itself or starts it again; a take goes on without a gap. */
  async function setCamera(on: boolean): Promise<void> {
    try {
      await devices.setCamera(on)
      if (phase.value === 'recording' && manner.value !== 'silent') await openStretch()
    } catch (error) {
      fail(error)
    }
  }

  /** Marks a place to be mended later. */
  function stumble(stamp: number): void {
    if (phase.value !== 'recording') return
    stumbles.value += 1
    cue((at) => ({ kind: 'stumble', at }), stamp)
  }

  /** While a voice is recorded over it, the programme says which slide is up. */
  function followFilm(): void {
    const scene = talk.index === null ? null : sceneAt(talk.index, before.value + now())
    if (scene === null) return
    if (scene.slide !== slide.value?.id && live.value) endVisit()
    slideId.value = scene.slide
    step.value = scene.step
  }

  function tick(): void {
    if (dubbing.value) followFilm()
    clock.reckon(false)
    if (phase.value !== 'recording' || left.value === null || left.value > 0) return
    // What came after the end is not part of it, to the millisecond.
    void stop(take.value?.stampAt(clock.spent.value + left.value - before.value))
  }
  function startTicking(): void {
    clearInterval(ticking)
    let beats = 0
    ticking = setInterval(() => {
      tick()
      beats += 1
      if (beats % 50 === 1) void safety.lookForRoom(take.value?.perSecond ?? null)
    }, 100)
  }

  /** Runs through the talk: everything as when recording, but nothing is kept but the timings. */
  function rehearse(): void {
    if (phase.value !== 'idle' && phase.value !== 'after' && phase.value !== 'rehearsed') return
    const [first] = running.value
    if (first === undefined) return
    rest()
    manner.value = 'full'
    goTo(first.id, performance.now())
    blank.value = false
    const begun = new RunClock()
    run = begun
    phase.value = 'rehearsing'
    let hearing = DEAF
    let heardAt = performance.now()
    deaf = devices.listen((block) => {
      hearing = listened(hearing, block.rms, block.at)
      begun.hear(block.at - heardAt, hearing.speaking)
      heardAt = block.at
    })
    clock.set()
    startTicking()
  }

  async function endRehearsal(): Promise<void> {
    if (phase.value === 'rehearsing') run?.pause()
    endVisit()
    deaf?.()
    clearInterval(ticking)
    const ended = run
    run = null
    phase.value = 'rehearsed'
    lastRun.value = ended?.run ?? null
    if (ended === null || ended.run.visits.length === 0 || talk.talk === null) return
    try {
      await api.put(`/talks/${talk.talk.id}/rehearsals/${ended.id}`, { started: ended.started, ...ended.run })
      await talk.refresh()
    } catch (error) {
      fail(error)
    }
  }

  const source = (): Source =>
    manner.value === 'silent'
      ? { stream: null, camera: false, late: devices.late }
      : { stream: devices.stream, camera: devices.cameraOn, late: devices.late }
  const onScreen = (id: SlideId): Snapshot => ({
    slide: id,
    step: step.value,
    blank: blank.value,
    inset: inset.value,
    ink: layer.ink.value,
  })

  async function openStretch(): Promise<void> {
    const current = slide.value
    if (take.value === null || current === null) return
    devices.endFit()
    if (manner.value !== 'silent' && !devices.alive()) await devices.open()
    await take.value.open(source(), () => onScreen(current.id))
    phase.value = 'recording'
    // A stretch says for itself that its voice is missing from the first.
    if (muted.value) cue((at) => ({ kind: 'mute', at, on: true }), performance.now())
  }

  function finished(): void {
    clearInterval(ticking)
    awake?.()
    take.value = null
    if (phase.value === 'stopping') phase.value = 'after'
  }

  const interrupted = interruptions({
    recording: () => phase.value === 'recording',
    pause,
    renew: () => openStretch().catch(fail),
    cameraOff: () => setCamera(false),
    say: (sentence) => {
      trouble.value = sentence
    },
  })

  /** @param ink that lies on the slides already */
  async function begin(kind: TakeKind, ink: readonly Stroke[]): Promise<void> {
    layer.ink.value = ink
    blank.value = false
    stumbles.value = 0
    lastTake.value = null
    trouble.value = null
    devices.lost = (what) => {
      void (what === 'mic' ? interrupted.micLost() : interrupted.cameraLost())
    }
    take.value = await TakeRecorder.begin(talk.talk?.id ?? '', kind, intent.value, {
      onTrouble: fail,
      onFinished: finished,
      onUnsent: (is, to, waiting) => {
        safety.note(is, before.value + to, waiting)
      },
      onRate: () => {
        void interrupted.newRate()
      },
      onLost: () => {
        void interrupted.micLost()
      },
    })
    awake = watchSleep((last, asleep) => {
      void interrupted.slept(last, asleep)
    })
    await openStretch()
    clock.set()
    startTicking()
  }

  /**
   * Counts down, then records from the slide that is up.
   * @param meant what becomes of the programme
   * @param how a dub shows the programme from where it begins, and is over when that is
   */
  function record(meant: Intent, how: Manner = 'full'): void {
    if (phase.value !== 'idle' && phase.value !== 'after' && phase.value !== 'rehearsed') return
    if (slide.value === null || (how !== 'silent' && devices.stream === null)) return
    intent.value = meant
    manner.value = how
    if (meant.kind === 'replaceAll' || meant.kind === 'append') admitted.value = null
    // A part that is said again begins with what is on screen there.
    const there = meant.kind === 'range' && talk.index !== null ? sceneAt(talk.index, before.value) : null
    step.value = there?.step ?? 0
    phase.value = 'countdown'
    if (how === 'dub') followFilm()
    const go = (): void => {
      begin(how === 'dub' ? 'dub' : again() ? 'retake' : 'full', there?.ink.map(({ stroke }) => stroke) ?? []).catch((error: unknown) => {
        phase.value = 'idle'
        fail(error)
      })
    }
    if (meant.kind !== 'range' || !leading.start(before.value, go)) counting.start(habits.now.countdown, go)
  }

  function cancelCountdown(): void {
    if (phase.value !== 'countdown') return
    counting.stop()
    leading.stop()
    phase.value = take.value === null ? 'idle' : 'paused'
  }

  /** @param stamp when it was paused, on the page's clock; now when left out */
  async function pause(stamp?: number): Promise<void> {
    if (phase.value === 'rehearsing') {
      run?.pause()
      phase.value = 'paused'
      return
    }
    if (phase.value !== 'recording') return
    endStroke.value?.()
    phase.value = 'paused'
    closing = take.value?.close(stamp) ?? null
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
    if (phase.value !== 'paused' || take.value === null || take.value.running) return
    await openStretch().catch(fail)
  }

  /** Goes back to a time of the paused take, whose rest will be said again, and counts down to it. @param at time of the take */
  async function goOnFrom(at: Ms): Promise<void> {
    await closing
    if (phase.value !== 'paused' || take.value === null) return
    try {
      const there = await take.value.backTo(at)
      slideId.value = there.slide
      talk.selected = there.slide
      step.value = there.step
      blank.value = there.blank
      inset.value = there.inset
      layer.ink.value = there.ink
      clock.set(take.value.times())
      phase.value = 'countdown'
      counting.start(habits.now.countdown, () => {
        phase.value = 'paused'
        void resume()
      })
    } catch (error) {
      fail(error)
    }
  }

  /** What of the paused take can be heard, how long it is, and when the slide that is up came. */
  async function soFar(): Promise<{ readonly parts: readonly HeardPart[]; readonly length: Ms; readonly slideSince: Ms }> {
    await closing
    return { parts: take.value?.parts() ?? [], length: now(), slideSince: take.value?.times().since ?? 0 }
  }

  /** @param stamp when it ends, on the page's clock; now when left out */
  async function stop(stamp?: number): Promise<void> {
    if (run !== null) {
      await endRehearsal()
      return
    }
    if ((phase.value !== 'recording' && phase.value !== 'paused') || take.value === null) return
    endStroke.value?.()
    phase.value = 'stopping'
    devices.lost = null
    const ending = take.value
    await closing
    await ending.close(stamp)
    clock.reckon(true)
    lastTake.value = { id: ending.id, length: ending.now() }
    muted.value = false
    devices.setMuted(false)
    await ending.stop()
  }

  /** Back to before a take. */
  function rest(): void {
    if (phase.value === 'after' || phase.value === 'rehearsed') phase.value = 'idle'
    lastRun.value = null
    intent.value = { kind: 'replaceAll' }
    admitted.value = null
    manner.value = 'full'
    layer.ink.value = []
    clock.set()
  }

  watch(
    [running, slide, () => talk.speaker],
    () => {
      if (!live.value && phase.value !== 'paused') clock.reckon(true)
    },
    { immediate: true },
  )

  return {
    phase,
    manner,
    intent,
    leadIn: leading.leadIn,
    count: counting.count,
    ...layer,
    step,
    blank,
    inset,
    preview,
    muted,
    stumbles,
    spent: clock.spent,
    onSlide: clock.onSlide,
    landing: computed(() => (dubbing.value ? (talk.index?.length ?? 0) : clock.landing.value)),
    ahead: clock.ahead,
    left,
    unsent: safety.unsent,
    safe: safety.safe,
    roomFor: safety.roomFor,
    trouble,
    lastTake,
    lastRun,
    endStroke,
    running,
    slide,
    place,
    live,
    rehearsing,
    dubbing,
    coming,
    before,
    time: (): Ms => before.value + now(),
    forward,
    back,
    goTo,
    bringUp,
    setBlank,
    setInset,
    setMuted,
    setCamera,
    stumble,
    record,
    rehearse,
    cancelCountdown,
    pause,
    resume,
    goOnFrom,
    soFar,
    stop,
    rest,
  }
})
