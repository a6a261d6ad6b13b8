import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MOST_LINES, MOST_SIGNS, MOST_WIDE_SIGNS } from '@core/model'
import { LONGEST_CAPTION, captionsOf } from './captions'

function spoken(texts: readonly string[], pauses: readonly number[] = []): { text: string; from: number; until: number }[] {
  let at = 500
  return texts.map((text, n) => {
    const from = at
    at += 60 * (text.length + 1)
    const until = at
    at += pauses[n] ?? 0
    return { text, from, until }
  })
}
const read =
  'Low water was at six, with eighty centimetres over the sill. High water comes at noon. Our boat needs two metres sixty. Can we leave?'

describe('captions', () => {
  it('are broken where a sentence or a clause ends', () => {
    expect(captionsOf(spoken(read.split(' ')), 'en').map(({ lines }) => lines)).toEqual([
      ['Low water was at six,', 'with eighty centimetres over the sill.'],
      ['High water comes at noon.', 'Our boat needs two metres sixty.'],
      ['Can we leave?'],
    ])
  })

  it('say every word once, in its time, in lines that fit, whatever is said', () => {
    const word = fc.oneof(
      fc.constantFrom('a', 'the', 'tide', 'sixty.', 'and,', 'why?'),
      fc.string({ minLength: 1, maxLength: 60, unit: fc.constantFrom('x', 'y', 'z') }),
    )
    const words = fc.array(fc.tuple(word, fc.integer({ min: 0, max: 4000 })), { maxLength: 60 })
    fc.assert(
      fc.property(words, fc.constantFrom('en', 'ja'), (all, language) => {
        const said = spoken(
          all.map(([text]) => text),
          all.map(([, pause]) => pause),
        )
        const captions = captionsOf(said, language)
        const plain = (text: string): string => text.replaceAll(' ', '')
        expect(plain(captions.flatMap(({ lines }) => lines).join(''))).toBe(plain(all.map(([text]) => text).join('')))
        captions.forEach(({ from, until, lines }, n) => {
          expect(lines.length).toBeLessThanOrEqual(MOST_LINES)
          for (const line of lines) expect(line.length).toBeLessThanOrEqual(language === 'ja' ? MOST_WIDE_SIGNS : MOST_SIGNS)
          expect(until - from).toBeLessThanOrEqual(LONGEST_CAPTION)
          expect(until).toBeGreaterThan(from)
          expect(captions[n + 1]?.from ?? Infinity).toBeGreaterThanOrEqual(until)
        })
      }),
      { numRuns: 120 },
    )
  })

  it('end with a long silence, and stay a second where there is room', () => {
    const captions = captionsOf(spoken(['Yes.', 'Now', 'the', 'sum.'], [3000]), 'en')
    expect(captions.map(({ lines }) => lines)).toEqual([['Yes.'], ['Now the sum.']])
    expect((captions[0]?.until ?? 0) - (captions[0]?.from ?? 0)).toBeGreaterThanOrEqual(1000)
  })

  it('are none where nothing is said', () => {
    expect(captionsOf([], 'en')).toEqual([])
  })
})
