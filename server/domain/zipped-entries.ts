import type { Readable } from 'node:stream'
import { ZipFile } from 'yazl'
import { entryNames } from '@core/calls'
import { Refusal } from '@core/model'
import type { CompanionRole } from '@contracts'
import type { Queries } from '@server/database'
import { entryPath, here, sizeOf } from '@server/store'
import type { CallRow } from './calls'
import { registerCsv, registerOf } from './register'
import { firstName } from './talks'
import { endingOf } from './take-entry'

/** What stands behind an entry's name in the names of its files. */
const SUFFIX: Readonly<Record<CompanionRole, string>> = { captions: '', transcript: '-transcript', cover: '-cover' }
/** Moving pictures and sound are packed already. */
const AS_IT_IS = { compress: false } as const

export interface EntriesZip {
  readonly stream: Readable
  readonly file: string
}

/**
 * Entries of a call with what goes with them, and the register as a table, as one file: it is read while it is sent.
 * @param pattern of the names of the files, without their endings
 * @param chosen ids of entries; null: all that count
 * @throws Refusal `conflict` when there is none
 */
export async function zippedEntries(q: Queries, call: CallRow, pattern: string, chosen: readonly string[] | null): Promise<EntriesZip> {
  const register = await registerOf(q, call)
  const wanted = chosen === null ? null : new Set(chosen)
  const entries = register.rows
    .flatMap(({ name, entry }) => (entry === null || (wanted !== null && !wanted.has(entry.id)) ? [] : [{ name, entry }]))
    .sort((a, b) => a.name.localeCompare(b.name))
  if (entries.length === 0) throw new Refusal('conflict', 'Nothing was handed in yet that could be taken along.')
  const fields = await fieldsOf(
    q,
    entries.map(({ entry }) => entry.id),
  )
  const names = entryNames(
    pattern,
    entries.map(({ name, entry }) => ({ name, talk: entry.title, date: entry.at.slice(0, 10), fields: fields.get(entry.id) ?? {} })),
  )
  const zip = new ZipFile()
  const files = new Map<string, string>()
  for (const [n, { entry }] of entries.entries()) {
    const name = names[n] ?? entry.id
    const ending = endingOf(entry.file)
    const film = `${name}.${ending}`
    // One that went this moment, since something newer came, is left out; the table says so.
    if ((await sizeOf(entryPath(entry.id, 'film', ending))) === null) continue
    files.set(entry.id, film)
    zip.addFile(await here(entryPath(entry.id, 'film', ending)), film, AS_IT_IS)
    for (const { role, ending: other } of entry.companions)
      zip.addFile(await here(entryPath(entry.id, role, other)), `${name}${SUFFIX[role]}.${other}`)
  }
  zip.addBuffer(Buffer.from(registerCsv(register, files)), 'register.csv')
  zip.end()
  return { stream: zip.outputStream as Readable, file: `${firstName(call.title)}.zip` }
}

/** What was filled in for entries, by key. */
async function fieldsOf(q: Queries, entries: readonly string[]): Promise<ReadonlyMap<string, Readonly<Record<string, string>>>> {
  const rows = await q
    .selectFrom('entry')
    .select(['id', 'fields'])
    .where('id', 'in', [...entries])
    .execute()
  return new Map(rows.map(({ id, fields }) => [id, fields]))
}
