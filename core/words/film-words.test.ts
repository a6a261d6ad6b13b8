import { describe, expect, it } from 'vitest'
import type { Film, Said } from '@core/model'
import { applyProgrammeEdit } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { corrected } from './correct'
import { filmWords } from './film-words'

const said: Said = {
  words: ['One', 'two', 'three', 'four', 'five'].map((text, n) => ({
    text,
    from: n * 1000 + 100,
    until: n * 1000 + 900,
    sure: 0.9,
    source: 'written',
  })),
  unsaid: [{ before: 2, text: 'and a half' }],
}

const whole = film([slide('one')], [stretch('voice', 5000, slide('one').id)])
const words = (of: Film, corrections: Parameters<typeof corrected>[1] = []) =>
  filmWords(indexFilm(of), new Map([...of.stretches.keys()].map((id) => [id, corrected(said, corrections)])))
const edited = (edit: Parameters<typeof applyProgrammeEdit>[1]): Film => ({
  ...whole,
  programme: applyProgrammeEdit(whole.programme, edit),
})

describe('words of a film', () => {
  it('are those of its recordings, in its time, with what was not said before them', () => {
    expect(words(whole).map(({ text, from, unsaid }) => [text, from, unsaid])).toEqual([
      ['One', 100, ''],
      ['two', 1100, ''],
      ['three', 2100, 'and a half'],
      ['four', 3100, ''],
      ['five', 4100, ''],
    ])
  })

  it('are gone with what was cut, and the rest moves with it', () => {
    const cut = words(edited({ kind: 'cut', parts: [{ from: 1000, to: 3000 }] }))
    expect(cut.map(({ text, from, unsaid }) => [text, from, unsaid])).toEqual([
      ['One', 100, ''],
      ['four', 1100, ''],
      ['five', 2100, ''],
    ])
  })

  it('say what was put right, in its time, and what was heard once that is taken back', () => {
    const right = [{ id: 'c', from: 1000, until: 3000, text: 'Skerrow Sound' }]
    expect(words(whole, right).map(({ text, correction }) => [text, correction])).toEqual([
      ['One', null],
      ['Skerrow', 'c'],
      ['Sound', 'c'],
      ['four', null],
      ['five', null],
    ])
    expect(words(whole, [{ id: 'c', from: 1000, until: 3000, text: '' }]).map(({ text }) => text)).toEqual(['One', 'four', 'five'])
  })
})
