import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Slide, SlideId } from '@core/model'
import { slide } from '@core/testing'
import { CALM, LEAST_TEMPO, MOST_TEMPO, calmLanding, courseOf, plannedTotal } from '.'

const deckOf = (plans: readonly number[]): readonly Slide[] => plans.map((planned, n) => slide(`s${String(n)}`, 1, { planned }))
const on = (deck: readonly Slide[], times: readonly number[]): ReadonlyMap<SlideId, number> =>
  new Map(times.map((time, n) => [deck[n]?.id ?? asId(''), time]))

/** A deck, and how long each slide until the current one was up. */
const runs = fc
  .array(fc.integer({ min: 1, max: 120 }), { minLength: 1, maxLength: 12 })
  .chain((plans) =>
    fc
      .array(fc.integer({ min: 0, max: 300_000 }), { minLength: 1, maxLength: plans.length })
      .map((times) => ({ deck: deckOf(plans.map((plan) => plan * 1000)), times })),
  )

const landing = (deck: readonly Slide[], times: readonly number[], before = 0): number =>
  courseOf({ slides: deck, current: deck[times.length - 1]?.id ?? asId(''), on: on(deck, times), before }).landing

describe('the landing', () => {
  it('is the plan for a run that is on it, at any time within a slide', () => {
    fc.assert(
      fc.property(runs, fc.double({ min: 0, max: 1, noNaN: true }), ({ deck, times }, share) => {
        const plan = deck.slice(0, times.length).map((one) => one.planned ?? 0)
        const last = Math.round((plan.at(-1) ?? 0) * share)
        const course = courseOf({
          slides: deck,
          current: deck[times.length - 1]?.id ?? asId(''),
          on: on(deck, [...plan.slice(0, -1), last]),
          before: 0,
        })
        expect(course.landing).toBe(plannedTotal(deck))
        expect(course.ahead).toBe(0)
        expect(course.tempo).toBe(1)
      }),
    )
  })

  it('never lies before what is spent, nor farther than the rest at the slowest tempo', () => {
    fc.assert(
      fc.property(runs, fc.nat(600_000), ({ deck, times }, before) => {
        const spent = before + times.reduce((sum, time) => sum + time, 0)
        const rest = plannedTotal(deck.slice(times.length - 1))
        const at = landing(deck, times, before)
        expect(at).toBeGreaterThanOrEqual(spent)
        expect(at).toBeLessThanOrEqual(spent + rest * MOST_TEMPO + 1)
      }),
    )
  })

  it('never gets earlier by a delay', () => {
    fc.assert(
      fc.property(runs, fc.nat(11), fc.nat(60_000), ({ deck, times }, which, delay) => {
        const late = times.map((time, n) => (n === which % times.length ? time + delay : time))
        expect(landing(deck, late)).toBeGreaterThanOrEqual(landing(deck, times))
      }),
    )
  })

  it('stands still within a slide until that slide is over its time', () => {
    const deck = deckOf([60_000, 60_000, 60_000])
    const late = [90_000, 0]
    const seen = new Set([0, 10_000, 30_000, 60_000].map((time) => landing(deck, [late[0] ?? 0, time])))
    expect(seen.size).toBe(1)
    expect(landing(deck, [90_000, 80_000])).toBeGreaterThan([...seen][0] ?? 0)
  })

  it('expects of what is to come what was seen of what is done, but not from one slide alone', () => {
    const deck = deckOf([60_000, 60_000, 60_000, 60_000])
    const first = courseOf({ slides: deck, current: deck[1]?.id ?? asId(''), on: on(deck, [90_000, 0]), before: 0 })
    const third = courseOf({ slides: deck, current: deck[3]?.id ?? asId(''), on: on(deck, [90_000, 90_000, 90_000, 0]), before: 0 })
    expect(first.tempo).toBeGreaterThan(1.2)
    expect(third.tempo).toBeGreaterThan(first.tempo)
    expect(third.tempo).toBeLessThan(1.5)
    expect(first.ahead).toBe(-30_000)
    expect(
      courseOf({ slides: deck, current: deck[3]?.id ?? asId(''), on: on(deck, [0, 0, 0, 0]), before: 0 }).tempo,
    ).toBeGreaterThanOrEqual(LEAST_TEMPO)
  })

  it('counts a slide that is shown again only once', () => {
    const deck = deckOf([30_000, 30_000, 30_000])
    // Back on the first slide, with the second begun and the third not seen yet.
    const course = courseOf({ slides: deck, current: deck[0]?.id ?? asId(''), on: on(deck, [30_000, 10_000]), before: 0 })
    expect(course.landing).toBeLessThanOrEqual(90_000)
    expect(course.ahead).toBe(0)
  })

  it('is shown anew only when it is clearly another', () => {
    expect(calmLanding(600_000, 600_000 + CALM - 1)).toBe(600_000)
    expect(calmLanding(600_000, 600_000 - CALM)).toBe(600_000 - CALM)
  })
})
