import { computed, ref, shallowRef } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Ref } from 'vue'
import type { Cue, Slide } from '@core/model'
import { ANYBODY } from '@core/pace'
import { slide } from '@core/testing'

vi.stubGlobal('ref', ref)
vi.stubGlobal('computed', computed)
vi.stubGlobal('shallowRef', shallowRef)
vi.mock('./tick', () => ({ tick: vi.fn() }))

const [
  { countDown },
  { deckPosition, slidesToShow },
  { interruptionWords },
  { isWorthPlaying, leadingIn },
  { lecternScreen },
  { recordingRunner },
  { RunClock },
  { slideClock },
  { tick },
] = await Promise.all([
  import('./count-down'),
  import('./deck-position'),
  import('./interruption-words'),
  import('./lead-in'),
  import('./lectern-screen'),
  import('./recording-runner'),
  import('./run-clock'),
  import('./slide-clock'),
  import('./tick'),
])

const stepped = (name: string, steps: number): Slide => {
  const plain = slide(name)
  return { ...plain, steps: Array.from({ length: steps }, () => plain.steps[0]).filter((step) => step !== undefined) }
}
const [one, two, three] = [stepped('one', 1), stepped('two', 3), stepped('three', 1)]

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
  vi.mocked(tick).mockClear()
})

describe('a count-down', () => {
  it('ticks once a second and then goes on, at once when there is nothing to count', () => {
    const { count, start } = countDown()
    const then = vi.fn()
    start(3, then)
    expect([count.value, vi.mocked(tick).mock.calls.length]).toEqual([3, 1])
    vi.advanceTimersByTime(2000)
    expect([count.value, vi.mocked(tick).mock.calls.length, then.mock.calls.length]).toEqual([1, 3, 0])
    vi.advanceTimersByTime(1000)
    expect([count.value, then.mock.calls.length]).toEqual([0, 1])
    start(0, then)
    expect(then).toHaveBeenCalledTimes(2)
  })

  it('that is stopped goes on to nothing', () => {
    const { count, start, stop } = countDown()
    const then = vi.fn()
    start(2, then)
    stop()
    vi.advanceTimersByTime(5000)
    expect([count.value, then.mock.calls.length]).toEqual([0, 0])
  })
})

describe('the position in the deck', () => {
  const at = (running: Ref<readonly Slide[]>, stays = false) => {
    const { screen, put } = lecternScreen(() => undefined)
    return { put, ...deckPosition(running, screen, () => stays) }
  }

  it('goes step by step, then to the next slide, and back to the last step of the one before', () => {
    const { put, nextPosition, previousPosition } = at(ref([one, two, three]))
    expect([nextPosition.value?.slide.id, nextPosition.value?.step, previousPosition.value]).toEqual([two.id, 0, null])
    put({ slide: two.id, step: 1 })
    expect([nextPosition.value?.slide.id, nextPosition.value?.step, previousPosition.value?.step]).toEqual([two.id, 2, 0])
    put({ step: 2 })
    expect(nextPosition.value?.slide.id).toBe(three.id)
    put({ slide: three.id, step: 0 })
    expect([nextPosition.value, previousPosition.value?.slide.id, previousPosition.value?.step]).toEqual([null, two.id, 2])
  })

  it('stays on a slide that alone is said again, and begins with the first of another deck', () => {
    const running = ref([one, two])
    const { put, slide: shown, nextPosition } = at(running, true)
    put({ slide: one.id })
    expect(nextPosition.value).toBeNull()
    running.value = [three]
    expect(shown.value?.id).toBe(three.id)
    running.value = []
    expect([shown.value, nextPosition.value]).toEqual([null, null])
  })

  it('is a slide that is left out by now when that one is said again, and never the first instead', () => {
    const deck = [one, { ...two, skip: true }, { ...three, skip: true }]
    const { put, slide: shown } = at(
      computed(() => slidesToShow(deck, two.id)),
      true,
    )
    put({ slide: two.id })
    expect(shown.value?.id).toBe(two.id)
    expect(slidesToShow(deck, two.id).map(({ id }) => id)).toEqual([one.id, two.id])
    expect(slidesToShow(deck, null).map(({ id }) => id)).toEqual([one.id])
  })
})

describe('the screen at the Lectern', () => {
  it('changes with every cue, whether a take is under way or not, and the take hears of each with its own time', () => {
    const noted: Cue[] = []
    const { screen, note } = lecternScreen((make, stamp) => noted.push(make(stamp - 100)))
    note((at) => ({ kind: 'show', at, slide: two.id, step: 1 }), 350)
    note((at) => ({ kind: 'blank', at, on: true }), 400)
    expect(screen.value).toMatchObject({ slide: two.id, step: 1, blank: true })
    expect(noted.map(({ kind, at }) => [kind, at])).toEqual([
      ['show', 250],
      ['blank', 300],
    ])
  })
})

describe('what follows from what happens', () => {
  const PLAN = { intent: { kind: 'replaceAll' as const }, mode: 'full' as const }

  it('is done one after the other, also what is asked for meanwhile', async () => {
    const done: string[] = []
    let open: () => void = () => undefined
    const opening = new Promise<void>((resolve) => {
      open = resolve
    })
    const { state, happen, settled } = recordingRunner({
      carryOut: ({ kind }) => {
        done.push(kind)
        // Counting down from nothing is over at once.
        if (kind === 'countDown') void happen({ kind: 'counted' })
        if (kind === 'beginTake') return Promise.resolve()
        return kind === 'openStretch' ? opening : undefined
      },
      begun: () => true,
      fail: () => undefined,
    })
    void happen({ kind: 'record', plan: PLAN, leadIn: false, countdown: 0 })
    await Promise.resolve()
    await Promise.resolve()
    void happen({ kind: 'stop', stamp: null })
    expect([state.value.phase, done.at(-1)]).toEqual(['stopping', 'openStretch'])
    open()
    await settled()
    expect(done).toEqual(['countDown', 'beginTake', 'openStretch', 'endStroke', 'closeStretch', 'stopTake'])
  })

  it('that cannot be done is told, and a take that could not begin is let go', async () => {
    const done: string[] = []
    const told: unknown[] = []
    const { state, happen } = recordingRunner({
      carryOut: ({ kind }) => {
        done.push(kind)
        return kind === 'beginTake' ? Promise.reject(new Error('no room')) : undefined
      },
      begun: () => false,
      fail: (error) => told.push(error),
    })
    await happen({ kind: 'record', plan: PLAN, leadIn: false, countdown: 0 })
    await happen({ kind: 'counted' })
    expect([state.value.phase, done.at(-1), told]).toEqual(['idle', 'dropTake', [new Error('no room')]])
  })
})

describe('what interrupts a take', () => {
  it('has its sentence', () => {
    expect(interruptionWords({ kind: 'micLost' })).toMatch(/microphone stopped, so the take was paused/)
    expect(interruptionWords({ kind: 'cameraLost' })).toMatch(/goes on with your voice alone/)
    expect(interruptionWords({ kind: 'rateChanged' })).toMatch(/nothing of it is lost/)
    expect(interruptionWords({ kind: 'slept', awake: 4200, asleep: 75_000 })).toMatch(/asleep for 1:15/)
  })
})

describe('what is played before a part is said again', () => {
  it('is three seconds, or what there is, and nothing at the very beginning', () => {
    const { leadIn, start } = leadingIn()
    const then = vi.fn()
    expect([isWorthPlaying(400), isWorthPlaying(2000)]).toEqual([false, true])
    start(2000, then)
    expect(leadIn.value).toMatchObject({ from: 0, to: 2000 })
    start(20_000, then)
    expect(leadIn.value).toMatchObject({ from: 17_000, to: 20_000 })
    leadIn.value?.then()
    expect([leadIn.value, then.mock.calls.length]).toEqual([null, 1])
  })
})

describe('a run-through', () => {
  it('leaves pauses out, and notes how long each slide was up and how much of that was spoken', () => {
    const run = new RunClock()
    vi.advanceTimersByTime(4000)
    run.hear(3000, true)
    run.hear(1000, false)
    run.left(one.id, run.now())
    run.pause()
    vi.advanceTimersByTime(60_000)
    run.hear(60_000, true)
    run.goOn()
    vi.advanceTimersByTime(2500)
    expect(run.now()).toBe(6500)
    run.left(two.id, 2500)
    // One that was only passed over was not seen.
    run.left(three.id, 0)
    expect(run.run.visits).toEqual([
      { slide: one.id, length: 4000, spoken: 3000 },
      { slide: two.id, length: 2500, spoken: 0 },
    ])
  })

  it('says nothing of speech when nobody listened', () => {
    const run = new RunClock()
    run.left(one.id, 1200)
    expect(run.run.visits).toEqual([{ slide: one.id, length: 1200 }])
  })
})

describe('the clocks of a run', () => {
  const clocks = (before: number) => {
    let at = 0
    let on = true
    const shown = ref<Slide | null>(one)
    const running = ref([one, two, three].map((each) => ({ ...each, planned: 30_000 })))
    const clock = slideClock({ running, slide: shown, before: ref(before), on: () => on, now: () => at, speaker: () => ANYBODY })
    return {
      clock,
      shown,
      to: (time: number) => {
        at = time
      },
      pause: () => {
        on = false
      },
    }
  }

  it('count each slide for itself, also one that is come back to, and the talk with what stands before it', () => {
    const { clock, shown, to } = clocks(10_000)
    clock.set()
    to(20_000)
    clock.reckon(false)
    expect([clock.spent.value, clock.onSlide.value]).toEqual([30_000, 20_000])
    expect(clock.endVisit()).toBe(20_000)
    shown.value = two
    to(25_000)
    clock.reckon(true)
    expect([clock.spent.value, clock.onSlide.value]).toEqual([35_000, 5000])
    expect(clock.endVisit()).toBe(5000)
    shown.value = one
    to(27_000)
    clock.reckon(true)
    expect(clock.onSlide.value).toBe(2000)
  })

  it('give a slide that was turned to in a pause its own time alone, and one that was passed over none', () => {
    const { clock, shown, to } = clocks(0)
    clock.set()
    to(30_000)
    expect(clock.endVisit()).toBe(30_000)
    shown.value = three
    expect(clock.endVisit()).toBe(0)
    shown.value = two
    to(50_000)
    clock.reckon(true)
    expect(clock.onSlide.value).toBe(20_000)
    expect(clock.endVisit()).toBe(20_000)
    shown.value = three
    to(55_000)
    clock.reckon(true)
    expect(clock.onSlide.value).toBe(5000)
  })

  it('stand on a slide while nothing runs, and are put back to a place', () => {
    const { clock, to, pause } = clocks(0)
    to(8000)
    pause()
    clock.reckon(true)
    expect(clock.onSlide.value).toBe(0)
    clock.set({ settled: new Map([[one.id, 3000]]), since: 5000 })
    to(9000)
    expect(clock.endVisit()).toBe(4000)
  })
})
