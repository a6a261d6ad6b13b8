import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { FilmWord } from './film-words'
import { sayingsOf } from './sayings'
import { transcriptOf } from './transcript'

function spoken(
  visit: string,
  slide: string,
  from: number,
  text: string,
  pauseAfter: Readonly<Record<string, number>> = {},
): readonly FilmWord[] {
  let at = from
  return text.split(' ').map((word) => {
    const begins = at
    at += 300 + (pauseAfter[word] ?? 0)
    const recorded = { stretch: asId<'stretch'>('s'), from: begins, until: begins + 280 }
    return {
      text: word,
      from: begins,
      until: begins + 280,
      sure: 1,
      source: 'written',
      correction: null,
      visit: asId(visit),
      slide: asId(slide),
      recorded,
      unsaid: '',
    }
  })
}
const words = [
  ...spoken('v1', 'one', 0, 'Good evening. Um, here is the question. Can we leave?', { 'evening.': 1200 }),
  ...spoken('v2', 'two', 9000, 'It hurries in the middle.'),
]

describe('a transcript', () => {
  it('has a part for each slide, and paragraphs where somebody pauses after a sentence', () => {
    expect(transcriptOf(words, false)).toMatchObject([
      { slide: 'one', from: 0, paragraphs: ['Good evening.', 'Um, here is the question. Can we leave?'] },
      { slide: 'two', from: 9000, paragraphs: ['It hurries in the middle.'] },
    ])
  })

  it('leaves fillers out where it is tidied', () => {
    expect(transcriptOf(words, true)[0]?.paragraphs[1]).toBe('here is the question. Can we leave?')
  })
})

describe('what is said going along', () => {
  it('is said sentence by sentence', () => {
    expect(sayingsOf(words).map(({ from, words: one }) => [from, one])).toEqual([
      [0, 'Good evening.'],
      [1800, 'Um, here is the question.'],
      [3300, 'Can we leave?'],
      [9000, 'It hurries in the middle.'],
    ])
  })
})
