import { expect, it } from 'vitest'
import { asId } from '@core/model'
import { hitsIn, saidWith, searchable } from '.'

const SLIDES = searchable([
  { id: asId('one'), title: 'Bowline', text: 'A loop that holds.\nÜber die Mole', viewerNotes: '', description: '' },
  { id: asId('two'), title: 'Reef knot', text: '', viewerNotes: `${'far away '.repeat(20)}a loop, tied twice`, description: '' },
])

it('finds words on slides and in notes, however they are written, with what stands around them', () => {
  expect(hitsIn(SLIDES, ' LOOP ').map(({ slide, words }) => [slide, words])).toEqual([
    ['one', 'loop'],
    ['two', 'loop'],
  ])
  expect(hitsIn(SLIDES, 'uber')).toEqual([{ slide: 'one', before: 'A loop that holds.\n', words: 'Über', after: ' die Mole' }])
  expect(hitsIn(SLIDES, 'tied')[0]?.before).toMatch(/^….{36}$/)
  expect(hitsIn(SLIDES, 'bow').map(({ slide }) => slide)).toEqual(['one'])
  expect([hitsIn(SLIDES, '  '), hitsIn(SLIDES, 'sheepshank')]).toEqual([[], []])
})

it('finds what is said, however it is written, and nothing when nothing is sought', () => {
  const said = [{ words: 'Über die Mole.' }, { words: 'Nobody sails.' }]
  expect(saidWith(said, ' uber ')).toEqual([said[0]])
  expect([saidWith(said, ' '), saidWith(said, 'noon')]).toEqual([[], []])
})
