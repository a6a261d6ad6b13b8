/** Nothing that is spelt: addresses of pages and of people, marks for code, names of files. */
const UNSPELT = /`[^`]*`|https?:\/\/\S+|www\.\S+|\S+@\S+|\S+\.[a-z]{2,5}\b(?=[\s,;:)]|$)/gi
/** A word, with what joins its parts. */
const WORD = /[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*/gu
/** Where a word touches a number it is a measure or a number of something. */
const NUMBERED = /[\p{N}_]/u

/** Letters that are written large on purpose: abbreviations, and names that have large letters inside. */
const isAbbreviated = (word: string): boolean => /\p{Lu}.*\p{Lu}/u.test(word) && !/^\p{Lu}+['’]s$/u.test(word)

/**
 * The words of a text whose spelling can be looked at: none that is a number, an abbreviation, an address or code.
 * @param text plain, or with marks of CommonMark
 * @returns in order, each as often as it is there; apostrophes straight
 */
export function wordsToSpell(text: string): readonly string[] {
  const plain = text.replaceAll(UNSPELT, ' ')
  return [...plain.matchAll(WORD)].flatMap(({ 0: word, index }) => {
    const beside = `${plain[index - 1] ?? ''}${plain[index + word.length] ?? ''}`
    if (word.length < 2 || NUMBERED.test(beside) || isAbbreviated(word)) return []
    return [word.replaceAll('’', "'")]
  })
}
