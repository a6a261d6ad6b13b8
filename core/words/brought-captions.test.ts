import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Said, Word } from '@core/model'
import { applyProgrammeEdit } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { correctionsFrom } from './brought-captions'
import { corrected } from './correct'
import { filmWords } from './film-words'

/** Words that were heard, half a second each, from a second on. */
const heard = (text: string): Said => ({
  words: text
    .split(' ')
    .filter((word) => word !== '')
    .map((word, n): Word => ({ text: word, from: 1000 + n * 500, until: 1450 + n * 500, sure: 0.8, source: 'heard' })),
  unsaid: [],
})
const S = asId<'stretch'>('s')
const whole = film([slide('tides')], [stretch('s', 12_000, asId('tides'))])

/** What is said in a film once a file was brought in. */
function after(said: Said, captions: Parameters<typeof correctionsFrom>[2], made = whole) {
  const index = indexFilm(made)
  const corrections = correctionsFrom(index, filmWords(index, new Map([[S, corrected(said, [])]])), captions)
  const inOrder = [...corrections].sort((one, other) => one.from - other.from)
  for (const [n, { from, until }] of inOrder.entries()) {
    expect(until).toBeGreaterThan(from)
    expect(from).toBeGreaterThanOrEqual(inOrder[n - 1]?.until ?? 0)
  }
  const words = filmWords(
    index,
    new Map([
      [
        S,
        corrected(
          said,
          corrections.map((one, n) => ({ ...one, id: String(n) })),
        ),
      ],
    ]),
  )
  return { count: corrections.length, text: words.map(({ text }) => text).join(' '), words }
}

describe('a caption file that is brought in', () => {
  it('puts right what differs alone, and what agrees keeps its exact times', () => {
    const { count, text, words } = after(heard('the tied turns twice a day'), [
      { from: 1100, until: 4000, text: 'The tide turns twice a day.' },
    ])
    expect(text).toBe('The tide turns twice a day.')
    expect(words.find((word) => word.text === 'turns')).toMatchObject({ from: 2000, until: 2450, source: 'heard' })
    // “The”, “tide” and “day.”
    expect(count).toBe(3)
  })

  it('says what was not heard at all where the file does, and nothing that the file does not', () => {
    const { text } = after(heard('uh the tide um turns'), [
      { from: 1000, until: 3500, text: 'The tide turns' },
      { from: 6000, until: 8000, text: 'twice a day.' },
    ])
    expect(text).toBe('The tide turns twice a day.')
    const nothing = after({ words: [], unsaid: [] }, [{ from: 2000, until: 4000, text: 'Nobody sails.' }])
    expect(nothing.text).toBe('Nobody sails.')
    expect(nothing.words[0]?.from).toBeGreaterThanOrEqual(2000)
    expect(nothing.words.at(-1)?.until).toBeLessThanOrEqual(4000)
  })

  it('puts in a word for which there is no time between two others', () => {
    expect(after(heard('turns twice'), [{ from: 1000, until: 2000, text: 'turns over twice' }]).text).toBe('turns over twice')
  })

  it('leaves alone what lies outside its captions, and in a long gap between them', () => {
    const said = heard('one two three four five six seven eight nine ten')
    expect(after(said, [{ from: 1000, until: 1900, text: 'One too' }]).text).toBe('One too three four five six seven eight nine ten')
    // Its times may be a little off.
    expect(after(said, [{ from: 1700, until: 2600, text: 'one two three too four' }]).text).toBe(
      'one two three too four five six seven eight nine ten',
    )
    const long = film([slide('tides')], [stretch('s', 40_000, asId('tides'))])
    const late = { words: [...said.words, { text: 'noon', from: 30_000, until: 30_400, sure: 1, source: 'heard' as const }], unsaid: [] }
    const ends = [
      { from: 1000, until: 1900, text: 'one two' },
      { from: 29_900, until: 31_000, text: 'before noon' },
    ]
    expect(after(late, ends, long).text).toBe('one two three four five six seven eight nine ten before noon')
  })

  it('is in the time of the film as it is, after what was cut', () => {
    const cut = { ...whole, programme: applyProgrammeEdit(whole.programme, { kind: 'cut', parts: [{ from: 1900, to: 3400 }] }) }
    // Of “one two three four five six” the second, third, fourth and part of the fifth are gone.
    const { text, words } = after(heard('one two three four five six'), [{ from: 1000, until: 2900, text: 'One sixth' }], cut)
    expect(text).toMatch(/^One .*sixth$/)
    expect(words.at(-1)?.recorded.from).toBeGreaterThanOrEqual(3400)
  })
})
