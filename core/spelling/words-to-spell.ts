/** Marks for code. */
const CODE = /`[^`]*`/g
/** What is no word, between spaces: addresses of pages and of people, names of files. */
const UNSPELT = /https?:\/\/|^www\.|.@.|.\.[a-z]{2,5}[,;:)]?$/i
/** No word is longer, in letters: whatever is was never meant as one. */
const LONGEST = 45
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
export const wordsToSpell = (text: string): readonly string[] =>
  text
    .replaceAll(CODE, ' ')
    .split(/\s+/)
    .filter((part) => !UNSPELT.test(part))
    .flatMap((part) =>
      [...part.matchAll(WORD)].flatMap(({ 0: word, index }) => {
        const beside = `${part[index - 1] ?? ''}${part[index + word.length] ?? ''}`
        const isNone = word.length < 2 || word.length > LONGEST || NUMBERED.test(beside) || isAbbreviated(word)
        return isNone ? [] : [word.replaceAll('’', "'")]
      }),
    )
