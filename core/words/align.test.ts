import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alignWords } from './align'
import type { HeardWord } from './align-path'
import { writtenText } from './written-text'

const NOTES = [
  'Low water was at six, with 80 cm over the sill. Our boat needs 2.6 m. Can we leave at nine?',
  'Seafarers keep this in six numbers. Skerrow wrote them down in 1912. Add them up, and you have twelve.',
]
const texts = NOTES.map((notes) => writtenText(notes, 'en'))
const soundsOf = (text: number): readonly string[] => texts[text]?.tokens.map(({ sound }) => sound) ?? []
/** Words one after the other, each as long as its letters take. */
function heardAs(sounds: readonly string[], sure = 0.95): readonly HeardWord[] {
  let at = 0
  return sounds.map((sound) => {
    const from = at
    at += 70 * (sound.length + 1)
    return { sound, from, until: at, sure }
  })
}
const shown = [{ from: 0, until: 1_000_000, text: 0 }]
const told = (sounds: readonly string[], sure = 0.95): string =>
  alignWords(heardAs(sounds, sure), texts, shown)
    .words.map(({ text }) => text)
    .join(' ')

describe('words heard as they are written', () => {
  it('are spelt and marked as they are written, numbers and units included', () => {
    expect(told([...soundsOf(0), ...soundsOf(1)])).toBe(NOTES.join(' '))
  })

  it('are found again when they are read in another order, repeated, or passed over', () => {
    const [first, second] = [soundsOf(0), soundsOf(1)]
    expect(told([...second, ...first])).toBe(`${NOTES[1] ?? ''} ${NOTES[0] ?? ''}`)
    expect(told([...first, ...first])).toBe(`${NOTES[0] ?? ''} ${NOTES[0] ?? ''}`)
    const last = 'add them up and you have twelve'.split(' ')
    expect(told([...first, ...last])).toBe(`${NOTES[0] ?? ''} Add them up, and you have twelve.`)
  })

  it('are in order and in time, whatever is said between them', () => {
    const free = fc.constantFrom('window', 'sorry', 'yesterday', 'brother', 'noise', 'list')
    const parts = fc.array(fc.oneof(fc.constant<'read'>('read'), fc.array(free, { minLength: 1, maxLength: 30 })), { maxLength: 5 })
    fc.assert(
      fc.property(parts, (said) => {
        const heard = heardAs(said.flatMap((part) => (part === 'read' ? [...soundsOf(0)] : part)))
        const { words } = alignWords(heard, texts, shown)
        words.forEach(({ from, until }, n) => {
          expect(until).toBeGreaterThanOrEqual(from)
          expect(from).toBeGreaterThanOrEqual(words[n - 1]?.from ?? 0)
        })
        const whole = words.map(({ text }) => text).join(' ')
        expect(whole.split(NOTES[0] ?? '').length - 1).toBe(said.filter((part) => part === 'read').length)
      }),
      { numRuns: 60 },
    )
  })

  it('are found in an hour of speech that is much alike', () => {
    const long = Array.from({ length: 400 }, (_, n) => `Sentence ${String(n)} is about the tide, the boat and number ${String(n * 7)}.`)
    const many = [writtenText(long.join(' '), 'en')]
    const sounds = many[0]?.tokens.map(({ sound }) => sound) ?? []
    const heard = heardAs([...sounds, ...sounds])
    const { words } = alignWords(heard, many, shown)
    expect(words.every(({ source }) => source === 'written')).toBe(true)
  })
})

describe('what departs from what is written', () => {
  const sounds = soundsOf(0)

  it('is marked where it was left out', () => {
    const { words, unsaid } = alignWords(heardAs([...sounds.slice(0, 4), ...sounds.slice(6)]), texts, shown)
    expect(words.map(({ text }) => text).join(' ')).toBe(
      'Low water was at 80 cm over the sill. Our boat needs 2.6 m. Can we leave at nine?',
    )
    expect(unsaid).toEqual([{ before: 4, text: 'six, with' }])
  })

  it('stands as it was heard where it was added', () => {
    const { words, unsaid } = alignWords(heardAs([...sounds.slice(0, 5), 'yesterday', 'morning', ...sounds.slice(5)]), texts, shown)
    expect(words.filter(({ source }) => source === 'heard').map(({ text }) => text)).toEqual(['yesterday', 'morning'])
    expect(unsaid).toEqual([])
  })

  it('is taken for what is written where it was hardly heard and takes as long, and not where it was heard well', () => {
    const changed = [...sounds.slice(0, 1), 'bishop', ...sounds.slice(2)]
    expect(told(changed, 0.2)).toBe(NOTES[0])
    expect(alignWords(heardAs(changed), texts, shown).unsaid).toEqual([{ before: 1, text: 'water' }])
    expect(told(changed)).toContain('Low bishop was at')
  })

  it('is all there is where nothing is written', () => {
    const heard = heardAs(['nobody', 'wrote', 'this'])
    expect(alignWords(heard, [], []).words.map(({ text, source }) => [text, source])).toEqual([
      ['nobody', 'heard'],
      ['wrote', 'heard'],
      ['this', 'heard'],
    ])
  })
})
