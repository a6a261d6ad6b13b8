import { francAll } from 'franc-min'

/** Signs of a sample: fewer do not tell a language, and in many more all languages of a script come close to each other. */
const SAMPLE = 300
const LEAST_SAMPLE = 240
/** Samples that are read of a text, spread over it. */
const SAMPLES = 7
/** The second best guess is at most so good, of 1, or a sample says nothing: related languages look alike. */
const CLEARLY = 0.93
/** So many of all samples must say the same. */
const MAJORITY = 0.6

/** A language's usual tag for what the recogniser calls it by ISO 639-3; null for one that has none. */
function tagOf(code: string): string | null {
  try {
    return new Intl.Locale(code === 'cmn' ? 'zh' : code).language
  } catch {
    return null
  }
}

/** The language of a tag, whatever else it says. */
export const primaryOf = (tag: string): string => tag.split('-')[0]?.toLowerCase() ?? ''

/** The language of a sample, as the recogniser calls it; null when it could well be another. */
function languageOfSample(sample: string): string | null {
  const [best, second] = francAll(sample, { minLength: LEAST_SAMPLE })
  return best === undefined || best[0] === 'und' || (second !== undefined && second[1] > CLEARLY) ? null : best[0]
}

/** Parts of a text, spread over it. */
function samplesOf(text: string): readonly string[] {
  const count = Math.max(1, Math.min(SAMPLES, Math.floor(text.length / SAMPLE)))
  return Array.from({ length: count }, (_, n) => {
    const from = count === 1 ? 0 : Math.floor((n * (text.length - SAMPLE)) / (count - 1))
    return text.slice(from, from + SAMPLE)
  })
}

/**
 * The language that a text is written in, by its script and its groups of three signs in samples of it.
 * @returns a BCP 47 tag such as `de`; null when the text is too short to tell, or could well be another
 */
export function languageOf(text: string): string | null {
  const plain = text.replace(/\s+/g, ' ').trim()
  if (plain.length < LEAST_SAMPLE) return null
  const found = samplesOf(plain).map(languageOfSample)
  for (const language of new Set(found)) {
    if (language !== null && found.filter((one) => one === language).length >= found.length * MAJORITY) return tagOf(language)
  }
  return null
}
