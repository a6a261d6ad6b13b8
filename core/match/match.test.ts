import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { clip, slide } from '@core/testing'
import { SIGNATURE, assignment, matchDecks, picturesAlike, preparedPicture, takenOver } from '.'
import type { MatchSlide } from '.'

/** What the best assignment gains, found by trying all. */
function bestGain(gains: readonly (readonly number[])[], free: ReadonlySet<number>, row = 0): number {
  const own = gains[row]
  if (own === undefined) return 0
  let best = bestGain(gains, free, row + 1)
  for (const column of free)
    best = Math.max(best, (own[column] ?? 0) + bestGain(gains, new Set([...free].filter((one) => one !== column)), row + 1))
  return best
}

describe('an assignment', () => {
  it('gains as much as the best of all assignments, and takes no column twice', () => {
    const tables = fc
      .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }))
      .chain(([rows, columns]) =>
        fc.array(fc.array(fc.nat(100), { minLength: columns, maxLength: columns }), { minLength: rows, maxLength: rows }),
      )
    fc.assert(
      fc.property(tables, (table) => {
        const columns = table[0]?.length ?? 0
        const found = assignment(
          table.map((row) => Float64Array.from(row)),
          columns,
        )
        const given = found.filter((column) => column >= 0)
        expect(new Set(given).size).toBe(given.length)
        const gain = found.reduce((sum, column, row) => sum + (table[row]?.[column] ?? 0), 0)
        expect(gain).toBe(bestGain(table, new Set(Array.from({ length: columns }, (_, n) => n))))
      }),
      { numRuns: 300 },
    )
  })
})

/** Values from 0 to 255 without any order, the same for the same seed (Lehmer, 1951). */
function noise(seed: number): () => number {
  let state = 48_271 * (seed + 1)
  return () => {
    state = (state * 48_271) % 2_147_483_647
    return state % 256
  }
}
const picture = (value: number): readonly number[] => Array.from({ length: SIGNATURE.across * SIGNATURE.down * 3 }, noise(value))
const page = (text: string, look: readonly number[] | null = null): MatchSlide => ({
  words: text.split(' '),
  title: text.split(' ').slice(0, 2).join(' '),
  picture: look,
})
const DECK = [
  'Bowline makes a loop that holds under load',
  'Clove hitch goes round a post and is quickly undone',
  'Reef knot ties two ends of one rope together',
  'Tides follow the moon twice a day',
  'Swifts come back in May to the same eaves',
].map((text, n) => page(text, picture(n)))
const pairsOf = (old: readonly MatchSlide[], now: readonly MatchSlide[]) =>
  matchDecks(old, now).pairs.map(({ old: from, now: to, sure, changed }) => [from, to, sure, changed])

describe('two decks that are compared', () => {
  it('are the same where nothing was changed, in any order', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([0, 1, 2, 3, 4]), (order) => {
        const now = order.flatMap((n) => DECK[n] ?? [])
        const { pairs, added, gone } = matchDecks(DECK, now)
        expect(pairs.map((pair) => [pair.old, pair.now])).toEqual(order.map((n, at) => [n, at]))
        expect(pairs.every((pair) => pair.sure && !pair.changed)).toBe(true)
        expect(added).toEqual([])
        expect(gone).toEqual([0, 1, 2, 3, 4].filter((n) => !order.includes(n)))
      }),
    )
  })

  it('say what was changed, what is new and what is gone', () => {
    const now = [
      DECK[0],
      page('Reef knot ties tow ends of one rop together', picture(2)),
      page('Barometers fall before a storm comes', picture(9)),
      DECK[4],
    ]
    const { pairs, added, gone } = matchDecks(
      DECK,
      now.filter((one) => one !== undefined),
    )
    expect(pairs.map(({ old, now: to, changed }) => [old, to, changed])).toEqual([
      [0, 0, false],
      [2, 1, true],
      [4, 3, false],
    ])
    expect([added, gone]).toEqual([[2], [1, 3]])
  })

  it('have no pair that is sure where slides are all the same, and keep their order', () => {
    const same = Array.from({ length: 4 }, () => page('To be continued', picture(1)))
    expect(pairsOf(same, same)).toEqual([0, 1, 2, 3].map((n) => [n, n, false, false]))
  })

  it('have none in common where they have nothing in common, or one of them is empty', () => {
    const other = ['Fog signals sound every minute', 'Charts are drawn at low water'].map((text, n) => page(text, picture(20 + n)))
    expect(pairsOf(DECK, other).filter(([, , sure]) => sure)).toEqual([])
    expect(matchDecks(DECK, [])).toEqual({ pairs: [], added: [], gone: [0, 1, 2, 3, 4] })
    expect(matchDecks([], DECK)).toEqual({ pairs: [], added: [0, 1, 2, 3, 4], gone: [] })
  })

  it('find what was only given another look', () => {
    const inverted = DECK.map((one) => ({ ...one, picture: (one.picture ?? []).map((value) => 255 - value) }))
    expect(pairsOf(DECK, inverted).map(([from, to, sure]) => [from, to, sure])).toEqual([0, 1, 2, 3, 4].map((n) => [n, n, true]))
    const one = preparedPicture(picture(1))
    expect(picturesAlike(one, null)).toBeNull()
    expect(picturesAlike(one, one)).toBeCloseTo(1, 9)
  })
})

describe('a deck that is taken over', () => {
  const framing = { ...slide('x').framing, rect: { x: 0, y: 0, w: 0.2, h: 0.2 } } as never
  const old = [
    slide('one', 2, { title: 'One', notes: 'Say it slowly.', planned: 40_000, clips: [clip('c', 1000, { step: 1 })] }),
    slide('two', 1, { title: 'Two', framing }),
  ]
  const brought = [
    slide('new', 1, { title: 'New' }),
    slide('b', 3, { title: 'One, better', notes: 'Other notes' }),
    slide('a', 1, { notes: 'From the file' }),
  ]

  it('is in the order of the new one, each slide that was there being itself', () => {
    const after = takenOver(old, brought, [
      { slide: asId('one'), brought: asId('b') },
      { slide: asId('two'), brought: asId('a') },
    ])
    expect(after.map(({ id, version }) => [id, version])).toEqual([
      ['new', 1],
      ['one', 2],
      ['two', 2],
    ])
    const [, one, two] = after
    expect(one).toMatchObject({ title: 'One, better', notes: 'Say it slowly.', planned: 40_000 })
    expect(one?.steps).toBe(brought[1]?.steps)
    expect(one?.clips?.[0]?.step).toBe(1)
    expect(two).toMatchObject({ notes: 'From the file', framing })
  })
})
