import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { freeOnAll, freePlaces, insetPlaces, placeOverDeck } from '@core/layout'
import type { InsetPlace } from '@core/layout'

const WIDE = { width: 16, height: 9 }
const places = insetPlaces(WIDE)

/** A page of which a part is taken up. */
const page = (part: { x: number; y: number; w: number; h: number } | null, width = 256, height = 144) => {
  const taken = new Uint8Array(width * height)
  if (part !== null)
    for (let y = Math.round(part.y * height); y < Math.round((part.y + part.h) * height); y += 1)
      taken.fill(1, y * width + Math.round(part.x * width), y * width + Math.round((part.x + part.w) * width))
  return { width, height, taken }
}
const free = (part: Parameters<typeof page>[0]): string => freePlaces(page(part), places, WIDE, WIDE)
const rectOf = (place: number | null | undefined) => places[place ?? -1]?.rect

describe('freePlaces', () => {
  it('are those that touch nothing, air round them counted', () => {
    const part = { x: 0.5, y: 0.4, w: 0.2, h: 0.2 }
    for (const [n, is] of [...free(part)].entries()) {
      const { x, y, w, h } = rectOf(n) ?? { x: 0, y: 0, w: 0, h: 0 }
      const apart = x > part.x + part.w + 0.03 || x + w < part.x - 0.03 || y > part.y + part.h + 0.03 || y + h < part.y - 0.03
      const touches = x < part.x + part.w && x + w > part.x && y < part.y + part.h && y + h > part.y
      if (apart) expect(is).toBe('1')
      if (touches) expect(is).toBe('0')
    }
  })

  it('on several steps are those that are free on all', () => {
    const left = free({ x: 0, y: 0, w: 0.5, h: 1 })
    const right = free({ x: 0.5, y: 0, w: 0.5, h: 1 })
    expect(freeOnAll([left, right])).not.toContain('1')
    expect(freeOnAll([left, left])).toBe(left)
  })

  it('of a page that is fitted into wider slides are beside it too', () => {
    const all = { x: 0, y: 0, w: 1, h: 1 }
    const upright = freePlaces(page(all, 144, 256), places, { width: 9, height: 16 }, WIDE)
    expect(upright).toContain('1')
  })
})

describe('placeOverDeck', () => {
  it('stays where it is through a deck, even in a place it likes less, and moves only where it must', () => {
    const foot = free({ x: 0, y: 0.6, w: 1, h: 0.4 })
    const open = free(null)
    expect(new Set(placeOverDeck([open, foot, open, foot, open], places)).size).toBe(1)
    // Nothing is free on both halves of the deck: one move, where the halves meet.
    const head = free({ x: 0, y: 0, w: 1, h: 0.6 })
    const chosen = placeOverDeck([foot, open, foot, head, head, open], places)
    expect(chosen.filter((place, n) => n > 0 && place !== chosen[n - 1])).toHaveLength(1)
    expect(chosen[0] !== chosen[5]).toBe(true)
  })

  it('has no place where none is free, and goes on behind', () => {
    const full = free({ x: 0, y: 0, w: 1, h: 1 })
    const [one, two, three, four] = placeOverDeck([free(null), full, null, free(null)], places)
    expect([two, three]).toEqual([null, null])
    expect(one).toBe(four)
  })

  it('costs least of all ways of placing it', () => {
    const few: readonly InsetPlace[] = [0, 1, 2.5, 7].map((cost) => ({ rect: { x: 0, y: 0, w: 0.1, h: 0.1 }, cost }))
    const slide = fc.stringMatching(/^[01]{4}$/)
    fc.assert(
      fc.property(fc.array(slide, { minLength: 1, maxLength: 5 }), (deck) => {
        const costOf = (way: readonly (number | null)[]): number => {
          const there = way.flatMap((place) => (place === null ? [] : [place]))
          return there.reduce((sum, place, n) => sum + (few[place]?.cost ?? 0) + (n > 0 && there[n - 1] !== place ? 6 : 0), 0)
        }
        const ways = deck.reduce<readonly (readonly (number | null)[])[]>(
          (before, one) => {
            const here = one.includes('1') ? [0, 1, 2, 3].filter((n) => one[n] === '1') : [null]
            return before.flatMap((way) => here.map((place) => [...way, place]))
          },
          [[]],
        )
        const chosen = placeOverDeck(deck, few)
        expect(ways.some((way) => way.join() === chosen.join())).toBe(true)
        expect(costOf(chosen)).toBeCloseTo(Math.min(...ways.map(costOf)))
      }),
    )
  })
})
