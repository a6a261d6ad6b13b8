/** What hesitation sounds like. */
const FILLERS: ReadonlySet<string> = new Set(['uh', 'um', 'er', 'erm', 'hm', 'mm'])

/** A word as it is compared with others: in small letters, without the marks that stand on it. */
export const plainWord = (text: string): string => text.toLowerCase().replaceAll(/[^\p{L}\p{N}']/gu, '')

/** Whether a word says nothing but that its speaker goes on. */
export const isFiller = (text: string): boolean => FILLERS.has(plainWord(text))
