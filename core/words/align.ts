import type { UnsaidWords, Ms, Said, Word } from '@core/model'
import { alike } from './alike'
import { alignPath } from './align-path'
import type { HeardWord, PathQuestion, WrittenToken } from './align-path'
import { lettersOf, shares } from './shares'
import type { SpokenText } from './spoken-form'

/** A text that may be read from, such as the notes of a slide. */
export interface WrittenText extends SpokenText {
  /** Places of the tokens that sentences begin with. */
  readonly begins: ReadonlySet<number>
}

/** When which text was on screen. */
export interface ShownText {
  readonly from: Ms
  readonly until: Ms
  /** Place of the text. */
  readonly text: number
}

/** What was heard as it is written is at least so sure. */
export const SURE_AS_WRITTEN = 0.7
/** What was badly heard is what is written below this, and as sure as this then. */
const SURE = 0.6
/** What stands in place of written words is those, when it sounds so much like them, of 1. */
const SOUNDS_LIKE = 0.5
/** And when it takes so much of the time that they take, at least and at most. */
const LEAST_TIME = 0.4
const MOST_TIME = 2.2
/** Written words that nothing was heard of were said, when so much of their time is there. */
const TIME_LEFT = 0.55
/** A sound that was hardly heard and is this short is no word, in ms. */
const BLIP: Ms = 160
const HARDLY = 0.35
/** More written words than that were passed over, not left out. */
const MOST_LEFT_OUT = 14
/** What a letter takes to say, in ms, until that is known. */
const USUAL_LETTER: Ms = 68

/** A word of the result, by the written word that it is part of. */
interface Placed {
  readonly from: Ms
  readonly until: Ms
  readonly sure: number
  /** Place among all tokens; null: it is only heard. */
  readonly token: number | null
  readonly sound: string
}

/** Tokens that were not said, and stand before what comes next. */
interface Omitted {
  readonly omitted: readonly number[]
}

/** A token of one of the texts. */
interface Token extends WrittenToken {
  /** Place of the written word in its text. */
  readonly word: number
}

/** What lies between two words that are heard as they are written. */
interface Gap {
  readonly heard: readonly HeardWord[]
  readonly written: readonly number[]
  readonly from: Ms
  readonly until: Ms
}

const spokenTime = (words: readonly HeardWord[]): Ms => words.reduce((sum, { from, until }) => sum + until - from, 0)
const allLetters = (sounds: readonly string[]): number => lettersOf(sounds).reduce((sum, count) => sum + count, 0)

/** Settles what was said where heard and written differ. */
class Settler {
  readonly #tokens: readonly Token[]
  readonly #soundOf: PathQuestion['soundOf']
  readonly #letter: Ms

  constructor(tokens: readonly Token[], soundOf: PathQuestion['soundOf'], letter: Ms) {
    this.#tokens = tokens
    this.#soundOf = soundOf
    this.#letter = letter
  }

  #sounds(written: readonly number[]): readonly string[] {
    return written.map((token) => this.#tokens[token]?.sound ?? '')
  }

  /** Written words laid over a time by their letters. */
  #lay(written: readonly number[], from: Ms, until: Ms, sure: number): readonly Placed[] {
    const sounds = this.#sounds(written)
    const parts = shares(lettersOf(sounds), from, until)
    return written.map((token, n) => ({
      from: Math.round(parts[n]?.from ?? from),
      until: Math.round(parts[n]?.to ?? until),
      sure,
      token,
      sound: sounds[n] ?? '',
    }))
  }

  #asHeard(heard: readonly HeardWord[]): readonly Placed[] {
    return heard
      .filter(({ sure, from, until }) => sure >= HARDLY || until - from > BLIP)
      .map(({ sound, from, until, sure }) => ({ sound, from, until, sure: Math.min(sure, 0.9), token: null }))
  }

  /** Whether what was heard is what is written, badly heard. */
  #isWritten({ heard, written }: Gap): boolean {
    const sounds = this.#sounds(written)
    const time = spokenTime(heard) / Math.max(1, allLetters(sounds) * this.#letter)
    if (time < LEAST_TIME || time > MOST_TIME) return false
    const joined = (all: readonly string[]): string => all.map(this.#soundOf).join('')
    const near = alike(joined(heard.map(({ sound }) => sound)), joined(sounds))
    const sure = heard.reduce((sum, word) => sum + word.sure * (word.until - word.from), 0) / Math.max(1, spokenTime(heard))
    return near >= SOUNDS_LIKE || sure < SURE * (0.5 + near)
  }

  settle(gap: Gap): readonly (Placed | Omitted)[] {
    const { heard, written, from, until } = gap
    if (written.length === 0) return this.#asHeard(heard)
    if (heard.length === 0) {
      const needed = allLetters(this.#sounds(written)) * this.#letter
      if (until - from < needed * TIME_LEFT || until - from > needed * MOST_TIME) return [{ omitted: written }]
      return this.#lay(written, from, until, SURE / 2)
    }
    if (this.#isWritten(gap)) {
      return this.#lay(written, heard[0]?.from ?? from, heard.at(-1)?.until ?? until, SURE)
    }
    return [{ omitted: written }, ...this.#asHeard(heard)]
  }
}

/** How long a letter takes, by words that are heard as they are written. */
function letterTime(heard: readonly HeardWord[], path: readonly (number | null)[], tokens: readonly Token[]): Ms {
  const same = heard.filter(({ sound }, n) => {
    const place = path[n]
    return place != null && tokens[place]?.sound === sound
  })
  const letters = allLetters(same.map(({ sound }) => sound))
  return letters < 40 ? USUAL_LETTER : spokenTime(same) / letters
}

/** A word that is heard as it is written. */
interface Anchor {
  readonly place: number
  readonly until: Ms
}

/** Written words between two that are heard as they are written; none when reading began anew between them. */
function writtenBetween(last: Anchor | null, place: number, tokens: readonly Token[]): readonly number[] {
  if (last === null || tokens[last.place]?.text !== tokens[place]?.text) return []
  const apart = place - last.place - 1
  if (apart < 0 || apart > MOST_LEFT_OUT) return []
  return Array.from({ length: apart }, (_, n) => last.place + 1 + n)
}

/** Goes along a path and settles what lies between words that are heard as they are written. */
function placedAlong(
  heard: readonly HeardWord[],
  path: readonly (number | null)[],
  tokens: readonly Token[],
  settler: Settler,
): readonly (Placed | Omitted)[] {
  const out: (Placed | Omitted)[] = []
  let between: HeardWord[] = []
  let last: Anchor | null = null
  for (const [n, word] of heard.entries()) {
    const place = path[n] ?? null
    if (place === null || tokens[place]?.sound !== word.sound) {
      between.push(word)
      continue
    }
    const { sound, from, until, sure } = word
    const gapFrom: Ms = last === null ? from : last.until
    out.push(...settler.settle({ heard: between, written: writtenBetween(last, place, tokens), from: gapFrom, until: from }))
    out.push({ from, until, sure: Math.max(sure, SURE_AS_WRITTEN), token: place, sound })
    between = []
    last = { place, until }
  }
  out.push(...settler.settle({ heard: between, written: [], from: 0, until: 0 }))
  return out
}

/** Puts tokens of one written word together again, spelt as it is written. */
function wordsOf(placed: readonly (Placed | Omitted)[], tokens: readonly Token[], texts: readonly WrittenText[]): Said {
  const words: Word[] = []
  const unsaid: UnsaidWords[] = []
  const spell = (place: number): string => {
    const token = tokens[place]
    return token === undefined ? '' : (texts[token.text]?.words[token.word] ?? '')
  }
  /** Whether a token goes on with the written word of the one before. */
  const goesOn = (before: number, place: number): boolean =>
    place > before && tokens[before]?.text === tokens[place]?.text && tokens[before]?.word === tokens[place]?.word
  let before = -1
  for (const part of placed) {
    if ('omitted' in part) {
      const text = [...new Set(part.omitted.map((place) => tokens[place]?.word))]
        .map((word) => spell(part.omitted.find((place) => tokens[place]?.word === word) ?? -1))
        .join(' ')
      if (text !== '') unsaid.push({ before: words.length, text })
      continue
    }
    const { token, sound, from, until, sure } = part
    const last = words.at(-1)
    if (token === null) words.push({ text: sound, from, until, sure, source: 'heard' })
    else if (last !== undefined && goesOn(before, token)) {
      words[words.length - 1] = { ...last, until: Math.max(last.until, until), sure: Math.min(last.sure, sure) }
    } else words.push({ text: spell(token), from, until, sure, source: 'written' })
    before = token ?? -1
  }
  return { words, unsaid }
}

/**
 * Lays what was heard on what is written: where both agree it is spelt and marked as it is written, what was left out is noted at its
 * place, and what was added stands as it was heard.
 * @param heard in order, in the time of a stretch
 * @param texts that may be read from
 * @param shown when which of them was on screen, in order
 * @param soundOf a word's sound, as phones or letters, of which each is one character
 */
export function alignWords(
  heard: readonly HeardWord[],
  texts: readonly WrittenText[],
  shown: readonly ShownText[],
  soundOf: (sound: string) => string = (sound) => sound,
): Said {
  const tokens: readonly Token[] = texts.flatMap(({ tokens: own, begins }, text) =>
    own.map(({ sound, word }, n) => ({ sound, word, text, begins: begins.has(n) })),
  )
  const shownAt = (at: Ms): number | null => shown.findLast(({ from }) => from <= at)?.text ?? null
  const path = alignPath({ heard, written: tokens, shownAt, soundOf })
  const settler = new Settler(tokens, soundOf, letterTime(heard, path, tokens))
  return wordsOf(placedAlong(heard, path, tokens, settler), tokens, texts)
}
