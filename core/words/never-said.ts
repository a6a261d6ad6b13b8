import type { Slide, SlideId } from '@core/model'
import type { FilmWord } from './film-words'
import { plainWord } from './plain-word'
import { sentenceTexts, writtenText } from './written-text'

/** Sentences of a slide's notes that nobody said. */
export interface NeverSaid {
  readonly slide: SlideId
  readonly sentences: readonly string[]
}

/** A sentence of which less than this was said was not said, of 1. */
const LEAST_SAID = 0.34
/** Shorter sentences are greetings and exclamations. */
const FEWEST_WORDS = 3

const pairsOf = (words: readonly string[]): readonly string[] => words.slice(1).map((word, n) => `${words[n] ?? ''} ${word}`)

/** How much of a sentence was said, 0 to 1: words that follow each other there, and here. */
function saidShare(sentence: readonly string[], said: ReadonlySet<string>): number {
  const pairs = pairsOf(sentence)
  return pairs.filter((pair) => said.has(pair)).length / Math.max(1, pairs.length)
}

/**
 * Sentences of the notes that were said nowhere in the talk, by slide, in order. Slides on which nothing is known to be said are left out:
 * it may be that nobody listened.
 * @param language BCP 47 tag
 */
export function neverSaid(words: readonly FilmWord[], slides: readonly Slide[], language: string): readonly NeverSaid[] {
  const plain = words.map(({ text }) => plainWord(text)).filter((word) => word !== '')
  const said = new Set(pairsOf(plain))
  const spoken = new Set(words.map(({ slide }) => slide))
  return slides.flatMap(({ id, notes }): readonly NeverSaid[] => {
    if (!spoken.has(id) || notes.trim() === '') return []
    const sentences = sentenceTexts(writtenText(notes, language)).flatMap((sentence) => {
      const own = sentence.map(plainWord).filter((word) => word !== '')
      return own.length < FEWEST_WORDS || saidShare(own, said) >= LEAST_SAID ? [] : [sentence.join(' ')]
    })
    return sentences.length === 0 ? [] : [{ slide: id, sentences }]
  })
}
