import { describe, expect, it } from 'vitest'
import type { Word } from '@core/model'
import { unexplainedParts } from './unexplained-parts'

/** A word for each letter, a second long: w was heard as it is written, b badly, h is not written. */
const words = (kinds: string): readonly Word[] =>
  [...kinds].map((kind, n) => ({
    text: kind,
    from: n * 1000,
    until: n * 1000 + 900,
    sure: kind === 'b' ? 0.6 : 1,
    source: kind === 'h' ? 'heard' : 'written',
  }))
const parts = (kinds: string): string =>
  unexplainedParts({ words: words(kinds), unsaid: [] })
    .map(({ from, to }) => `${String(from / 1000)}-${String(to)}`)
    .join(' ')

describe('parts that what is written does not explain', () => {
  it.each([
    ['wwwhhww', '3-6900'],
    ['wwwhwwh', '3-6900'],
    ['wwwhwwwh', '3-3900 7-7900'],
    ['wwhh', '0-3900'],
    ['wwwhh', '3-4900'],
    ['wwwbbwwh', '3-7900'],
    ['wwwbbwww', ''],
    ['hhwwbwww', '0-1900'],
    ['ww', ''],
    ['wwww', ''],
    ['', ''],
  ])('of %s are %s', (kinds, found) => {
    expect(parts(kinds)).toBe(found)
  })
})
