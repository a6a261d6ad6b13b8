import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { FilmWord } from './film-words'
import { slipsOf } from './slips'

/** Words of 300 ms, each followed by a silence of so many ms as stand behind a bar; 50 where none do. A word in brackets is not written. */
function words(text: string): readonly FilmWord[] {
  let at = 1000
  return text.split(' ').map((part) => {
    const [said = '', pause = '50'] = part.split('|')
    const from = at
    at += 300 + Number(pause)
    const recorded = { stretch: asId<'stretch'>('s'), from, until: from + 300 }
    const heard = said.startsWith('(')
    return {
      text: said.replaceAll(/[()]/g, ''),
      from,
      until: from + 300,
      sure: 1,
      source: heard ? 'heard' : 'written',
      correction: null,
      visit: asId('v'),
      slide: asId('one'),
      recorded,
      unsaid: '',
    }
  })
}
const found = (text: string, notes = ''): readonly string[] =>
  slipsOf({ words: words(text), notesOf: () => notes, peaksOf: () => [] }).map(({ kind, words: gone }) => `${kind}: ${gone}`)

describe('slips', () => {
  it('are sentences begun again, of which the first try goes', () => {
    expect(found('The tide is|400 the tide is rising.')).toEqual(['again: The tide is'])
    expect(found('We tie the the rope.')).toEqual(['again: the'])
  })

  it('are fillers and silences inside a sentence', () => {
    expect(found('Tie (um) the|1500 rope.')).toEqual(['filler: um', 'hesitation: the … rope.'])
  })

  it('are sentences that were broken off within a word, which is badly heard then', () => {
    expect(found('The tide in (have)|300 the tide in harbours is rising.')).toEqual(['again: The tide in have'])
    expect(found('The (have)|300 the tide is rising.')).toEqual([])
  })

  it('are sounds that are no word: silence is on either side of them, and they are as loud as the voice', () => {
    const said = words('Tie the|900 rope tightly.|200 Then pull.')
    const [before, after] = [said[1], said[2]]
    const peaks = Array.from({ length: 120 }, (_, n) => {
      const at = n * 50
      return said.some(({ from, until }) => at + 50 > from && at < until) ? 100 : 1
    })
    const noise = (from: number, to: number, level: number) => peaks.map((peak, n) => (n * 50 >= from && n * 50 < to ? level : peak))
    const slips = (heard: readonly number[]) => slipsOf({ words: said, notesOf: () => '', peaksOf: () => heard })
    const start = before?.until ?? 0
    const [cough] = slips(noise(start + 300, start + 550, 120))
    expect(cough).toMatchObject({ kind: 'noise', words: 'the … rope' })
    expect(cough?.from).toBeGreaterThan(start)
    expect(cough?.from).toBeLessThanOrEqual(start + 300)
    expect(cough?.to).toBeGreaterThanOrEqual(start + 550)
    expect(cough?.to).toBeLessThan(after?.from ?? 0)
    // Cut, it is heard no more, whatever the recording holds.
    const mended = said.map((word, n) => (n < 2 ? word : { ...word, from: word.from - 600, until: word.until - 600 }))
    expect(slipsOf({ words: mended, notesOf: () => '', peaksOf: () => noise(start + 300, start + 550, 120) })).toEqual([])
    // A breath, the end of a word, and nothing.
    expect([noise(start + 300, start + 550, 12), noise(start, start + 200, 120), peaks].map((heard) => slips(heard).length)).toEqual([
      0, 0, 0,
    ])
  })

  it.each([
    ['what is written twice', 'Then three, and three again. Very very slowly.', ''],
    ['words that are written so', 'It goes on and on and on without end.', 'It goes on and on and on without end.'],
    ['a word that is doubled for its sake', 'It is very very deep.', ''],
    ['a pause after a sentence or a clause', 'Low water.|3000 Then,|1500 high water.', ''],
    ['a sentence that is said twice', 'Count the birds.|500 Count the birds.', ''],
    ['nothing', 'One', ''],
  ])('are not %s', (_, said, notes) => {
    expect(found(said, notes)).toEqual([])
  })

  it('are cut between words, and touch none that stays', () => {
    const said = words('Look. The tide is|400 the tide is rising.')
    const [slip] = slipsOf({ words: said, notesOf: () => '', peaksOf: () => [9, 9, 9, 9] })
    const [before, first, last, next] = [said[0], said[1], said[3], said[4]]
    expect(slip?.from).toBeGreaterThanOrEqual(before?.until ?? 0)
    expect(slip?.from).toBeLessThanOrEqual(first?.from ?? 0)
    expect(slip?.to).toBeGreaterThanOrEqual(last?.until ?? 0)
    expect(slip?.to).toBeLessThanOrEqual(next?.from ?? 0)
  })
})
