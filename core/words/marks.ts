/** Marks that may stand after the one that ends something. */
const CLOSING = `["'”’)\\]]*$`
const SENTENCE = new RegExp(`[.!?…。！？]${CLOSING}`, 'u')
const CLAUSE = new RegExp(`[,;:–—、，；：]${CLOSING}`, 'u')

/** Whether a sentence ends with a word, by the marks that stand on it. */
export const endsSentence = (word: string): boolean => SENTENCE.test(word)

/** Whether a part of a sentence ends with a word, by the marks that stand on it. */
export const endsClause = (word: string): boolean => CLAUSE.test(word)
