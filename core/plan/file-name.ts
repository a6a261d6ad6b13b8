import { FORMATS } from '@core/model'

/** What stands for fields of a file's name that the talk itself knows. */
export interface NameFields {
  readonly talk: string
  /** Day on which the file is made, such as 2026-11-26. */
  readonly date: string
  readonly lines: string
  /** Title of the slide, in a file of one slide. */
  readonly slide: string
  /** Its number on the run sheet, with a leading nought. */
  readonly number: string
}

const FIELD = /\{([a-z]{1,20})\}/g
/** Fields that the talk knows; all others are asked of the presenter. */
export const KNOWN_FIELDS: readonly (keyof NameFields)[] = ['talk', 'date', 'lines', 'slide', 'number']
/** What no file system takes in a name, and what would be a hidden file. */
const FORBIDDEN = /[/\\:*?"<>|\p{Cc}]+|^\.+/gu
const LONGEST = 120
const ENDING = new RegExp(`\\.(${FORMATS.join('|')})$`, 'i')

/** A file's name without the ending that its format gives it. */
export const withoutEnding = (name: string): string => name.replace(ENDING, '')

/** Fields of a name's pattern that are not known from the talk, in order, each once. */
export const ownFields = (pattern: string): readonly string[] =>
  [...new Set([...pattern.matchAll(FIELD)].map(([, field]) => field ?? ''))].filter((field) => !(KNOWN_FIELDS as readonly string[]).includes(field))

/** Fields of a name's pattern that stand for nothing yet. */
export const emptyFields = (pattern: string, own: Readonly<Record<string, string>>): readonly string[] =>
  ownFields(pattern).filter((field) => (own[field] ?? '').trim() === '')

/**
 * A file's name by a pattern in which fields in braces, such as `{paper}-{surname}`, stand for what is known of the talk
 * or was said by the presenter.
 * @param own what was said for other fields; one that was not said is left out with the mark before it
 * @returns a name that every file system takes, without its ending; never empty
 */
export function fileName(pattern: string, known: NameFields, own: Readonly<Record<string, string>>): string {
  const values: Readonly<Record<string, string>> = { ...own, ...known }
  const filled = pattern.replace(FIELD, (_, field: string) => values[field]?.trim() ?? '')
  const plain = filled.normalize('NFC').replace(FORBIDDEN, '-').replace(/([-_ ])[-_ ]*([-_])/g, '$2').replace(/ {2,}/g, ' ').replace(/^[-_ ]+|[-_. ]+$/g, '')
  return [...plain].slice(0, LONGEST).join('').trimEnd() || [...known.talk.replace(FORBIDDEN, '-')].slice(0, LONGEST).join('') || 'talk'
}
