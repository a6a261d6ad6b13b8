import { describe, expect, it } from 'vitest'
import { spokenForm } from './spoken-form'

const said = (text: string, language = 'en-GB'): string =>
  spokenForm(text, language)
    .tokens.map(({ sound }) => sound)
    .join(' ')

describe('a text as it is said', () => {
  it.each([
    ['5.6 m less 0.8 m', 'five point six metres less zero point eight metres'],
    ['About 30% at 12°C', 'about thirty percent at twelve degrees celsius'],
    ['In 1912, 2,450 swifts', 'in nineteen twelve two thousand four hundred and fifty swifts'],
    ['the 3rd of sixty-two', 'the third of sixty two'],
    ['v = s/t', 'v equals s over t'],
    ['7 × 8 ≈ 56', 'seven times eight is about fifty six'],
    ['The PDF isn’t here.', "the p d f isn't here"],
    ['10 km/h', 'ten kilometres an hour'],
    ['', ''],
    ['…', ''],
  ])('says “%s”', (text, spoken) => {
    expect(said(text)).toBe(spoken)
  })

  it('knows of every sound which written word it comes from', () => {
    const { words, tokens } = spokenForm('Rises 3.5 m, then falls.', 'en')
    expect(words).toEqual(['Rises', '3.5', 'm,', 'then', 'falls.'])
    expect(tokens.map(({ word }) => word)).toEqual([0, 1, 1, 1, 2, 3, 4])
  })

  it('leaves figures alone in languages whose numbers it does not know', () => {
    expect(said('um 12 Uhr', 'de')).toBe('um 12 uhr')
  })
})
