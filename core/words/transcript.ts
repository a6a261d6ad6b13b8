import type { Ms, SlideId } from '@core/model'
import type { FilmWord } from './film-words'
import { endsSentence } from './marks'
import { isFiller } from './plain-word'

/** What is said on one showing of a slide, as paragraphs. */
export interface TranscriptSection {
  readonly slide: SlideId
  readonly from: Ms
  readonly paragraphs: readonly string[]
}

/** A pause after a sentence that ends a paragraph, in ms; any that does, however little was said. */
const PARAGRAPH: Ms = 900
const LONG_PAUSE: Ms = 2500
/** Whether a paragraph begins with a word. */
function begins(word: FilmWord, last: FilmWord | null): boolean {
  const pause = last === null ? 0 : word.from - last.until
  const isSentence = last !== null && endsSentence(last.text)
  return pause >= LONG_PAUSE || (isSentence && pause >= PARAGRAPH)
}

/**
 * What is said in a film, by the slides that are shown.
 * @param words in order
 * @param tidied whether fillers are left out
 */
export function transcriptOf(words: readonly FilmWord[], tidied: boolean): readonly TranscriptSection[] {
  const sections: { slide: SlideId; visit: string; from: Ms; paragraphs: string[][] }[] = []
  let last: FilmWord | null = null
  for (const word of words) {
    if (tidied && isFiller(word.text)) continue
    if (sections.at(-1)?.visit !== word.visit) sections.push({ slide: word.slide, visit: word.visit, from: word.from, paragraphs: [] })
    const paragraphs = sections.at(-1)?.paragraphs ?? []
    if (paragraphs.length === 0 || begins(word, last)) paragraphs.push([])
    paragraphs.at(-1)?.push(word.text)
    last = word
  }
  return sections.map(({ slide, from, paragraphs }) => ({ slide, from, paragraphs: paragraphs.map((paragraph) => paragraph.join(' ')) }))
}
