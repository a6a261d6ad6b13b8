import { mkdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { onData } from './start/on-data'

/**
 * Brings a backup back into an empty data folder: npm run restore -- --from FOLDER --data NEW. The last one, unless --at names another. The
 * start command brings it up to date then, if it is of an older version.
 */
const { values } = parseArgs({ options: { data: { type: 'string' }, from: { type: 'string' }, at: { type: 'string' } } })
if (values.from === undefined || values.data === undefined) {
  console.error('Name the folder of backups with --from, and an empty data folder with --data.')
  process.exit(1)
}
const [root, data] = [resolve(values.from), resolve(values.data)]
mkdirSync(data, { recursive: true })
const command = await onData(data)
/** Ends with what is to be said. */
const end: (code: number, sentence: string) => never = command.end
process.umask(0o077)
const { backupsIn, checkBackup, fillDatabase, headOf, layFiles } = await import('@server/backup')

async function bringBack(): Promise<string> {
  const name = values.at ?? (await backupsIn(root)).at(-1)
  if (name === undefined) throw new Error(`There is no finished backup in ${root}.`)
  await checkBackup(root, name)
  const { laid, lost } = await layFiles(root, name, data)
  await fillDatabase(root, name, process.env['DATABASE_URL'] ?? '')
  for (const path of lost) console.error(`lost: ${path}`)
  const { made } = await headOf(root, name)
  if (lost.length > 0)
    throw new Error(`${String(lost.length)} files of the backup are missing or damaged; the other ${String(laid)} are there.`)
  return `Everything is as it was at ${made}: ${String(laid)} files, each held against its digest. Start it with --data ${data}.`
}

await bringBack().then(
  (sentence) => end(0, sentence),
  (fault: unknown) => end(1, fault instanceof Error ? fault.message : String(fault)),
)
