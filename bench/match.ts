import { randomLcg } from 'd3'
import { matchDecks } from '@core/match'
import { DeckMaker, OTHER_STYLE, PLAIN_STYLE, drawnSlide } from './decks/made-deck'
import type { MadeSlide } from './decks/made-deck'
import type { Figure } from './figure'

const PAIRS = 30

type Change = (deck: readonly MadeSlide[], make: DeckMaker) => readonly MadeSlide[]

const typos: Change = (deck, make) =>
  deck.map((slide) =>
    make.int(3) > 0
      ? slide
      : { ...slide, heading: make.misspelt(slide.heading), points: slide.points.map((point) => make.misspelt(point)) },
  )
const rewritten: Change = (deck, make) =>
  deck.map((slide) =>
    make.int(4) > 0 || slide.points.length === 0
      ? slide
      : { ...slide, points: slide.points.map((point, n) => (n === 0 ? make.words(6) : point)) },
  )
const moved: Change = (deck, make) => {
  let after = deck
  for (let n = 0; n < 3; n += 1) {
    const [from, length] = [make.int(after.length), 1 + make.int(3)]
    const block = after.slice(from, from + length)
    const rest = [...after.slice(0, from), ...after.slice(from + length)]
    const to = make.int(rest.length + 1)
    after = [...rest.slice(0, to), ...block, ...rest.slice(to)]
  }
  return after
}
const split: Change = (deck, make) => {
  let left = 3
  return deck.flatMap((slide): readonly MadeSlide[] => {
    if (left === 0 || slide.points.length < 4 || make.int(2) > 0) return [slide]
    left -= 1
    const half = Math.ceil(slide.points.length / 2)
    return [
      { ...slide, points: slide.points.slice(0, half) },
      { ...slide, points: slide.points.slice(half), figure: [] },
    ]
  })
}
const merged: Change = (deck, make) => {
  const at = make.int(deck.length - 1)
  const [one, two] = [deck[at], deck[at + 1]]
  if (one === undefined || two === undefined) return deck
  const both: MadeSlide = { ...one, from: [...one.from, ...two.from], points: [...one.points, ...two.points].slice(0, 7) }
  return [...deck.slice(0, at), both, ...deck.slice(at + 2)]
}
const inserted: Change = (deck, make) => {
  let after = deck
  for (let n = 0; n < 4; n += 1) {
    const to = make.int(after.length + 1)
    after = [...after.slice(0, to), make.slide([]), ...after.slice(to)]
  }
  return after
}
const removed: Change = (deck, make) => {
  const gone = new Set(Array.from({ length: 3 }, () => make.int(deck.length)))
  return deck.filter((_, n) => !gone.has(n))
}
const CHANGES: readonly Change[] = [typos, rewritten, moved, split, merged, inserted, removed]

/** Thirty decks and what became of them: seven with one change each, seven with one in another style, the rest with several. */
function changesOf(pair: number, make: DeckMaker): { readonly changes: readonly Change[]; readonly restyled: boolean } {
  const one = CHANGES[pair % CHANGES.length]
  if (pair < 2 * CHANGES.length) return { changes: one === undefined ? [] : [one], restyled: pair >= CHANGES.length }
  return { changes: CHANGES.filter(() => make.int(2) > 0), restyled: make.int(2) > 0 }
}

/** Slides of made decks that are found again in what became of those. */
export function measure(): Promise<Figure> {
  let [slides, right, surePairs, wrongAndSure, asked] = [0, 0, 0, 0, 0]
  for (let pair = 0; pair < PAIRS; pair += 1) {
    const make = new DeckMaker(randomLcg(0.137 + pair / PAIRS))
    const old = make.deck(12 + make.int(29))
    const { changes, restyled } = changesOf(pair, make)
    const now = changes.reduce((deck, change) => change(deck, make), old)
    const found = matchDecks(
      old.map((slide) => drawnSlide(slide, PLAIN_STYLE)),
      now.map((slide) => drawnSlide(slide, restyled ? OTHER_STYLE : PLAIN_STYLE)),
    )
    const [byNow, there] = [new Map(found.pairs.map((one) => [one.now, one])), new Set(now.flatMap(({ from }) => from))]
    for (const [n, slide] of now.entries()) {
      const is = byNow.get(n)
      const half = now.filter((other) => other !== slide && other.from.some((one) => slide.from.includes(one)))
      // One half of a split is the slide; the other may be new.
      const mayBeNew = slide.from.length === 0 || half.length > 0
      const good = is === undefined ? mayBeNew : slide.from.includes(is.old)
      slides += 1
      right += good ? 1 : 0
      if (is?.sure === true) surePairs += 1
      else if (is !== undefined) asked += 1
      if (is?.sure === true && !good) wrongAndSure += 1
      const taken = is === undefined ? 'new' : `${String(is.old)}, likeness ${is.likeness.toFixed(2)}`
      if (!good) console.log(`  pair ${String(pair)}: slide ${String(n)} is ${String(slide.from)}, taken for ${taken}`)
    }
    for (const gone of found.gone) {
      slides += there.has(gone) ? 0 : 1
      right += there.has(gone) ? 0 : 1
    }
  }
  console.log(`${String(surePairs)} pairs are sure, ${String(asked)} are asked about, ${String(wrongAndSure)} are wrong and sure`)
  const share = (right / slides) * 100
  return Promise.resolve({
    value: Math.round(share * 100) / 100,
    unit: '% of slides matched right',
    target: '98, none wrong and sure',
    ok: share >= 98 && wrongAndSure === 0,
    detail: { slides, right, surePairs, asked, wrongAndSure },
  })
}
