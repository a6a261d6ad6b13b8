import addresses from 'email-addresses'
import Papa from 'papaparse'

/** Somebody in a list. */
export interface PersonRead {
  /** In small letters. */
  readonly address: string
  /** Empty where the list has none. */
  readonly name: string
}

/** A line from which nobody could be read. */
export interface LineUnread {
  /** Counted from 1. */
  readonly line: number
  readonly text: string
}

/** Longest name that is taken over. */
const LONGEST_NAME = 100

const personOf = ({ address, name }: addresses.ParsedMailbox): PersonRead => ({
  address: address.toLowerCase(),
  name: (name ?? '').slice(0, LONGEST_NAME),
})

/** An address as a letter's head writes it (RFC 5322, 3.4): alone, or in angle brackets behind a name. */
function addressIn(cell: string): PersonRead | null {
  if (!cell.includes('@')) return null
  const read = addresses.parseOneAddress({ input: cell, rejectTLD: false })
  if (read?.type !== 'mailbox') return null
  return personOf(read)
}

/** Those whom a line names as the head of a letter does; null when it is none. */
function peopleInHead(line: string): readonly PersonRead[] | null {
  const all = addresses.parseAddressList({ input: line, rejectTLD: false })
  if (!line.includes('<') || all === null) return null
  const found = all.flatMap((one) => (one.type === 'mailbox' ? [personOf(one)] : []))
  return found.length === all.length ? found : null
}

/** Who stands in a line: one person with a name in other cells, or one person in each cell. */
function peopleIn(cells: readonly string[]): readonly PersonRead[] | null {
  const found = cells.flatMap((cell) => addressIn(cell) ?? [])
  const unread = cells.filter((cell) => cell.includes('@') && addressIn(cell) === null)
  if (found.length === 0 || unread.length > 0) return null
  const [only, ...others] = found
  if (only === undefined || others.length > 0) return found
  const name = cells.filter((cell) => !cell.includes('@')).join(' ')
  return [{ ...only, name: (only.name === '' ? name : only.name).slice(0, LONGEST_NAME) }]
}

function cellsOf(line: string): readonly string[] {
  const { data } = Papa.parse<readonly string[]>(line, { delimitersToGuess: [',', ';', '\t'] })
  return (data[0] ?? []).map((cell) => cell.trim()).filter((cell) => cell !== '')
}

/**
 * Reads people out of what somebody pasted: one a line or many in a row, as a letter's head has them, or as a table with commas,
 * semicolons or tabs (RFC 4180), with or without a line of titles. Whoever stands there twice is read once.
 */
export function readPeople(text: string): { readonly people: readonly PersonRead[]; readonly unread: readonly LineUnread[] } {
  const lines = text.replaceAll('\r\n', '\n').split('\n')
  const people = new Map<string, PersonRead>()
  const unread: LineUnread[] = []
  let first = true
  for (const [n, line] of lines.entries()) {
    if (line.trim() === '') continue
    const found = peopleInHead(line) ?? peopleIn(cellsOf(line))
    const titles = first && !line.includes('@')
    first = false
    if (found === null && !titles) unread.push({ line: n + 1, text: line.trim() })
    for (const person of found ?? []) if (!people.has(person.address)) people.set(person.address, person)
  }
  return { people: [...people.values()], unread }
}
