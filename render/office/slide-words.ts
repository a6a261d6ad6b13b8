import { storableText } from '@core/model'

/** Words without the white space that only parts them in the file; line breaks stay. */
export const tidy = (text: string): string => storableText(text.replace(/[ \t\u000B]+/g, ' ').trim())

/** What is counted most, such as a language; the first of several, and empty when nothing is. */
export const mostly = (counts: ReadonlyMap<string, number>): string =>
  [...counts].reduce((most, one) => (one[1] > most[1] ? one : most), ['', 0] as const)[0]
