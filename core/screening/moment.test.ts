import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { momentAt, momentOf } from '.'

/** Visits one after the other. */
const visitsOf = (lengths: readonly number[]) =>
  lengths.map((length, n) => ({ id: `v${String(n)}`, length, start: lengths.slice(0, n).reduce((sum, one) => sum + one, 0) }))

describe('a moment of a film', () => {
  it('is found again at its time, and goes where its visit goes', () => {
    const lengths = fc.array(fc.integer({ min: 1, max: 20_000 }), { minLength: 1, maxLength: 12 })
    fc.assert(
      fc.property(lengths, fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(), (all, share, which) => {
        const visits = visitsOf(all)
        const at = Math.floor(share * (all.reduce((sum, one) => sum + one, 0) - 1))
        const moment = momentAt(visits, at)
        if (moment === null) throw new Error('there are visits')
        expect(momentOf(visits, moment)).toBe(at)
        // Another visit goes: it moves by as much as went before it, and only its own end takes it away.
        const gone = which % visits.length
        const left = visits.filter((_, n) => n !== gone)
        const moved = momentOf(
          left.map((visit, n) => ({ ...visit, start: n >= gone ? visit.start - (all[gone] ?? 0) : visit.start })),
          moment,
        )
        const own = Number(moment.visit.slice(1))
        expect(moved).toBe(own === gone ? null : at - (gone < own ? (all[gone] ?? 0) : 0))
      }),
    )
  })

  it('is at the end of its visit when that is shorter now, and at the end of the film when asked for beyond it', () => {
    expect(momentOf(visitsOf([500]), { visit: 'v0', into: 900 })).toBe(500)
    expect(momentAt(visitsOf([500, 300]), 5000)).toEqual({ visit: 'v1', into: 300 })
    expect(momentAt([], 0)).toBeNull()
  })
})
