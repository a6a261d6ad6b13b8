import { createWriteStream } from 'node:fs'
import { chmod, mkdir, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { once } from 'node:events'
import { sql } from 'kysely'
import { run } from '@render/process'
import { database } from '@server/database'
import { digestOfFile, here, keptSafe, stores, workingFolder } from '@server/store'
import { DUMP, HEAD, IN_STORE, LIST, backupFolder, backupsIn, filesIn, keepContent } from './content'
import type { BackupHead, FileFound, FileKept } from './content'
import { neededFiles } from './needed-files'
import type { NeededFile } from './needed-files'

/** Of the data folder, what is kept besides the store. */
const BESIDE = ['session-secret', 'demo-seeded']
/** In the store, what is made again when it is wanted, or is only on its way. */
const LEFT_OUT = /^store\/(segments|streams|uploads|leaving-[^/]+)\/|\.part$/
/** How often it is begun anew when a file went between the database and the store. */
const TRIES = 3

/** What came of a backup. */
export interface BackedUp {
  readonly name: string
  readonly files: number
  readonly bytes: number
  /** Files that no backup held before. */
  readonly fresh: number
}

/** A file that the database names is not there, or is damaged: the backup is made all the same, and this is said. */
export interface Missing {
  readonly path: string
  readonly is: 'missing' | 'damaged'
}

/** All files that are kept: first those beside the store. */
async function* filesOf(data: string): AsyncGenerator<FileFound> {
  for (const path of BESIDE) {
    const at = join(data, path)
    const found = await stat(at).catch(() => null)
    if (found !== null) yield { path, bytes: found.size, written: Math.round(found.mtimeMs), fetch: () => Promise.resolve(at) }
  }
  const { store, former } = stores()
  for (const each of former === null ? [store] : [former, store])
    for await (const { name, bytes, changed } of each.list('')) {
      const path = `${IN_STORE}${name}`
      if (LEFT_OUT.test(path)) continue
      yield { path, bytes, written: Math.round(changed), fetch: () => here(join(workingFolder(), name)) }
    }
}

/** Dumps the database, and tells which files it names at just that moment. */
async function dump(
  databaseUrl: string,
  to: string,
): Promise<{ readonly needed: readonly NeededFile[]; readonly schema: readonly string[] }> {
  return await database()
    .transaction()
    .setIsolationLevel('repeatable read')
    .execute(async (q) => {
      const { rows } = await sql<{ id: string }>`select pg_export_snapshot() as id`.execute(q)
      await run('pg_dump', ['--format=custom', `--snapshot=${rows[0]?.id ?? ''}`, `--file=${to}`, databaseUrl])
      const schema = await sql<{ name: string }>`select name from kysely_migration order by name`.execute(q)
      return { needed: await neededFiles(q), schema: schema.rows.map(({ name }) => name) }
    })
}

/** What of the database's files a backup has not. */
function missingOf(needed: readonly NeededFile[], kept: ReadonlyMap<string, FileKept>): readonly Missing[] {
  return needed.flatMap(({ paths, digest }): readonly Missing[] => {
    const found = paths.map((path) => kept.get(path)).find((file) => file !== undefined)
    if (found === undefined) return [{ path: paths[0] ?? '', is: 'missing' }]
    return digest !== null && found.digest !== digest ? [{ path: found.path, is: 'damaged' }] : []
  })
}

/**
 * Makes a backup of a data folder and its database that agree with each other, while people go on: files of the store are never changed
 * once they have their name, so those that a dump names are there before it or after it.
 * @param root folder of backups
 * @returns what was made, and what the database names that is not there
 */
export async function backUp(
  data: string,
  databaseUrl: string,
  root: string,
): Promise<{ readonly made: BackedUp; readonly missing: readonly Missing[] }> {
  await mkdir(root, { recursive: true })
  await chmod(root, 0o700)
  const last = (await backupsIn(root)).at(-1)
  const before = new Map<string, FileKept>()
  if (last !== undefined) for await (const file of filesIn(root, last)) before.set(file.path, file)
  const kept = new Map<string, FileKept>()
  let fresh = 0
  const keepAll = async (): Promise<void> => {
    for await (const one of filesOf(data)) {
      const { path } = one
      const found = await keepContent(root, one, kept.get(path) ?? before.get(path))
      if (found === null) continue
      kept.set(path, found.file)
      if (found.fresh) fresh += 1
    }
  }
  const name = new Date().toISOString().replaceAll(/[:.]/g, '-')
  const folder = backupFolder(root, name)
  await mkdir(folder, { recursive: true })
  await keepAll()
  for (let tried = 1; ; tried += 1) {
    const { needed, schema } = await dump(databaseUrl, join(folder, DUMP))
    // What came while the dump was made.
    await keepAll()
    const missing = missingOf(needed, kept)
    // A chunk may have come and been put together between the two: then it is another moment's turn.
    if (missing.some(({ is }) => is === 'missing') && tried < TRIES) continue
    const made = await seal(folder, schema, [...kept.values()])
    return { made: { name, fresh, ...made }, missing }
  }
}

/** Writes the list and, last of all, the head: without it a folder is no backup. */
async function seal(
  folder: string,
  schema: readonly string[],
  files: readonly FileKept[],
): Promise<{ readonly files: number; readonly bytes: number }> {
  const list = createWriteStream(join(folder, LIST))
  for (const file of files) if (!list.write(`${JSON.stringify(file)}\n`)) await once(list, 'drain')
  list.end()
  await once(list, 'close')
  const counted = { files: files.length, bytes: files.reduce((sum, { bytes }) => sum + bytes, 0) }
  const head: BackupHead = {
    made: new Date().toISOString(),
    schema,
    dump: await digestOfFile(join(folder, DUMP)),
    list: await digestOfFile(join(folder, LIST)),
    ...counted,
  }
  await keptSafe(...[DUMP, LIST].map((file) => join(folder, file)))
  await writeFile(join(folder, HEAD), JSON.stringify(head, null, 2))
  await keptSafe(join(folder, HEAD))
  return counted
}
