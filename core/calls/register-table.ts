import Papa from 'papaparse'

/** One line of a register, for a spreadsheet. */
export interface RegisterLine {
  readonly name: string
  readonly address: string
  /** Empty: nothing was handed in. */
  readonly talk: string
  /** ISO 8601; empty: nothing was handed in. */
  readonly handedIn: string
  readonly late: boolean
  /** Seconds; null: nothing was handed in. */
  readonly length: number | null
  /** Seconds; null: there is no limit. */
  readonly limit: number | null
  /** What the rules are not kept in; empty: nothing. */
  readonly faults: string
  readonly state: string
  readonly remark: string
  /** Name of its film beside the table; empty: it is not there. */
  readonly file: string
}

const COLUMNS: Readonly<Record<string, (line: RegisterLine) => string>> = {
  name: ({ name }) => name,
  address: ({ address }) => address,
  talk: ({ talk }) => talk,
  'handed in': ({ handedIn }) => handedIn,
  late: ({ handedIn, late }) => (handedIn === '' ? '' : String(late)),
  'length (s)': ({ length }) => (length === null ? '' : length.toFixed(1)),
  'limit (s)': ({ limit }) => (limit === null ? '' : String(limit)),
  'not kept': ({ faults }) => faults,
  state: ({ state }) => state,
  remark: ({ remark }) => remark,
  file: ({ file }) => file,
}

/**
 * A register as a table (RFC 4180, with a line of titles). What people wrote is never a formula to the program that opens it.
 */
export function registerTable(lines: readonly RegisterLine[]): string {
  const fields = Object.keys(COLUMNS)
  const data = lines.map((line) => Object.values(COLUMNS).map((cell) => cell(line)))
  return `${Papa.unparse({ fields, data }, { escapeFormulae: true, newline: '\r\n' })}\r\n`
}
