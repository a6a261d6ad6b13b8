import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { access, copyFile, mkdir, readFile, readdir, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { createInterface } from 'node:readline/promises'
import Joi from 'joi'
import { digestOfFile, putUnder } from '@server/store'

/*
 * A folder of backups: what files hold is kept once under its digest, however many backups and places it is in; each backup is a list of
 * which file held what, with a dump of the database beside it.
 */

/** A file as a backup has it. */
export interface FileKept {
  /** In the data folder, with slashes. */
  readonly path: string
  readonly bytes: number
  /** When it was written, in ms since 1970: one that is as it was is not read again. */
  readonly written: number
  /** SHA-256. */
  readonly digest: string
}

/** What is said of a backup. */
export interface BackupHead {
  readonly made: string
  /** Names of the migrations that its database has. */
  readonly schema: readonly string[]
  /** SHA-256 of the dump and of the list of files. */
  readonly dump: string
  readonly list: string
  readonly files: number
  readonly bytes: number
}

const digest = Joi.string()
  .pattern(/^[0-9a-f]{64}$/)
  .required()
const count = Joi.number().min(0).required()
const fileShape = Joi.object<FileKept>({ path: Joi.string().required(), bytes: count, written: count, digest })
const headShape = Joi.object<BackupHead>({
  made: Joi.string().isoDate().required(),
  schema: Joi.array().items(Joi.string()).required(),
  dump: digest,
  list: digest,
  files: count,
  bytes: count,
})

/** What stands in a file of a backup. @throws Error when it is none of ours */
const decoded = <Value>(shape: Joi.ObjectSchema<Value>, text: string): Value => Joi.attempt(JSON.parse(text), shape, { convert: false })

/** What paths of media begin with, wherever they are kept. */
export const IN_STORE = 'store/'
export const DUMP = 'database.dump'
export const LIST = 'files.jsonl'
export const HEAD = 'backup.json'

export const backupFolder = (root: string, name: string): string => join(root, 'backups', name)
export const contentPath = (root: string, digest: string): string => join(root, 'content', digest.slice(0, 2), digest)

const isThere = (path: string): Promise<boolean> =>
  access(path).then(
    () => true,
    () => false,
  )

/** Finished backups, the oldest first. */
export async function backupsIn(root: string): Promise<readonly string[]> {
  const names = await readdir(join(root, 'backups')).catch(() => [])
  const whole = await Promise.all(names.map((name) => isThere(join(backupFolder(root, name), HEAD))))
  return names.filter((_, n) => whole[n] === true).sort()
}

/** The files of a backup, one after the other. */
export async function* filesIn(root: string, name: string): AsyncGenerator<FileKept> {
  const lines = createInterface({ input: createReadStream(join(backupFolder(root, name), LIST)), crlfDelay: Infinity })
  for await (const line of lines) if (line !== '') yield decoded(fileShape, line)
}

export const headOf = async (root: string, name: string): Promise<BackupHead> =>
  decoded(headShape, await readFile(join(backupFolder(root, name), HEAD), 'utf8'))

/** A file that a backup is to hold. */
export interface FileFound {
  /** In the data folder, with slashes; media are in its folder `store`, wherever they are kept. */
  readonly path: string
  readonly bytes: number
  /** When it was written, in ms since 1970. */
  readonly written: number
  /** Has it on this machine. @returns where it can be copied from */
  readonly fetch: () => Promise<string>
}

/**
 * Keeps what a file holds.
 * @param before the same file as the last backup has it
 * @returns null when it went meanwhile; `fresh`: it was not there before
 */
export async function keepContent(
  root: string,
  { path, bytes, written, fetch }: FileFound,
  before: FileKept | undefined,
): Promise<{ readonly file: FileKept; readonly fresh: boolean } | null> {
  const same = before?.bytes === bytes && before.written === written
  if (same && (await isThere(contentPath(root, before.digest)))) return { file: before, fresh: false }
  // Copied first and read then: what is kept is what was read, whatever happens to the file meanwhile.
  const part = join(root, 'content', `${randomUUID()}.part`)
  await mkdir(dirname(part), { recursive: true })
  const from = await fetch()
  const copied = await copyFile(from, part).then(
    () => true,
    () => false,
  )
  if (!copied) return null
  const held = await digestOfFile(part)
  const target = contentPath(root, held)
  const file = { path, bytes: (await stat(part)).size, written, digest: held }
  if (await isThere(target)) {
    await rm(part)
    return { file, fresh: false }
  }
  await mkdir(dirname(target), { recursive: true })
  await putUnder(part, target)
  return { file, fresh: true }
}

/** Forgets all but the last backups, and what no backup holds any more. @returns how many files went */
export async function forgetOld(root: string, kept: number): Promise<number> {
  const names = await backupsIn(root)
  for (const name of names.slice(0, Math.max(0, names.length - kept))) await rm(backupFolder(root, name), { recursive: true })
  const held = new Set<string>()
  for (const name of await backupsIn(root)) for await (const { digest } of filesIn(root, name)) held.add(digest)
  let gone = 0
  for (const entry of await readdir(join(root, 'content'), { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || held.has(entry.name)) continue
    await rm(join(entry.parentPath, entry.name))
    gone += 1
  }
  return gone
}
