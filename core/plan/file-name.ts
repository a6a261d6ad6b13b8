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
/** What no file system takes in a name. */
const FORBIDDEN = /[/\\:*?"<>|\p{Cc}]+/gu
/** Marks that no name begins or ends with: a dot before it would hide the file. */
const AROUND = /^[-_. ]+|[-_. ]+$/g
/** File systems take 255 bytes of a name; an ending and a number come behind it. */
const LONGEST_BYTES = 200
/** Names that some systems keep for devices, with or without an ending. */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i
/** What stands for a field that was not said, until the mark before it is taken out with it. */
const NOTHING = '\u0000'
const ENDING = new RegExp(`\\.(${FORMATS.join('|')})$`, 'i')

/** Bytes of a sign in UTF-8 (RFC 3629). */
function bytesOf(sign: string): number {
  const code = sign.codePointAt(0) ?? 0
  if (code < 0x80) return 1
  if (code < 0x800) return 2
  return code < 0x10000 ? 3 : 4
}

/** As much of a name as file systems take, cut between two signs. */
function withinBytes(name: string): string {
  let bytes = 0
  const kept = [...name].filter((sign) => (bytes += bytesOf(sign)) <= LONGEST_BYTES)
  return kept.join('').replace(/[-_. ]+$/, '')
}

/** A file's name without the ending that its format gives it. */
export const withoutEnding = (name: string): string => name.replace(ENDING, '')

/** Fields of a name's pattern, in order, each once. */
export const fieldsIn = (pattern: string): readonly string[] => [...new Set([...pattern.matchAll(FIELD)].map(([, field]) => field ?? ''))]

/** Fields of a name's pattern that are not known from the talk, in order, each once. */
export const ownFields = (pattern: string): readonly string[] =>
  fieldsIn(pattern).filter((field) => !(KNOWN_FIELDS as readonly string[]).includes(field))

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
  const values = new Map([...Object.entries(own), ...(Object.entries(known) as [string, string][])])
  const filled = pattern.replaceAll(NOTHING, '').replace(FIELD, (_, field: string) => values.get(field)?.trim() || NOTHING)
  // Of the marks on either side of what was not said one is enough.
  const whole = filled.replace(/([-_ ]*)\u0000+([-_ ]*)/g, (_, before: string, after: string) =>
    before === '' || after === '' ? '' : before,
  )
  const plain = whole.normalize('NFC').replace(FORBIDDEN, '-').replace(/ {2,}/g, ' ').replace(AROUND, '')
  const short = withinBytes(plain) || withinBytes(known.talk.normalize('NFC').replace(FORBIDDEN, '-').replace(AROUND, '')) || 'talk'
  return RESERVED.test(short) ? `talk-${short}` : short
}
