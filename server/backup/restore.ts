import { copyFile, mkdir, readdir, utimes } from 'node:fs/promises'
import { dirname, join, normalize } from 'node:path'
import { run } from '@render/process'
import { migrations } from '@server/database'
import { digestOfFile, digestOfStream, stores, workingFolder } from '@server/store'
import { DUMP, IN_STORE, LIST, backupFolder, contentPath, filesIn, headOf } from './content'

/** A backup that cannot be brought back, in words. */
export class NotRestored extends Error {
  override readonly name = 'NotRestored'
}

/** Makes sure that a backup is whole, and no younger than this version. @throws NotRestored */
export async function checkBackup(root: string, name: string): Promise<void> {
  const head = await headOf(root, name).catch(() => null)
  if (head === null) throw new NotRestored(`There is no finished backup ${name} in ${root}.`)
  const unknown = head.schema.filter((one) => !Object.hasOwn(migrations, one))
  if (unknown.length > 0)
    throw new NotRestored(`This backup is of a newer version (${unknown.join(', ')}). Bring it back with that version or a later one.`)
  const folder = backupFolder(root, name)
  for (const [file, digest] of [
    [DUMP, head.dump],
    [LIST, head.list],
  ] as const)
    if ((await digestOfFile(join(folder, file)).catch(() => '')) !== digest)
      throw new NotRestored(`${join(folder, file)} is missing or damaged. Bring back another backup.`)
}

/** Puts a file where media are kept. @returns SHA-256 of what is there then */
async function laidInStore(path: string, content: string): Promise<string | null> {
  const name = path.slice(IN_STORE.length)
  await stores().store.put(name, content)
  const kept = await stores().store.read(name)
  return kept === null ? null : await digestOfStream(kept)
}

/** Puts a file into the data folder. @returns SHA-256 of what is there then */
async function laidBeside(target: string, content: string): Promise<string> {
  await mkdir(dirname(target), { recursive: true })
  await copyFile(content, target)
  return await digestOfFile(target)
}

/**
 * Lays the files of a backup into an empty data folder, or media into the object store that is set; each is read again there.
 * @returns how many, and which are missing or damaged in the backup
 * @throws NotRestored when the folder is not empty
 */
export async function layFiles(
  root: string,
  name: string,
  data: string,
): Promise<{ readonly laid: number; readonly lost: readonly string[] }> {
  const there = stores().here ? await readdir(workingFolder()).catch(() => []) : []
  if (there.length > 0) throw new NotRestored(`There are talks in ${data} already. Name a folder that is empty or not there.`)
  const lost: string[] = []
  let laid = 0
  for await (const { path, digest, written } of filesIn(root, name)) {
    const target = join(data, path)
    if (normalize(target) !== target || !target.startsWith(`${data}/`))
      throw new NotRestored(`${path} would lie outside of the data folder.`)
    const content = contentPath(root, digest)
    const whole = (await digestOfFile(content).catch(() => null)) === digest
    const isMedia = path.startsWith(IN_STORE)
    const sound = whole && (await (isMedia ? laidInStore(path, content) : laidBeside(target, content))) === digest
    if (!sound) {
      lost.push(path)
      continue
    }
    if (!isMedia || stores().here) await utimes(target, new Date(written), new Date(written))
    laid += 1
  }
  return { laid, lost }
}

/** Fills an empty database from a backup. @throws ProcessFailed with what the database said */
export async function fillDatabase(root: string, name: string, databaseUrl: string): Promise<void> {
  const file = join(backupFolder(root, name), DUMP)
  await run('pg_restore', ['--exit-on-error', '--no-owner', '--single-transaction', `--dbname=${databaseUrl}`, file])
}
