import { computed, ref, shallowRef } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Slide } from '@core/model'
import { ANYBODY } from '@core/pace'
import { slide } from '@core/testing'

vi.stubGlobal('ref', ref)
vi.stubGlobal('computed', computed)
vi.stubGlobal('shallowRef', shallowRef)
vi.mock('./tick', () => ({ tick: vi.fn() }))

const [{ countDown }, { deckPlace, slidesToShow }, { interruptions }, { leadingIn }, { RunClock }, { slideClock }, { tick }] =
  await Promise.all([
    import('./count-down'),
    import('./deck-place'),
    import('./interruptions'),
    import('./lead-in'),
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

describe('the place in the deck', () => {
  it('goes step by step, then to the next slide, and back to the last step of the one before', () => {
    const { slideId, step, coming, going } = deckPlace(ref([one, two, three]), () => false)
    expect([coming.value?.slide.id, coming.value?.step, going.value]).toEqual([two.id, 0, null])
    slideId.value = two.id
    step.value = 1
    expect([coming.value?.slide.id, coming.value?.step, going.value?.step]).toEqual([two.id, 2, 0])
    step.value = 2
    expect(coming.value?.slide.id).toBe(three.id)
    slideId.value = three.id
    step.value = 0
    expect([coming.value, going.value?.slide.id, going.value?.step]).toEqual([null, two.id, 2])
  })

  it('stays on a slide that alone is said again, and begins with the first of another deck', () => {
    const running = ref([one, two])
    const { slideId, slide: shown, coming } = deckPlace(running, () => true)
    slideId.value = one.id
    expect(coming.value).toBeNull()
    running.value = [three]
    expect(shown.value?.id).toBe(three.id)
    running.value = []
    expect([shown.value, coming.value]).toEqual([null, null])
  })

  it('is a slide that is left out by now when that one is said again, and never the first instead', () => {
    const deck = [one, { ...two, skip: true }, { ...three, skip: true }]
    const { slideId, slide: shown } = deckPlace(
      computed(() => slidesToShow(deck, two.id)),
      () => true,
    )
    slideId.value = two.id
    expect(shown.value?.id).toBe(two.id)
    expect(slidesToShow(deck, two.id).map(({ id }) => id)).toEqual([one.id, two.id])
    expect(slidesToShow(deck, null).map(({ id }) => id)).toEqual([one.id])
  })
})

describe('what befalls a take', () => {
  const befallen = (recording: boolean) => {
    const take = {
      recording: () => recording,
      pause: vi.fn(() => Promise.resolve()),
      renew: vi.fn(() => Promise.resolve()),
      cameraOff: vi.fn(() => Promise.resolve()),
      say: vi.fn(),
    }
    return { take, on: interruptions(take) }
  }

  it('pauses it without a voice, and goes on without a face or with another rate, each with its sentence', async () => {
    const { take, on } = befallen(true)
    await on.micLost()
    expect([take.pause.mock.calls.length, take.say.mock.lastCall?.[0]]).toEqual([
      1,
      expect.stringMatching(/microphone stopped, so the take was paused/),
    ])
    await on.cameraLost()
    expect([take.cameraOff.mock.calls.length, take.pause.mock.calls.length, take.say.mock.lastCall?.[0]]).toEqual([
      1,
      1,
      expect.stringMatching(/goes on with your voice alone/),
    ])
    await on.newRate()
    expect([take.renew.mock.calls.length, take.say.mock.lastCall?.[0]]).toEqual([1, expect.stringMatching(/nothing of it is lost/)])
    await on.slept(4200, 75_000)
    expect(take.pause.mock.lastCall).toEqual([4200])
    expect(take.say.mock.lastCall?.[0]).toMatch(/asleep for 1:15/)
  })

  it('is no matter while nothing is recorded', async () => {
    const { take, on } = befallen(false)
    for (const befall of [on.micLost, on.cameraLost, on.newRate, () => on.slept(0, 9000)]) await befall()
    for (const done of [take.pause, take.renew, take.cameraOff, take.say]) expect(done).not.toHaveBeenCalled()
  })
})

describe('what is played before a part is said again', () => {
  it('is three seconds, or what there is, and nothing at the very beginning', () => {
    const { leadIn, start } = leadingIn()
    const then = vi.fn()
    expect(start(400, then)).toBe(false)
    expect(leadIn.value).toBeNull()
    expect(start(2000, then)).toBe(true)
    expect(leadIn.value).toMatchObject({ from: 0, to: 2000 })
    expect(start(20_000, then)).toBe(true)
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
