import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Cue, Film, Ms, SlideId } from '@core/model'
import { applyProgrammeEdit, programmeLength, visitsOf } from '@core/programme'
import { film, slide, stretch } from '@core/testing'
import { PEAKS_A_SECOND } from '@core/voice'
import { FASTEST_FIT, fewestToDrop, fitTo, pausesOf, trimmed, wholeFit } from '.'
import type { FitPlan, Outlines } from '.'

const STEP = 1000 / PEAKS_A_SECOND
const SLIDES = ['a', 'b', 'c', 'd', 'e'].map((name) => slide(name))

/** What is said on a slide: words and the pauses behind them, in steps of an outline. */
type Said = readonly (readonly [word: number, pause: number])[]

/** A talk in which each slide is shown once, with the outline of its voice. */
function talkOf(said: readonly Said[]): { readonly made: Film; readonly outlines: Outlines } {
  const peaks: number[] = []
  const cues: Cue[] = []
  for (const [n, parts] of said.entries()) {
    if (n > 0) cues.push({ kind: 'show', at: peaks.length * STEP, slide: SLIDES[n]?.id as SlideId, step: 0 })
    for (const [word, pause] of parts) peaks.push(...Array.from({ length: word }, () => 120), ...Array.from({ length: pause }, () => 0))
  }
  return { made: film(SLIDES, [stretch('s', peaks.length * STEP, SLIDES[0]?.id as SlideId, cues)]), outlines: { s: peaks } }
}

const saidOn = fc.array(fc.tuple(fc.integer({ min: 10, max: 60 }), fc.integer({ min: 0, max: 100 })), { minLength: 1, maxLength: 4 })
const nothing = (): Ms => 0

/** The least that each visit comes to by everything that is gentler than leaving it out: found by plain arithmetic. */
function leastLengths(made: Film, outlines: Outlines): ReadonlyMap<string, { readonly least: Ms; readonly length: Ms }> {
  const pauses = pausesOf(made, outlines)
  return new Map(
    visitsOf(made.programme).map((visit) => {
      const won = pauses
        .filter((pause) => pause.visit === visit.id)
        .reduce((sum, { from, to, edge }) => sum + Math.max(0, to - from - (edge === null ? 400 : 300)), 0)
      return [visit.slide as string, { least: (visit.length - won) / FASTEST_FIT, length: visit.length }]
    }),
  )
}

const subsets = <Item>(items: readonly Item[]): readonly (readonly Item[])[] =>
  items.reduce<readonly (readonly Item[])[]>((all, item) => [...all, ...all.map((some) => [...some, item])], [[]])

const dropped = (made: Film, plan: FitPlan): Ms => {
  const gone = plan.steps.flatMap(({ edit }) => (edit.kind === 'drop' ? edit.visits : []))
  return visitsOf(made.programme)
    .filter(({ id }) => gone.includes(id))
    .reduce((sum, { length }) => sum + length, 0)
}

describe('fitting, held against every way that there is', () => {
  it('fits whenever any way does, leaves out the least time that any way has to, and goes no further than needed', () => {
    fc.assert(
      fc.property(
        fc.array(saidOn, { minLength: 2, maxLength: 5 }),
        fc.nat(31),
        fc.double({ min: 0.2, max: 0.99, noNaN: true }),
        (said, chosen, share) => {
          const { made, outlines } = talkOf(said)
          const shown = SLIDES.slice(0, said.length).map(({ id }) => id)
          const optional = shown.filter((_, n) => (chosen >> n) % 2 === 1)
          const length = programmeLength(made.programme)
          const limit = Math.round(length * share)
          const plan = fitTo(made, outlines, limit, nothing, new Set(optional))
          const least = leastLengths(made, outlines)
          const ways = subsets(optional)
            .filter((gone) => gone.length < shown.length)
            .map((gone) => ({
              comes: shown.filter((id) => !gone.includes(id)).reduce((sum, id) => sum + (least.get(id)?.least ?? 0), 0),
              costs: gone.reduce((sum, id) => sum + (least.get(id)?.length ?? 0), 0),
            }))
          const grain = 100 * optional.length + 5
          // All optional slides together are never left out of a talk that has no other.
          const possible = optional.length === shown.length ? ways.filter(({ costs }) => costs === 0) : ways
          const surely = possible.filter(({ comes }) => comes <= limit - grain)
          if (surely.length > 0) expect(plan.fits).toBe(true)
          if (possible.every(({ comes }) => comes > limit + 5)) expect(plan.fits).toBe(false)
          if (!plan.fits) return
          const after = applyProgrammeEdit(made.programme, wholeFit(plan.steps))
          expect(programmeLength(after)).toBeLessThanOrEqual(limit)
          if (surely.length > 0) expect(dropped(made, plan)).toBeLessThanOrEqual(Math.min(...surely.map(({ costs }) => costs)) + 1e-6)
          // What is left of the limit is less than the finest step of the last thing that was done would give back.
          const kinds = plan.steps.map(({ kind }) => kind)
          if (!kinds.includes('optional'))
            expect(limit - plan.length).toBeLessThanOrEqual(kinds.includes('tempo') ? 2 + length * 0.0011 : 1)
        },
      ),
      { numRuns: 400 },
    )
  })

  it('wins a minute by leaving out one optional minute of four, and nothing else', () => {
    const minute: Said = [[1200, 0]]
    const { made, outlines } = talkOf([minute, minute, minute, minute, minute])
    const plan = fitTo(made, outlines, 240_000, nothing, new Set(SLIDES.slice(1).map(({ id }) => id)))
    expect(plan.steps.map(({ kind, places }) => [kind, places])).toEqual([['optional', 1]])
    expect(plan.length).toBe(240_000)
  })

  it('takes one second out of a long pause when a second is what is over', () => {
    const { made, outlines } = talkOf([
      [
        [40, 940],
        [40, 0],
      ],
    ])
    const plan = fitTo(made, outlines, programmeLength(made.programme) - 1000, nothing)
    expect(plan.steps.map(({ kind, won }) => [kind, won])).toEqual([['pauses', 1000]])
  })

  it('takes the tempo that wins most where none is enough', () => {
    const [first, second] = [SLIDES[0]?.id as SlideId, SLIDES[1]?.id as SlideId]
    const { made, outlines } = talkOf([[[400, 0]], [[400, 0]]])
    // Beyond four parts in a hundred the first slide would be up too briefly.
    const plan = fitTo(made, outlines, 1000, (one) => (one.id === first ? 19_230 : 0))
    const [tempo] = plan.steps
    expect(tempo?.kind).toBe('tempo')
    const alone = applyProgrammeEdit(made.programme, tempo!.edit)
    expect(programmeLength(made.programme) - programmeLength(alone)).toBeCloseTo(tempo!.won, 6)
    expect(tempo!.won).toBeGreaterThan(20_000 - 20_000 / FASTEST_FIT - 1e-6)
    expect(visitsOf(alone).map((visit) => visit.slide)).toEqual([first, second])
  })
})

describe('what is left out', () => {
  it('is enough and costs the least, of all that could be', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ wins: fc.integer({ min: 0, max: 40 }).map((n) => n * 100), costs: fc.integer({ min: 1, max: 90_000 }) }), {
          maxLength: 8,
        }),
        fc.integer({ min: 0, max: 120 }).map((n) => n * 100),
        (list, wanted) => {
          const choices = list.map((one, id) => ({ ...one, id }))
          const found = fewestToDrop(choices, wanted)
          const sums = subsets(choices)
            .filter((some) => some.reduce((sum, { wins }) => sum + wins, 0) >= wanted)
            .map((some) => some.reduce((sum, { costs }) => sum + costs, 0))
          if (sums.length === 0) expect(found).toBeNull()
          else expect(choices.filter(({ id }) => found?.includes(id)).reduce((sum, { costs }) => sum + costs, 0)).toBe(Math.min(...sums))
        },
      ),
    )
  })
})

describe('trimming both ends', () => {
  it('leaves a title and a closing slide on which nobody speaks', () => {
    const silent: Said = [[0, 400]]
    const { made, outlines } = talkOf([silent, [[60, 0]], silent])
    expect(trimmed(made, outlines)).toEqual([])
    const spoken = talkOf([
      [
        [0, 100],
        [60, 20],
      ],
      [[60, 100]],
    ])
    expect(trimmed(spoken.made, spoken.outlines)).toHaveLength(2)
  })
})
