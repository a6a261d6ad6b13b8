import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { unknownWords, wordsToSpell } from '.'

describe('words to spell', () => {
  it.each([
    ['The tide isn’t even; it follows a **curve**.', ['The', 'tide', "isn't", 'even', 'it', 'follows', 'curve']],
    ['See https://harbour.example/tide or write to maren@harbour.example', ['See', 'or', 'write', 'to']],
    ['5.6m at 12h, VHF on channel 8, the PDF and its ferry-boat', ['at', 'on', 'channel', 'the', 'and', 'its', 'ferry', 'boat']],
    ['Run `tidetabl --all` with tides.csv, then stop.', ['Run', 'with', 'then', 'stop']],
    ['Žižka čte přílivové tabulky', ['Žižka', 'čte', 'přílivové', 'tabulky']],
  ])('of “%s”', (text, words) => {
    expect(wordsToSpell(text).filter((word) => word.length > 1)).toEqual(words)
  })
})

describe('unknown words', () => {
  const dictionary = new Set(['the', 'rule', 'of', 'twelfths', 'is', 'old'])
  const isKnown = (word: string): boolean => dictionary.has(word.toLowerCase())
  const [one, two] = [asId<'slide'>('one'), asId<'slide'>('two')]

  it('are told once, with the slides they are on', () => {
    const texts = [
      { slide: one, text: 'The rule of twelths' },
      { slide: one, text: 'twelths, twelths' },
      { slide: two, text: 'The twelths rul' },
    ]
    expect(unknownWords(texts, isKnown, [])).toEqual([
      { word: 'twelths', slides: [one, two] },
      { word: 'rul', slides: [two] },
    ])
  })

  it('are none that the talk has among its own, in any case and with an s behind', () => {
    const texts = [{ slide: one, text: "Skerrow's rule is old, SKERROW. Old Marrak" }]
    expect(unknownWords(texts, isKnown, ['Skerrow', 'Ilse Marrak'])).toEqual([])
  })
})
