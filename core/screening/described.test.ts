import { describe, expect, it } from 'vitest'
import { emptyComposition, recomposed } from '@core/compose'
import { asId } from '@core/model'
import { slide } from '@core/testing'
import { descriptionOf } from '.'

const picture = (alt: string) => ({ asset: asId<'asset'>('a'.repeat(64)), size: { width: 4, height: 3 }, alt })
const withPictures = (...alts: readonly string[]) =>
  recomposed(
    { ...slide('Reef knot'), composition: { ...emptyComposition('plate', 'paper'), pictures: alts.map(picture) } },
    { width: 16, height: 9 },
  )

describe('what a slide shows', () => {
  it('is what was said of it, or else what its pictures say of themselves', () => {
    expect(descriptionOf({ ...withPictures('a knot'), description: ' Two ropes, crossed twice. ' })).toBe('Two ropes, crossed twice.')
    expect(descriptionOf(withPictures('a knot', ' ', 'the same, drawn tight'))).toBe('a knot\nthe same, drawn tight')
  })

  it('is not said where nobody said it', () => {
    expect([descriptionOf(withPictures('')), descriptionOf(slide('From a file'))]).toEqual(['', ''])
  })
})
