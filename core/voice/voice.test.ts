import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NOTHING_HEARD, PEAKS_A_SECOND, heard, levelVerdict, listened, roomOf, silenceLevel, silencesOf, spokenTime } from '.'
import type { LevelBlock } from '.'

const of = (...parts: readonly (readonly [number, number])[]): readonly number[] =>
  parts.flatMap(([value, seconds]) => Array.from({ length: Math.round(seconds * PEAKS_A_SECOND) }, () => value))

describe('silences', () => {
  it('are found where nobody speaks, in a still room and in a noisy one', () => {
    for (const room of [0, 1, 6]) {
      expect(silencesOf(of([90, 2], [room, 6], [120, 1], [room, 0.2], [90, 3]), 5000)).toEqual([{ from: 2000, to: 8000 }])
    }
  })

  it('are not broken by a click, but are by a word', () => {
    expect(silencesOf(of([90, 1], [0, 3], [90, 0.05], [0, 3], [90, 1]), 5000)).toEqual([{ from: 1000, to: 7050 }])
    expect(silencesOf(of([90, 1], [0, 3], [90, 0.4], [0, 3], [90, 1]), 5000)).toEqual([])
  })

  it('and what is spoken make up the whole', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(0, 1, 80, 120, 200), { minLength: 1, maxLength: 400 }), (peaks) => {
        const length = peaks.length * 50
        const silent = silencesOf(peaks, 300).reduce((sum, silence) => sum + silence.to - silence.from, 0)
        expect(spokenTime(peaks, 0, length)).toBe(length - silent)
        expect(spokenTime(peaks, 0, Math.floor(length / 2)) + spokenTime(peaks, Math.floor(length / 2), length)).toBe(length - silent)
      }),
    )
  })

  it('of a voice that never stops are none', () => {
    expect(silencesOf(of([120, 20]), 300)).toEqual([])
    expect(silenceLevel(of([120, 20]))).toBeLessThanOrEqual(-28)
  })
})

/** Blocks of a level for so long. */
const level = (peak: number, ms: number, from = 0): readonly LevelBlock[] =>
  Array.from({ length: ms / 50 }, (_, n) => ({ at: from + n * 50, peak, rms: peak - 12 }))
const judged = (blocks: readonly LevelBlock[]) => levelVerdict(blocks.reduce<readonly LevelBlock[]>(heard, []))

describe('what a level means', () => {
  it('is said from the loudest moments of the last three seconds', () => {
    expect(judged(level(-12, 3000))).toBe('good')
    expect(judged(level(-40, 3000))).toBe('quiet')
    expect(judged(level(-80, 3000))).toBe('nothing')
    expect(judged([...level(-12, 2000), ...level(-0.1, 50, 2000)])).toBe('clipping')
    expect(judged([...level(-0.1, 1000), ...level(-12, 3100, 1000)])).toBe('good')
  })

  it('is not said before it was listened to', () => {
    expect(judged([])).toBe('waiting')
    expect(judged(level(-80, 1000))).toBe('waiting')
    // Sound that a busy machine loses does not make it begin again.
    expect(judged([...level(-80, 1500), ...level(-80, 1500, 6500)])).toBe('nothing')
  })

  it('of a room leaves a cough out', () => {
    const still = level(-58, 2600)
    expect(roomOf(still).verdict).toBe('still')
    expect(roomOf([...still, ...level(-8, 400, 2600)]).verdict).toBe('still')
    expect(roomOf(level(-40, 3000)).verdict).toBe('usual')
    expect(roomOf(level(-30, 3000)).verdict).toBe('noisy')
    expect(roomOf(level(-20, 3000)).verdict).toBe('loud')
  })
})

describe('a listener', () => {
  const listen = (blocks: readonly number[]) =>
    blocks.reduce((states, rms, n) => [...states, listened(states.at(-1) ?? NOTHING_HEARD, rms, n * 50)], [NOTHING_HEARD]).slice(1)

  it('hears speech and its pauses in a noisy room', () => {
    const room = Array.from({ length: 40 }, () => -48)
    const speech = Array.from({ length: 40 }, (_, n) => (n % 5 === 4 ? -45 : -24))
    const states = listen([...room, ...speech, ...room])
    expect(states.slice(30, 40).some((state) => state.speaking)).toBe(false)
    expect(states.slice(40, 80).every((state) => state.speaking)).toBe(true)
    expect(states.slice(86).some((state) => state.speaking)).toBe(false)
    expect(states.at(-1)?.since).toBeGreaterThan(79 * 50)
  })
})
