import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { slide } from '@core/testing'
import type { FilmWord } from './film-words'
import { neverSaid } from './never-said'
import { rateAt, speakingRates } from './speaking-rate'

/** Words said on a slide, 400 ms each. */
const saidOn = (name: string, text: string, from = 0): readonly FilmWord[] =>
  text.split(' ').map((word, n) => ({
    text: word,
    from: from + n * 400,
    until: from + n * 400 + 350,
    sure: 1,
    source: 'written',
    correction: null,
    visit: asId(`visit-${name}`),
    slide: asId(name),
    recorded: { stretch: asId('s'), from: from + n * 400, until: from + n * 400 + 350 },
    unsaid: '',
  }))

describe('sentences of the notes that were never said', () => {
  const notes = 'The tide turns twice a day. **Nobody** sails before noon, on any day. Look!\n\nTurn the rope 3 times.'
  const slides = [slide('one', 1, { notes }), slide('two', 1, { notes: 'Swifts nest under the roof.' })]

  it('are those of which hardly a word was said, on any slide', () => {
    const words = [
      ...saidOn('one', 'The tide turns twice uh a day.'),
      ...saidOn('two', 'Swifts nest under our roof. Turn the rope 3 times.', 9000),
    ]
    expect(neverSaid(words, slides, 'en')).toEqual([{ slide: 'one', sentences: ['Nobody sails before noon, on any day.'] }])
  })

  it('are not looked for where nobody listened, or nothing is written', () => {
    expect(neverSaid(saidOn('two', 'Swifts nest under the roof.'), slides, 'en')).toEqual([])
    expect(neverSaid(saidOn('one', 'Good morning'), [slide('one')], 'en')).toEqual([])
  })
})

describe('how fast somebody speaks', () => {
  it('is told over the talk, at its ends too, and is nothing in a silence', () => {
    // 150 words a minute for 40 s, then 40 s of silence.
    const rates = speakingRates(saidOn('one', Array.from({ length: 100 }, () => 'calm').join(' ')), 80_000)
    expect(rateAt(rates, 0)).toBeCloseTo(150, -1)
    expect(rateAt(rates, 20_000)).toBeCloseTo(150, -1)
    expect(rateAt(rates, 60_000)).toBe(0)
    expect(rates.at(-1)).toEqual({ at: 80_000, wordsPerMinute: 0 })
    expect(rateAt(speakingRates([], 80_000), 10)).toBeNull()
  })
})
