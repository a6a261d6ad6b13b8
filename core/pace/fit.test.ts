import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Cue, Film, Ms, Slide } from '@core/model'
import { applyProgrammeEdit, programmeLength, visitsOf } from '@core/programme'
import { SLIDES, film, stretch, stroke } from '@core/testing'
import { PEAKS_A_SECOND } from '@core/voice'
import { FASTEST_FIT, fitTo, pausesOf, trimmed, wholeFit } from '.'
import type { Outlines } from '.'

const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]
/** Words with pauses after them, in ms, as an outline in steps of 50 ms. */
interface Said {
  readonly word: Ms
  readonly pause: Ms
}
const said = fc.array(
  fc.record({ word: fc.integer({ min: 4, max: 40 }).map((n) => n * 50), pause: fc.integer({ min: 0, max: 70 }).map((n) => n * 50) }),
  { minLength: 2, maxLength: 15 },
)

function talkOf(
  parts: readonly Said[],
  turn: number,
  cues: readonly Cue[] = [],
): { readonly film: Film; readonly outlines: Outlines; readonly words: readonly (readonly [Ms, Ms])[]; readonly length: Ms } {
  const peaks: number[] = []
  const words: [Ms, Ms][] = []
  const step = 1000 / PEAKS_A_SECOND
  for (const { word, pause } of parts) {
    words.push([peaks.length * step, peaks.length * step + word])
    peaks.push(...Array.from({ length: word / step }, () => 120), ...Array.from({ length: pause / step }, () => 0))
  }
  const length = peaks.length * step
  const at = Math.round(length * turn)
  const all: Cue[] = [...(at > 0 && at < length ? [{ kind: 'show', at, slide: two, step: 0 } as const] : []), ...cues].sort(
    (a, b) => a.at - b.at,
  )
  return { film: film(SLIDES, [stretch('s', length, one, all)]), outlines: { s: peaks }, words, length }
}
const nothing = (): Ms => 0

/** What of words is not heard any more after an edit, in ms. */
function wordsLost(words: readonly (readonly [Ms, Ms])[], programme: Film['programme']): Ms {
  const heard = programme.pieces.flatMap((piece) => (piece.kind === 'recorded' && piece.voice !== null ? [piece.voice] : []))
  return words.reduce(
    (sum, [from, to]) =>
      sum + (to - from) - heard.reduce((part, voice) => part + Math.max(0, Math.min(to, voice.to) - Math.max(from, voice.from)), 0),
    0,
  )
}

describe('fitting to a limit', () => {
  it('lets slips go where pauses are not enough, before all is played faster, and nothing else that is said', () => {
    fc.assert(
      fc.property(said, fc.double({ min: 0.3, max: 1, noNaN: true }), fc.array(fc.nat(14), { maxLength: 5 }), (parts, share, chosen) => {
        const { film: made, outlines, words, length } = talkOf(parts, 1)
        const [visit] = visitsOf(made.programme)
        if (visit === undefined) return
        const slips = [...new Set(chosen)]
          .sort((a, b) => a - b)
          .flatMap((n) => {
            const [from, to] = words[n] ?? [0, 0]
            return to > from ? [{ from, to, visit: visit.id }] : []
          })
        const limit = Math.round(length * share)
        const plan = fitTo(made, outlines, limit, nothing, new Set(), slips)
        const after = plan.steps.length === 0 ? made.programme : applyProgrammeEdit(made.programme, wholeFit(plan.steps))
        expect(programmeLength(after)).toBe(plan.length)
        const meant = words.filter(([from]) => !slips.some((slip) => slip.from === from))
        expect(wordsLost(meant, after)).toBeLessThan(1)
        const kinds = plan.steps.map(({ kind }) => kind)
        // Played faster only once all of them are gone.
        if (kinds.includes('tempo')) expect(plan.steps.find(({ kind }) => kind === 'slips')?.places ?? 0).toBe(slips.length)
        if (fitTo(made, outlines, limit, nothing).steps.every(({ kind }) => kind === 'pauses')) expect(kinds).not.toContain('slips')
      }),
    )
  })

  it('never leaves a talk over that it says fits, never cuts a word, and does no more than is needed', () => {
    fc.assert(
      fc.property(
        said,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0.5, max: 1.1, noNaN: true }),
        (parts, turn, share) => {
          const { film: made, outlines, words, length } = talkOf(parts, turn)
          const limit = Math.round(length * share)
          const plan = fitTo(made, outlines, limit, nothing)
          if (length <= limit) {
            expect(plan).toEqual({ steps: [], length, fits: true })
            return
          }
          const after = plan.steps.length === 0 ? made.programme : applyProgrammeEdit(made.programme, wholeFit(plan.steps))
          expect(programmeLength(after)).toBe(plan.length)
          expect(plan.fits).toBe(plan.length <= limit)
          expect(plan.steps.reduce((sum, step) => sum + step.won, 0)).toBeCloseTo(length - plan.length, 6)
          expect(wordsLost(words, after)).toBe(0)
          // A later step is taken only when those before it are not enough.
          for (const [n] of plan.steps.slice(1).entries())
            expect(length - plan.steps.slice(0, n + 1).reduce((sum, step) => sum + step.won, 0)).toBeGreaterThan(limit)
          for (const step of plan.steps) if (step.kind === 'tempo') expect(step.to).toBeLessThanOrEqual(FASTEST_FIT)
        },
      ),
    )
  })

  it('leaves every slide up as long as it takes to read it', () => {
    fc.assert(
      fc.property(said, fc.double({ min: 0.1, max: 0.9, noNaN: true }), fc.integer({ min: 0, max: 20_000 }), (parts, turn, least) => {
        const { film: made, outlines, length } = talkOf(parts, turn)
        const before = new Map(visitsOf(made.programme).map((visit) => [visit.slide, visit.length]))
        const plan = fitTo(made, outlines, Math.round(length * 0.4), () => least)
        if (plan.steps.length === 0) return
        for (const visit of visitsOf(applyProgrammeEdit(made.programme, wholeFit(plan.steps)))) {
          expect(visit.length).toBeGreaterThanOrEqual(Math.min(least, before.get(visit.slide) ?? 0))
        }
      }),
    )
  })

  it('takes away what is optional only when nothing gentler is enough', () => {
    const {
      film: made,
      outlines,
      length,
    } = talkOf(
      [
        { word: 2000, pause: 0 },
        { word: 2000, pause: 0 },
      ],
      0.5,
    )
    expect(fitTo(made, outlines, length - 100, nothing, new Set([two])).steps.map((step) => step.kind)).toEqual(['tempo'])
    const plan = fitTo(made, outlines, 2100, nothing, new Set([two]))
    // It is enough by itself: nothing is played faster for it.
    expect(plan.steps.map((step) => step.kind)).toEqual(['optional'])
    expect(plan.fits).toBe(true)
    // Each step can be done alone, on the talk as it is.
    const alone = applyProgrammeEdit(made.programme, plan.steps[0]!.edit)
    expect(visitsOf(alone).map((visit) => [visit.slide, visit.length])).toEqual([[one, length / 2]])
    expect(fitTo(made, outlines, 2100, nothing)).toMatchObject({ fits: false })
  })
})

describe('pauses', () => {
  it('are no pauses while something is drawn', () => {
    const quiet: readonly Said[] = [
      { word: 1000, pause: 4000 },
      { word: 1000, pause: 0 },
    ]
    const plain = talkOf(quiet, 0)
    expect(pausesOf(plain.film, plain.outlines).map(({ from, to }) => [from, to])).toEqual([[1150, 4850]])
    const drawn = talkOf(quiet, 0, [{ kind: 'ink', at: 2000, stroke: stroke('k', one, 1000) }])
    expect(pausesOf(drawn.film, drawn.outlines).map(({ from, to }) => [from, to])).toEqual([
      [1150, 1800],
      [3200, 4850],
    ])
  })

  it('at the beginning and the end of a talk are trimmed to a breath', () => {
    const {
      film: made,
      outlines,
      length,
    } = talkOf(
      [
        { word: 0, pause: 3000 },
        { word: 2000, pause: 500 },
        { word: 1000, pause: 4000 },
      ] as readonly Said[],
      0,
    )
    expect(trimmed(made, outlines)).toEqual([
      { from: 0, to: 2450 },
      { from: length - 3850 + 700, to: length },
    ])
    const least = (slide: Slide): Ms => (slide.id === one ? 100 : 0)
    expect(fitTo(made, outlines, length, least).steps).toEqual([])
  })
})
