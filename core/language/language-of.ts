import { francAll } from 'franc-min'

/** Signs from which on a text tells its language. */
const ENOUGH = 240
/** What is read of a text; more tells no more. */
const READ = 4000
/** The second best guess is at most so good, of 1, or nothing is said: related languages look alike. */
const CLEARLY = 0.93

/** A language's usual tag for what the recogniser calls it by ISO 639-3; null for one that has none. */
function tagOf(code: string): string | null {
  try {
    return new Intl.Locale(code === 'cmn' ? 'zh' : code).language
  } catch {
    return null
  }
}

/** The language of a tag, whatever else it says; extended ones by themselves, as `yue` in `zh-yue`. */
export const primaryOf = (tag: string): string => tag.split('-')[0]?.toLowerCase() ?? ''

/**
 * The language that a text is written in, by its script and its groups of three signs.
 * @returns a BCP 47 tag such as `de`; null when the text is too short to tell, or could well be another
 */
export function languageOf(text: string): string | null {
  const plain = text.replace(/\s+/g, ' ').trim().slice(0, READ)
  if (plain.length < ENOUGH) return null
  const [best, second] = francAll(plain, { minLength: ENOUGH })
  if (best === undefined || best[0] === 'und' || (second !== undefined && second[1] > CLEARLY)) return null
  return tagOf(best[0])
}
