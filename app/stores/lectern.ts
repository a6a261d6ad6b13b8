import { defineStore, storeToRefs } from 'pinia'
import { unreachable } from '@core/model'
import type { Intent, Ms, Slide, SlideId } from '@core/model'
import type { RunThrough } from '@core/pace'
import { sceneAt } from '@core/scene'
import { canBegin, endsWithStep, isRetake } from '@core/session'
import type { RecordingEffect, RecordingMode, RecordingPlan } from '@core/session'
import type { HeardPart } from '~/capture'
import { sentenceOf } from '~/client'
import { beforeTake } from '~/lectern/before-take'
import { countDown } from '~/lectern/count-down'
import { deckPosition, slidesToShow } from '~/lectern/deck-position'
import { deckTurns } from '~/lectern/deck-turns'
import { FULL_DISK, isFullDisk } from '~/lectern/full-disk'
import { inkLayer } from '~/lectern/ink-layer'
import { interruptionWords } from '~/lectern/interruption-words'
import { isWorthPlaying, leadingIn } from '~/lectern/lead-in'
import { lecternScreen } from '~/lectern/lectern-screen'
import { phaseOf } from '~/lectern/phase'
import { presentedSlide } from '~/lectern/presented-slide'
import { presenterSwitches } from '~/lectern/presenter-switches'
import { recordingRunner } from '~/lectern/recording-runner'
import { runThrough } from '~/lectern/run-through'
import { slideClock } from '~/lectern/slide-clock'
import { takeDriver } from '~/lectern/take-driver'
import { takeLimit } from '~/lectern/take-limit'
import { takeOpening } from '~/lectern/take-opening'
import { takeSafety } from '~/lectern/take-safety'
import { takeSource } from '~/lectern/take-source'
import { takeTicking } from '~/lectern/take-ticking'
import { makeWindowSlide } from '~/lectern/window-slide'
import { windowView } from '~/lectern/window-view'
import { useDevices } from './devices'
import { useOpenWindow } from './open-window'
import { usePreferences } from './preferences'
import { useTalk } from './talk'

const NOT_IN_DECK =
  'The slide that was said there is not in the deck any more. Bring it back in Prepare, or take another recording of it in Review.'

const WHOLE_TALK: RecordingPlan = { intent: { kind: 'replaceAll' }, mode: 'full' }

/** A take or run-through under way, and all that is on screen with it. */
export const useLectern = defineStore('lectern', () => {
  const talk = useTalk()
  const devices = useDevices()
  const preferences = usePreferences()

  /** What the take under way, or the last one, is for. */
  const plan = shallowRef<RecordingPlan>(WHOLE_TALK)
  const preview = ref(true)
  const trouble = ref<string | null>(null)
  /** The run-through that was just ended. */
  const lastRun = shallowRef<RunThrough | null>(null)
  const lastTake = shallowRef<{ readonly id: string; readonly length: Ms } | null>(null)
  /** Has whoever draws end the stroke under way before the stretch closes. */
  const endStroke = shallowRef<(() => void) | null>(null)

  const counting = countDown()
  const leading = leadingIn()
  const safety = takeSafety(() => take.value?.perSecond ?? null)
  const run = runThrough()

  const { screen, note, put } = lecternScreen((make, stamp) => driver.take.value?.cue(make, stamp))
  const { state, happen, send, settled } = recordingRunner({ carryOut, begun: () => driver.take.value?.begun === true, fail })
  const phase = computed(() => phaseOf(state.value))

  const running = computed<readonly Slide[]>(() => slidesToShow(talk.slides, turns.admitted.value))
  const position = deckPosition(running, screen, () => isRetake(plan.value) && driver.take.value !== null)
  const { slide, nextPosition, previousPosition } = position
  const clips = presentedSlide({ note, put, screen, slide })
  const opening = takeOpening(put, clips)
  const source = takeSource({ devices, happen, fail })
  const driver = takeDriver({
    talk: () => talk.talk?.id ?? '',
    plan,
    slide,
    screen,
    note,
    openingOf: clips.opening,
    openSource: source.open,
    send,
    fail,
    unsent: (is, to, waiting) => {
      safety.note(is, before.value + to, waiting)
    },
  })
  const { take } = driver
  const windows = windowView({
    ...storeToRefs(useOpenWindow()),
    take,
    fail,
    slide,
    step: position.step,
    next: nextPosition,
    show: (target, stamp) => {
      turns.show(target, stamp)
    },
    makeSlide: (up, name) => makeWindowSlide(talk, up, name),
  })
  const turns = deckTurns({
    note,
    slide,
    running,
    deck: () => talk.slides,
    previous: previousPosition,
    following: windows.following,
    held: () => dubbing.value,
    // Also while it is paused: what was said until then was said on the slide that goes.
    leaves: () => {
      if (underWay()) endVisit()
    },
    came: (id, turned, stamp) => {
      talk.select(id)
      if (screen.value.blank) switches.setBlank(false, stamp)
      clips.arrived(stamp)
      windows.arrived(id, stamp)
      if (turned) clock.reckon(true)
    },
  })
  const live = computed(() => phase.value === 'recording' || phase.value === 'rehearsing')
  /** A take or run-through has begun and is not over, paused or not. */
  const underWay = (): boolean => live.value || phase.value === 'paused' || (phase.value === 'countdown' && take.value !== null)
  /** A run-through is on, under way or paused. */
  const rehearsing = computed(() => state.value.phase === 'rehearsing')
  const dubbing = computed(() => plan.value.mode === 'dub' && ['countdown', 'recording', 'paused'].includes(phase.value))
  /** What stands before this take in the finished talk. */
  const before = computed<Ms>(() => beforeTake(plan.value.intent, talk.programme, talk.visits))
  const left = takeLimit({
    plan,
    phase,
    begun: () => take.value !== null,
    spent: () => clock.spent.value,
    film: () => talk.index?.length ?? null,
    limit: () => (preferences.now.endAtLimit ? (talk.talk?.limit ?? null) : null),
  })

  function fail(error: unknown): void {
    const full = isFullDisk(error)
    trouble.value = full ? FULL_DISK : sentenceOf(error)
    if (full) send({ kind: 'pause', stamp: null })
  }

  const layer = inkLayer(
    note,
    screen,
    () => slide.value?.id ?? null,
    () => talk.talk?.shape ?? { width: 16, height: 9 },
  )

  const switches = presenterSwitches({ note, setMicMuted: devices.setMuted, recording: () => phase.value === 'recording' })

  /** Time of this take or run, what stands before it left out. */
  const now = (): Ms => run.now() ?? take.value?.now() ?? 0

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
    if (slide.value !== null) run.left(slide.value.id, length)
  }

  /** On: a clip that waits for it, the next step or slide, or the end of a take that is to end there. */
  function forward(stamp: number): void {
    const waiting = dubbing.value ? null : clips.waiting()
    if (waiting !== null) clips.toggle(waiting, stamp)
    else if (endsWithStep(state.value, windows.following() === null, preferences.now.endAfterLast)) send({ kind: 'stop', stamp })
    else turns.next(stamp)
  }

  function bringUp(id: SlideId, stamp: number): boolean {
    const there = turns.bringUp(id, stamp)
    if (!there) trouble.value = NOT_IN_DECK
    return there
  }

  /** While a voice is recorded over it, the programme says which slide is up. */
  function followFilm(): void {
    const scene = talk.index === null ? null : sceneAt(talk.index, before.value + now())
    if (scene === null) return
    if (scene.slide !== slide.value?.id && live.value) endVisit()
    put({ slide: scene.slide, step: scene.step })
  }

  const ticking = takeTicking({
    clock,
    safety,
    follow: () => {
      if (dubbing.value) followFilm()
    },
    left: () => (phase.value === 'recording' ? left.value : null),
    // What came after the end is not part of it, to the millisecond.
    end: (by) => {
      send({ kind: 'stop', stamp: take.value?.stampAt(clock.spent.value + by - before.value) ?? null })
    },
  })

  function startRun(): void {
    const [first] = running.value
    clear()
    if (first !== undefined) turns.goTo(first.id, performance.now())
    clips.beginAt(performance.now())
    put({ blank: false })
    run.start(devices.listen)
    clock.set()
    ticking.start()
  }
  async function endRun(): Promise<void> {
    endVisit()
    windows.end()
    ticking.stop()
    const ended = run.end()
    lastRun.value = ended?.run ?? null
    if (ended !== null && talk.talk !== null && (await ended.keep(talk.talk.id))) await talk.refresh()
  }

  async function beginTake(meant: RecordingPlan): Promise<void> {
    opening.show()
    switches.stumbles.value = 0
    lastTake.value = null
    trouble.value = null
    devices.lost = (what) => {
      send({ kind: 'interrupted', by: { kind: what === 'mic' ? 'micLost' : 'cameraLost' } })
    }
    await driver.begin(meant)
    clock.set()
    ticking.start()
  }

  function stopTake(): void {
    devices.lost = null
    windows.end()
    clock.reckon(true)
    put({ muted: false })
    devices.setMuted(false)
    lastTake.value = driver.stop()
  }

  async function goBackTo(at: Ms): Promise<void> {
    const back = await driver.goBackTo(at)
    if (back === null) return
    talk.select(back.there.slide)
    put(back.there)
    windows.arrived(back.there.slide, performance.now())
    clips.standAt(back.there.clips ?? [], back.there.moved)
    clock.set(back.times)
    send({ kind: 'wentBack', countdown: preferences.now.countdown })
  }

  /** Back to before a take. */
  function clear(): void {
    lastRun.value = null
    plan.value = WHOLE_TALK
    turns.admitted.value = null
    put({ ink: [], clips: [] })
    clock.set()
  }

  const counted = (): void => {
    send({ kind: 'counted' })
  }
  function carryOut(effect: RecordingEffect): Promise<void> | undefined {
    switch (effect.kind) {
      case 'countDown':
        counting.start(effect.seconds, counted)
        break
      case 'leadIn':
        leading.start(before.value, counted)
        break
      case 'stopCounting':
        counting.stop()
        leading.stop()
        break
      case 'beginTake':
        return beginTake(effect.plan)
      case 'openStretch':
        return driver.openStretch()
      case 'endStroke':
        endStroke.value?.()
        break
      case 'closeStretch':
        clips.rest(effect.stamp ?? performance.now())
        return driver.close(effect.stamp).then(ticking.tick)
      case 'stopTake':
        stopTake()
        break
      case 'dropTake':
        driver.drop()
        break
      case 'goBackTo':
        return goBackTo(effect.at)
      case 'cameraOff':
        return devices.setCamera(false).then(() => {
          send({ kind: 'sourceChanged' })
        })
      case 'say':
        trouble.value = interruptionWords(effect.about)
        break
      case 'startRun':
        startRun()
        break
      case 'pauseRun':
        run.pause()
        clips.rest(performance.now())
        break
      case 'resumeRun':
        run.goOn()
        clips.opening(performance.now())
        break
      case 'endRun':
        return endRun()
      case 'clear':
        clear()
        break
      default:
        return unreachable(effect)
    }
    return undefined
  }

  /**
   * Counts down, then records from the slide that is up.
   * @param intent what becomes of the programme
   * @param mode a dub shows the programme from where it begins, and is over when that is
   */
  function record(intent: Intent, mode: RecordingMode = 'full'): void {
    if (!canBegin(state.value) || slide.value === null || (mode !== 'silent' && devices.stream === null)) return
    plan.value = { intent, mode }
    if (intent.kind === 'replaceAll' || intent.kind === 'append') turns.admitted.value = null
    const there = opening.takeFrom(intent, talk.index, before.value)
    put({ slide: slide.value.id, step: there?.step ?? 0 })
    if (mode === 'dub') followFilm()
    send({
      kind: 'record',
      plan: plan.value,
      leadIn: intent.kind === 'range' && isWorthPlaying(before.value),
      countdown: preferences.now.countdown,
    })
  }

  /** What of the paused take can be heard, how long it is, and when the slide that is up came. */
  async function soFar(): Promise<{ readonly parts: readonly HeardPart[]; readonly length: Ms; readonly slideSince: Ms }> {
    await settled()
    return { parts: driver.parts(), length: now(), slideSince: take.value?.times().since ?? 0 }
  }

  watch(phase, (on) => {
    if (on === 'after' || on === 'idle') ticking.stop()
  })
  watch(
    [running, slide, () => talk.speaker],
    () => {
      if (!live.value && phase.value !== 'paused') clock.reckon(true)
    },
    { immediate: true },
  )

  return {
    phase,
    plan,
    leadIn: leading.leadIn,
    count: counting.count,
    ...layer,
    ...switches,
    ...position,
    screen,
    blank: computed(() => screen.value.blank),
    inset: computed(() => screen.value.inset),
    muted: computed(() => screen.value.muted),
    preview,
    spent: clock.spent,
    onSlide: clock.onSlide,
    ahead: clock.ahead,
    landing: computed(() => (dubbing.value ? (talk.index?.length ?? 0) : clock.landing.value)),
    left,
    ...safety.known,
    trouble,
    lastTake,
    lastRun,
    endStroke,
    running,
    live,
    rehearsing,
    dubbing,
    before,
    time: (): Ms => before.value + now(),
    ...clips.controls,
    windowShown: computed(() => windows.shown.value?.slide ?? null),
    showWindow: windows.showIt,
    leaveWindow: windows.leave,
    /** Whether a window can be shown now: while one slide is said again, none but its own. */
    takesWindow: computed(() => live.value && !dubbing.value && (!isRetake(plan.value) || windows.isWindow(slide.value))),
    forward,
    back: turns.back,
    goTo: turns.goTo,
    bringUp,
    setCamera: source.setCamera,
    record,
    rehearse: () => {
      if (running.value.length > 0) send({ kind: 'rehearse' })
    },
    cancelCountdown: () => {
      send({ kind: 'cancel' })
    },
    /** @param stamp when it was paused, on the page's clock; now when left out */
    pause: (stamp?: number) => happen({ kind: 'pause', stamp: stamp ?? null }),
    resume: () => happen({ kind: 'resume' }),
    /** Goes back to a time of the paused take, whose rest will be said again, and counts down to it. @param at time of the take */
    goOnFrom: (at: Ms) => happen({ kind: 'goBack', at }),
    soFar,
    /** @param stamp when it ends, on the page's clock; now when left out */
    stop: (stamp?: number) => happen({ kind: 'stop', stamp: stamp ?? null }),
    rest: () => {
      send({ kind: 'rest' })
    },
  }
})
