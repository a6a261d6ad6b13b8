import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { stretch } from '@core/testing'
import { reportOf } from '.'
import type { HeardStretch } from '.'

const one = asId<'slide'>('one')
const two = asId<'slide'>('two')
/** A voice of parts: how loud, for how many seconds. */
const voice = (...parts: readonly (readonly [number, number])[]): readonly number[] =>
  parts.flatMap(([value, seconds]) => Array.from({ length: seconds * 20 }, () => value))
const heard = (name: string, length: number, peaks: readonly number[], more: Partial<HeardStretch> = {}): HeardStretch => ({
  ...stretch(name, length, one),
  peaks,
  loudness: -18,
  cameraLost: 0,
  timing: 'measured',
  ...more,
})

describe('what you have after a take', () => {
  it('names long silences and muted parts where they are in the take, and a muted part is no silence', () => {
    const report = reportOf([
      heard('a', 20_000, voice([90, 4], [0, 7], [90, 9])),
      heard('b', 30_000, voice([90, 5], [0, 10], [90, 15]), {
        cues: [
          { kind: 'mute', at: 5000, on: true },
          { kind: 'mute', at: 15_000, on: false },
        ],
      }),
    ])
    expect(report.silences).toEqual([{ at: 4000, length: 7000 }])
    expect(report.muted).toEqual([{ at: 25_000, length: 10_000 }])
  })

  it('counts only what was not said again', () => {
    const report = reportOf([
      heard('a', 20_000, voice([90, 8], [0, 12]), {
        kept: 8000,
        cues: [
          { kind: 'stumble', at: 7000 },
          { kind: 'show', at: 9000, slide: two, step: 0 },
          { kind: 'stumble', at: 9500 },
        ],
      }),
      heard('b', 6000, voice([255, 1], [90, 5])),
    ])
    expect(report).toMatchObject({ length: 14_000, silences: [], shown: [one], stumbles: 1, clipped: 1000, cameraLost: 0 })
  })

  it('says of a part that is muted to its end how long that is, and of one without a voice nothing', () => {
    expect(reportOf([heard('a', 9000, voice([0, 9]), { cues: [{ kind: 'mute', at: 2000, on: true }] })]).muted).toEqual([
      { at: 2000, length: 7000 },
    ])
    expect(reportOf([heard('a', 9000, [], { voice: false, loudness: null })])).toMatchObject({ silences: [], loudness: null, length: 9000 })
  })

  it('weighs loudness by length and power', () => {
    expect(reportOf([heard('a', 30_000, [], { loudness: -20 }), heard('b', 10_000, [], { loudness: null })]).loudness).toBe(-20)
    const mixed = reportOf([heard('a', 10_000, [], { loudness: -20 }), heard('b', 10_000, [], { loudness: -30 })]).loudness
    expect(mixed).toBeCloseTo(-22.6, 1)
  })
})
