import { describe, expect, it } from 'vitest'
import { emptyComposition } from '@core/compose'
import { asId } from '@core/model'
import type { Step } from '@core/model'
import { linksOn } from '.'

const [SOURCE, ADDRESS] = [asId<'asset'>('a'.repeat(64)), 'https://knots.example/']
/** A page as wide as high, with a link over its right half. */
const page: Step = {
  picture: { kind: 'page', source: SOURCE, page: 1, size: { width: 100, height: 100 }, screen: SOURCE, thumb: SOURCE },
  content: '',
  text: '',
  links: [{ box: { x: 0.5, y: 0, w: 0.5, h: 1 }, address: ADDRESS }],
}
const WHOLE = { x: 0, y: 0, w: 1, h: 1 }

describe('links on a slide', () => {
  it('lie where the page is drawn: between the bars of one that has not the shape of the deck, and in its part of the picture', () => {
    const shape = { width: 200, height: 100 }
    expect(linksOn({ shown: page, stage: WHOLE }, shape)).toEqual([{ address: ADDRESS, box: { x: 0.5, y: 0, w: 0.25, h: 1 } }])
    // Half as wide, the page fills its part.
    const stage = { x: 0.5, y: 0, w: 0.5, h: 1 }
    expect(linksOn({ shown: page, stage }, shape)).toEqual([{ address: ADDRESS, box: { x: 0.75, y: 0, w: 0.25, h: 1 } }])
  })

  it('lie on a slide made here as they are laid out on it', () => {
    const composition = emptyComposition('plate', 'paper')
    const shape = { width: 16, height: 9 }
    const made: Step = { ...page, picture: { kind: 'composed', composition, shown: 0, clear: null, size: shape } }
    expect(linksOn({ shown: made, stage: WHOLE }, shape)).toEqual(page.links)
  })

  it('are none while the screen is blank, and where the page has none', () => {
    const shape = { width: 200, height: 100 }
    expect(linksOn({ shown: null, stage: WHOLE }, shape)).toEqual([])
    const { links, ...bare } = page
    expect([links?.length, linksOn({ shown: bare, stage: WHOLE }, shape)]).toEqual([1, []])
  })
})
