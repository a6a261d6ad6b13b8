import { expect, it } from 'vitest'
import { asId } from '@core/model'
import { hitsIn, searchable } from '.'

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
