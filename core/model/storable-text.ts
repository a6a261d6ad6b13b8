/**
 * A text as every store takes it: without U+0000, which PostgreSQL's `text` and `jsonb` refuse, and with U+FFFD for half a pair
 * of surrogates, which no UTF-8 can hold (Unicode 15, 3.9, D92).
 */
export const storableText = (text: string): string => text.replaceAll('\u0000', '').toWellFormed()
