import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { applyProgrammeEdit, programmeLength } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import { SLIDES, film, stretch, stroke } from '@core/testing'
import { padTo } from '.'

const one = asId<'slide'>('one')

describe('bringing a talk to a least length', () => {
  it('never leaves it short when it says that it reaches it, and adds no more than is needed', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2000, max: 120_000 }), fc.double({ min: 0.8, max: 3, noNaN: true }), (length, share) => {
        const made = film(SLIDES, [stretch('s', length, one)])
        const least = Math.round(length * share)
        const plan = padTo(made, least)
        if (length >= least) {
          expect(plan).toEqual({ steps: [], length, reaches: true })
          return
        }
        const after = applyProgrammeEdit(made.programme, { kind: 'all', edits: plan.steps.map((step) => step.edit) })
        expect(programmeLength(after)).toBe(plan.length)
        expect(plan.reaches).toBe(true)
        expect(plan.length - least).toBeLessThanOrEqual(Math.max(200, length * 0.002))
        expect(plan.steps.reduce((sum, step) => sum + step.added, 0)).toBeCloseTo(plan.length - length, 6)
      }),
    )
  })

  it('begins with what is noticed least, and keeps on the last picture what was on it', () => {
    const made = film(SLIDES, [stretch('s', 60_000, one, [{ kind: 'ink', at: 1000, stroke: stroke('k', one, 100) }])])
    expect(padTo(made, 62_000).steps.map((step) => step.kind)).toEqual(['linger'])
    expect(padTo(made, 64_500).steps.map((step) => step.kind)).toEqual(['tempo', 'linger'])
    const [step] = padTo(made, 62_000).steps
    const after = applyProgrammeEdit(made.programme, step!.edit)
    expect(sceneAt(indexFilm({ ...made, programme: after }), 61_500)).toMatchObject({
      slide: one,
      voice: null,
      ink: [{ elapsed: null, stroke: { id: 'k' } }],
    })
  })
})
