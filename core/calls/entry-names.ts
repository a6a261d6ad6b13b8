import { fileName, freeName } from '@core/plan'

/** Fields of an entry's name, besides what rules ask to be filled in. */
export const ENTRY_FIELDS = ['name', 'talk', 'date', 'number'] as const

/** What names an entry's files among others. */
export interface NamedEntry {
  /** Who handed it in. */
  readonly name: string
  readonly talk: string
  /** Day on which it was handed in, such as 2026-11-26. */
  readonly date: string
  /** What was filled in, by key. */
  readonly fields: Readonly<Record<string, string>>
}

/** Digits of a place in a list, so that names sort as the list does. */
const digitsFor = (entries: number): number => Math.max(2, String(entries).length)

/**
 * Names for the files of entries in one folder, without their endings.
 * @param pattern with fields in braces, such as `{number}-{name}`
 * @returns as many names in the same order, no two alike, also where capitals and small letters are one
 */
export function entryNames(pattern: string, entries: readonly NamedEntry[]): readonly string[] {
  const taken = new Set<string>()
  const digits = digitsFor(entries.length)
  return entries.map(({ name, talk, date, fields }, n) => {
    const number = String(n + 1).padStart(digits, '0')
    const wanted = fileName(pattern, { talk, date, number, lines: '', slide: '' }, { ...fields, name })
    return freeName(wanted, '', taken)
  })
}
