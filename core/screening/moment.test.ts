import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Programme } from '@core/model'
import { applyProgrammeEdit, programmeLength, visitsOf } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { momentAt, momentOf } from '.'

const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]
const SHOWS = [
  { kind: 'show', at: 4000, slide: two, step: 0 },
  { kind: 'show', at: 9000, slide: one, step: 0 },
] as const
const made = film([slide('one'), slide('two')], [stretch('s', 14_000, one, SHOWS)])
const FROM = { from: fc.integer({ min: 0, max: 13_000 }), length: fc.integer({ min: 20, max: 4000 }) }

/** What is heard at a time, in the time of the recording. */
const heardAt = (programme: Programme, at: number): number | null => sceneAt(indexFilm({ ...made, programme }), at)?.voice?.at ?? null
/** The moment that was at a time of the whole, as it is in another programme. */
function moved(at: number, programme: Programme): number | null {
  const moment = momentAt(made.programme, at)
  return moment === null ? null : momentOf(programme, moment)
}

describe('a moment of a film', () => {
  it('is found again at its time, wherever its visit goes, and whatever is cut before it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 13_999 }), fc.record(FROM), fc.boolean(), (at, { from, length }, moves) => {
        expect(moved(at, made.programme)).toBe(at)
        const to = Math.min(14_000, from + length)
        const cut = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from, to }] })
        const last = visitsOf(cut).at(-1)
        const first = visitsOf(cut)[0]
        const after =
          moves && last !== undefined && first !== undefined && last !== first
            ? applyProgrammeEdit(cut, { kind: 'move', visit: last.id, before: first.id })
            : cut
        const now = moved(at, after)
        if (now === null || (at >= from && at < to)) return
        expect(Math.abs((heardAt(after, now) ?? NaN) - at)).toBeLessThan(1.5)
      }),
    )
  })

  it('is at the cut when it was cut itself, at the end of its visit when only that is left, and nowhere when nothing is', () => {
    const cut = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 5000, to: 6000 }] })
    expect(moved(5500, cut)).toBe(5000)
    const end = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 8000, to: 9000 }] })
    expect(moved(8500, end)).toBe(8000)
    const all = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 4000, to: 9000 }] })
    expect(moved(5000, all)).toBeNull()
    expect(moved(10_000, all)).toBe(5000)
  })

  it('is where it was said when all is played faster', () => {
    const faster = applyProgrammeEdit(made.programme, { kind: 'tempo', visits: [], rate: { num: 5, den: 4 } })
    expect(moved(5000, faster)).toBeCloseTo(4000)
  })

  it('is the last one when it is asked for beyond the end, and none of a film without pieces', () => {
    expect(moved(20_000, made.programme)).toBe(programmeLength(made.programme))
    expect(momentAt({ pieces: [] }, 0)).toBeNull()
  })
})
