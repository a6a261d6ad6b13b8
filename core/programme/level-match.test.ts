import { describe, expect, it } from 'vitest'
import { AS_RECORDED, EMPTY_PROGRAMME, asId } from '@core/model'
import type { Piece, StretchId } from '@core/model'
import { recorded } from '@core/testing'
import { gainsOf } from '.'

const heard = (stretch: string, length: number): Piece => {
  const span = { stretch: asId<'stretch'>(stretch), from: 0, to: length, rate: AS_RECORDED }
  return { ...recorded(stretch, asId('one'), 0, length), kind: 'recorded', show: span, voice: span, camera: null } as Piece
}
const known = (values: Readonly<Record<string, number | null>>): ReadonlyMap<StretchId, { readonly loudness: number | null }> =>
  new Map(Object.entries(values).map(([id, loudness]) => [asId<'stretch'>(id), { loudness }]))
const gains = (pieces: readonly Piece[], values: Readonly<Record<string, number | null>>) =>
  Object.fromEntries(gainsOf({ ...EMPTY_PROGRAMME, pieces }, known(values)))

describe('recordings of one talk', () => {
  it('are brought to one loudness, the shorter to the longer', () => {
    const found = gains([heard('a', 9000), heard('b', 1000)], { a: -20, b: -30 })
    expect(found).toEqual({ a: -0.4, b: 9.6 })
    expect(-20 + (found['a'] ?? 0)).toBe(-30 + (found['b'] ?? 0))
  })

  it('that are alone, or of which nothing is known, are left as they are', () => {
    expect(gains([heard('a', 9000)], { a: -31.4 })).toEqual({ a: 0 })
    expect(gains([heard('a', 9000), heard('b', 2000)], { a: -20, b: null })).toEqual({ a: 0, b: 0 })
  })

  it('that are very soft are not raised without end, or their room would be heard', () => {
    expect(gains([heard('a', 90_000), heard('b', 100)], { a: -18, b: -50 })['b']).toBe(10)
  })
})
