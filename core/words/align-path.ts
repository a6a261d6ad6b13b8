import type { Ms } from '@core/model'
import { alike } from './alike'

/** A word as it was heard, in the time of its sound. */
export interface HeardWord {
  readonly sound: string
  readonly from: Ms
  readonly until: Ms
  /** 0 to 1 */
  readonly sure: number
}

/** A written word as it sounds, and what it belongs to. */
export interface WrittenToken {
  readonly sound: string
  /** Of which text it is a part. */
  readonly text: number
  /** Whether a sentence begins with it. */
  readonly begins: boolean
}

/** What each difference between heard and written costs. All were set on made speech that no figure is measured on. */
const COST = {
  /** A word that was heard where none is written; less when it was hardly heard. */
  added: 1.3,
  /** A written word that was not heard. */
  omitted: 0.9,
  /** Another word was heard; less the more it sounds alike. */
  other: 1.9,
  /** A word among others that are not written. */
  free: 0.75,
  /** Reading ends, or begins anew: at all, within a sentence, where only one word agrees, in another text than is shown. */
  leave: 1.6,
  enter: 1.2,
  within: 1.4,
  alone: 0.8,
  elsewhere: 1.6,
} as const
/** So many written words at most are passed over without reading being begun anew. */
const MOST_OMITTED = 7
/** A path that costs so much more than the best is given up. */
const BEAM = 7
/** So many paths at most go on: the best. */
const MOST_PATHS = 32
/** So many places at most at which reading may begin with a word. */
const MOST_PLACES = 16

/** The state of somebody who says what is not written. */
const FREE = -1

/** A path's end: what it cost, and the state before. */
interface Step {
  readonly cost: number
  readonly before: number
  /** Whether the word that was heard is the written one or stands for it. */
  readonly said: boolean
}

type Steps = Map<number, Step>

/** Where reading may begin with a word: at sentences that begin with it, and wherever it and the next one follow each other. */
interface Places {
  readonly begins: ReadonlyMap<string, readonly number[]>
  readonly pairs: ReadonlyMap<string, readonly number[]>
}

function placesOf(written: readonly WrittenToken[]): Places {
  const begins = new Map<string, number[]>()
  const pairs = new Map<string, number[]>()
  const add = (places: Map<string, number[]>, key: string, place: number): void => {
    const known = places.get(key)
    if (known === undefined) places.set(key, [place])
    else known.push(place)
  }
  written.forEach(({ sound, begins: isFirst }, place) => {
    const next = written[place + 1]
    if (isFirst) add(begins, sound, place)
    if (next !== undefined) add(pairs, `${sound} ${next.sound}`, place)
  })
  return { begins, pairs }
}

/** Those in the text that is shown, then others, so many at most. */
function nearest(places: readonly number[], written: readonly WrittenToken[], shown: number | null): readonly number[] {
  if (places.length <= MOST_PLACES) return places
  const here = places.filter((place) => written[place]?.text === shown)
  return [...here, ...places.filter((place) => written[place]?.text !== shown)].slice(0, MOST_PLACES)
}

function consider(steps: Steps, state: number, step: Step): void {
  const known = steps.get(state)
  if (known === undefined || step.cost < known.cost) steps.set(state, step)
}

/** What was heard and written, and what was on screen. */
export interface PathQuestion {
  readonly heard: readonly HeardWord[]
  readonly written: readonly WrittenToken[]
  /** The text that was on screen at a time; null: none. */
  readonly shownAt: (at: Ms) => number | null
  /** A word's sound, as phones or letters. */
  readonly soundOf: (sound: string) => string
}

/** Finds the cheapest path of a speaker through what is written (Viterbi 1967), with few states alive at a time. */
class PathSearch {
  readonly #question: PathQuestion
  readonly #places: Places
  readonly #alike = new Map<string, number>()
  readonly #history: Steps[] = []

  constructor(question: PathQuestion) {
    this.#question = question
    this.#places = placesOf(question.written)
  }

  #likeness(one: string, other: string): number {
    const key = `${one} ${other}`
    const known = this.#alike.get(key)
    if (known !== undefined) return known
    const { soundOf } = this.#question
    const found = alike(soundOf(one), soundOf(other))
    this.#alike.set(key, found)
    return found
  }

  #otherCost(heard: HeardWord, token: WrittenToken): number {
    return COST.other * (1 - 0.75 * this.#likeness(heard.sound, token.sound)) * (0.5 + 0.5 * heard.sure)
  }

  /** Goes on from a written word. */
  #goOn(steps: Steps, state: number, cost: number, heard: HeardWord): void {
    const { written } = this.#question
    consider(steps, state, { cost: cost + COST.added * (0.4 + 0.6 * heard.sure), before: state, said: false })
    consider(steps, FREE, { cost: cost + COST.leave + COST.free, before: state, said: false })
    for (let omitted = 0; omitted <= MOST_OMITTED; omitted += 1) {
      const next = state + 1 + omitted
      const token = written[next]
      if (token === undefined) break
      const so = cost + COST.omitted * omitted
      if (token.sound === heard.sound) consider(steps, next, { cost: so, before: state, said: true })
      else if (omitted <= 1) consider(steps, next, { cost: so + this.#otherCost(heard, token), before: state, said: true })
    }
  }

  /** Places at which reading may begin with a word, and what that costs. */
  #entries(heard: HeardWord, following: HeardWord | undefined): readonly (readonly [number, number])[] {
    const { written, shownAt } = this.#question
    const shown = shownAt(heard.from)
    const pairs = following === undefined ? [] : (this.#places.pairs.get(`${heard.sound} ${following.sound}`) ?? [])
    const begins = this.#places.begins.get(heard.sound) ?? []
    const costOf = (place: number, goesOn: boolean): number =>
      COST.enter +
      (written[place]?.begins === true ? 0 : COST.within) +
      (written[place]?.text === shown ? 0 : COST.elsewhere) +
      (goesOn ? 0 : COST.alone)
    return [
      ...nearest(pairs, written, shown).map((place) => [place, costOf(place, true)] as const),
      ...nearest(begins, written, shown).map((place) => [place, costOf(place, false)] as const),
    ]
  }

  /** Those paths that may still be the best. */
  #alive(steps: Steps, best: number): readonly (readonly [number, Step])[] {
    const near = [...steps].filter(([state, { cost }]) => state !== FREE && cost <= best + BEAM)
    return near.length <= MOST_PATHS ? near : near.sort(([, one], [, other]) => one.cost - other.cost).slice(0, MOST_PATHS)
  }

  #step(before: Steps, heard: HeardWord, following: HeardWord | undefined): Steps {
    const steps: Steps = new Map()
    let [bestState, bestCost] = [FREE, Infinity]
    for (const [state, { cost }] of before) {
      if (cost < bestCost) [bestState, bestCost] = [state, cost]
    }
    for (const [state, { cost }] of this.#alive(before, bestCost)) this.#goOn(steps, state, cost, heard)
    const free = before.get(FREE)
    if (free !== undefined) consider(steps, FREE, { cost: free.cost + COST.free, before: FREE, said: false })
    // Whoever reads on elsewhere has left off first; nobody is heard doing so.
    const left = Math.min(free?.cost ?? Infinity, bestCost + (bestState === FREE ? 0 : COST.leave))
    const from = left === free?.cost ? FREE : bestState
    for (const [place, cost] of this.#entries(heard, following)) consider(steps, place, { cost: left + cost, before: from, said: true })
    return steps
  }

  /** @returns for each heard word the place of the written one that it stands for; null: it stands for none */
  search(): readonly (number | null)[] {
    const { heard } = this.#question
    let steps: Steps = new Map([[FREE, { cost: 0, before: FREE, said: false }]])
    heard.forEach((word, n) => {
      steps = this.#step(steps, word, heard[n + 1])
      this.#history.push(steps)
    })
    let state = FREE
    let least = Infinity
    for (const [one, { cost }] of steps) {
      if (cost < least) [state, least] = [one, cost]
    }
    const path: (number | null)[] = []
    for (let n = heard.length - 1; n >= 0; n -= 1) {
      const step = this.#history[n]?.get(state)
      if (step === undefined) break
      path.push(step.said ? state : null)
      state = step.before
    }
    return path.reverse()
  }
}

/**
 * Which written word each heard one stands for. Reading on elsewhere, repeating, passing over and saying what is not written are all part
 * of a path; the time it takes grows with what was heard, not with what is written.
 */
export const alignPath = (question: PathQuestion): readonly (number | null)[] => new PathSearch(question).search()
