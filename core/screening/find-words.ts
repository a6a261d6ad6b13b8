import type { SlideId } from '@core/model'

/** A slide's words as they are searched. */
export interface SearchableSlide {
  readonly id: SlideId
  readonly texts: readonly string[]
}

/** Where words were found: what stands before and after them, and they as they are written there. */
export interface Hit {
  readonly slide: SlideId
  readonly before: string
  readonly words: string
  readonly after: string
}

/** Signs shown before and after what was found. */
const AROUND = 36

/** Slides with their title, what stands on them, what was written for viewers, and what they show. */
export const searchable = (
  slides: readonly {
    readonly id: SlideId
    readonly title: string
    readonly text: string
    readonly viewerNotes: string
    readonly description: string
  }[],
): readonly SearchableSlide[] =>
  slides.map(({ id, title, text, viewerNotes, description }) => ({ id, texts: [title, text, viewerNotes, description] }))

/** Letters without their marks and in small, each as long as it was: places in one are places in the other. */
export const plainLetters = (text: string): string =>
  [...text.replaceAll(/\s/g, ' ')]
    .map((sign) => (sign.normalize('NFD')[0] ?? sign).toLowerCase().padEnd(sign.length).slice(0, sign.length))
    .join('')

const cut = (text: string, end: boolean): string => {
  if (text.length <= AROUND) return text
  return end ? `${text.slice(0, AROUND)}…` : `…${text.slice(-AROUND)}`
}

/** Slides on which words are found, in any writing of them, with the first place on each. @param words nothing is found when empty */
export function hitsIn(slides: readonly SearchableSlide[], words: string): readonly Hit[] {
  const wanted = plainLetters(words.trim())
  if (wanted === '') return []
  return slides.flatMap(({ id, texts }): readonly Hit[] => {
    for (const text of texts) {
      const at = plainLetters(text).indexOf(wanted)
      if (at < 0) continue
      const end = at + wanted.length
      return [{ slide: id, before: cut(text.slice(0, at), false), words: text.slice(at, end), after: cut(text.slice(end), true) }]
    }
    return []
  })
}

/** What is said that holds some words, in any writing of them; nothing when no words are sought. */
export function saidWith<Said extends { readonly words: string }>(said: readonly Said[], words: string): readonly Said[] {
  const wanted = plainLetters(words.trim())
  return wanted === '' ? [] : said.filter((one) => plainLetters(one.words).includes(wanted))
}
