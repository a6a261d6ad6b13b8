import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import type { Programme } from '@core/model'
import { pieceStarts, programmeLength, reopen, seamsOf, sourceAt, visitsOf } from '@core/programme'
import { withMarks } from './0012-cuts-are-marks'
import type { OldProgramme } from './0012-cuts-are-marks'

/**
 * Talks as they were kept before, the demo talk as it was recorded and edited among them, with what was on at some of their times, and
 * what was cut; made by the program of then.
 */
interface Kept {
  readonly programme: OldProgramme & {
    readonly inkAdded: readonly { readonly stretch: string | null; readonly at: number; readonly visit: string }[]
  }
  readonly length: number
  readonly seen: readonly { readonly at: number; readonly slide: string; readonly stretch?: string; readonly source?: number }[]
  readonly seams: readonly { readonly at: number; readonly length: number }[]
}
const kept = JSON.parse(readFileSync('tests/server/histories/before-cuts-were-marks.json', 'utf8')) as readonly Kept[]
const converted = (one: Kept): Programme => withMarks(one.programme) as unknown as Programme
/** Lengths of pieces were rounded to the millisecond; now they are exact. */
const grainOf = (programme: Programme): number => 1 + programme.pieces.length / 2

describe('programmes that were kept before cuts were marks', () => {
  it('play as they did', () => {
    for (const one of kept) {
      const now = converted(one)
      const starts = pieceStarts(now)
      expect(Math.abs(programmeLength(now) - one.length)).toBeLessThanOrEqual(grainOf(now))
      for (const { at, slide, stretch, source } of one.seen) {
        const n = now.pieces.findIndex((piece, index) => piece.out === undefined && at < (starts[index + 1] ?? 0))
        const piece = now.pieces[n]
        expect(piece?.slide).toBe(slide)
        if (stretch === undefined || piece?.kind !== 'recorded') continue
        expect(piece.show.stretch).toBe(stretch)
        expect(Math.abs(sourceAt(piece.show, at - (starts[n] ?? 0)) - (source ?? 0))).toBeLessThanOrEqual(grainOf(now))
      }
    }
  })

  it('show every cut that they showed, and each opens to what it held', () => {
    let seen = 0
    for (const one of kept) {
      const now = converted(one)
      const seams = seamsOf(now)
      for (const { at, length } of one.seams) {
        seen += 1
        const there = seams.find((seam) => Math.abs(seam.at - at) <= grainOf(now) && Math.abs(seam.length - length) <= grainOf(now))
        expect(there, JSON.stringify({ at, length })).toBeDefined()
        if (there !== undefined)
          expect(programmeLength(reopen(now, there.id))).toBeCloseTo(
            programmeLength(now) + seams.filter(({ id }) => id === there.id).reduce((sum, seam) => sum + seam.length, 0),
            6,
          )
      }
    }
    expect(seen).toBeGreaterThan(20)
  })

  it('have each visit in one place, and their ink on what it lay on', () => {
    let inked = 0
    for (const one of kept) {
      const now = converted(one)
      const runs = now.pieces.filter((piece, n) => now.pieces[n - 1]?.visit !== piece.visit).map((piece) => piece.visit)
      expect(new Set(runs).size).toBe(runs.length)
      const played = new Set(visitsOf(now).map(({ id }) => id))
      for (const ink of now.inkAdded) {
        if (ink.over.kind !== 'still') continue
        const held = now.pieces.find(
          (piece) => piece.kind === 'still' && piece.still === ink.over.id && ink.at >= piece.from && ink.at < piece.to,
        )
        if (played.has(ink.visit)) expect(held?.visit).toBe(ink.visit)
        inked += 1
      }
    }
    expect(inked).toBeGreaterThan(2)
  })
})
