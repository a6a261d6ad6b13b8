import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { access, rename, rm, stat, utimes } from 'node:fs/promises'
import { dirname, join, sep } from 'node:path'
import type { Readable } from 'node:stream'
import { log } from '@server/log'
import { settings } from '@server/settings'
import type { ByteRange, KeptFile, ObjectStore } from './object-store'
import { pathsIn } from './folder-store'
import { digestOfStream, putWhole, safeFolder, synced } from './safe-files'
import { nameInStore, stores, workingFolder } from './stores'

/*
 * Programs open files by path, so what an object store keeps is copied to this machine when it is wanted, and what is made here is put
 * there before it counts as kept. A copy bears the time at which its object was put there: so it is told from a later one of the same
 * name. When it was used last is its time of access, which is set by hand.
 */

/** What these hold is said by their names: a copy is never out of date. */
const FIXED = /^(assets|segments)\/|^stretches\/[^/]+\/slices\//
/** What was used so lately may be in use, in ms. */
const IN_USE = 3_600_000
/** A copy that was not used for so long goes, in ms. */
const UNUSED = 86_400_000

/** Notes of a copy which object it is of, by when that was put there, and that it was used now. */
const marked = (path: string, changed: number): Promise<void> => utimes(path, new Date(), new Date(changed))

/**
 * Gives a finished file its name, so that it is there whole or not at all, also after a power cut, and has it kept.
 * @param path in the store, or anywhere else on this machine
 */
export async function putUnder(temporary: string, path: string): Promise<void> {
  const { store, here } = stores()
  const name = nameInStore(path)
  // What stands here under its name is a copy of what is kept already.
  const kept = here || name === null ? null : await store.put(name, temporary)
  await putWhole(temporary, path)
  if (kept !== null) await marked(path, kept.changed)
}

/** The same for several files whose bytes are safe already; each folder that they stand in is seen to once. */
export async function putAllUnder(files: readonly { readonly temporary: string; readonly path: string }[]): Promise<void> {
  if (!stores().here) {
    await Promise.all(files.map(({ temporary, path }) => putUnder(temporary, path)))
    return
  }
  await Promise.all(files.map(({ temporary, path }) => rename(temporary, path)))
  for (const folder of new Set(files.map(({ path }) => dirname(path)))) await synced(folder)
}

/** A finished file whose bytes are safe, and which only wants its name. */
export interface StagedFile {
  /** Gives it a name in the store, and has it there. It can be done once. */
  readonly putUnder: (path: string) => Promise<void>
}

/** What was staged and got no name goes with the parts of films that are used no more. */
const STAGED = 'segments/staged-'

/**
 * Has a finished file where it is kept, so that giving it its name takes no longer however large it is: nobody is to wait for its bytes
 * in a transaction.
 */
export async function stage(temporary: string): Promise<StagedFile> {
  await synced(temporary)
  const { store, here } = stores()
  if (here) return { putUnder: (path) => putWhole(temporary, path) }
  const staged = `${STAGED}${randomUUID()}`
  await store.put(staged, temporary)
  return {
    putUnder: async (path) => {
      const name = nameInStore(path)
      if (name === null) throw new Error('outside the store')
      const kept = await store.rename(staged, name)
      await safeFolder(dirname(path))
      await putWhole(temporary, path)
      await marked(path, kept.changed)
    },
  }
}

/** What is known of a file in the store, or was where it is taken over from. */
async function find(name: string): Promise<KeptFile | null> {
  const { store, former } = stores()
  return (await store.find(name)) ?? (former === null ? null : await takenOver(name))
}

/** Takes one file over from where media were kept before. @returns null when it is not there either */
export async function takenOver(name: string): Promise<KeptFile | null> {
  const { store, former } = stores()
  const part = join(workingFolder(), `taken-over-${randomUUID()}.part`)
  await safeFolder(dirname(part))
  try {
    if (former === null || (await former.fetch(name, part)) === null) return null
    return await store.put(name, part)
  } finally {
    await rm(part, { force: true })
  }
}

const coming = new Map<string, Promise<void>>()

/** Has a file of the store on this machine, as it is kept, when it is there at all. */
async function bring(name: string, path: string): Promise<void> {
  const copy = await stat(path).catch(() => null)
  if (copy !== null && FIXED.test(name)) return await marked(path, copy.mtimeMs)
  const kept = await find(name)
  if (kept === null) return await rm(path, { force: true })
  if (copy?.size === kept.bytes && Math.floor(copy.mtimeMs) === Math.floor(kept.changed)) return await marked(path, kept.changed)
  await safeFolder(dirname(path))
  const part = `${path}.${randomUUID()}.part`
  try {
    const fetched = await stores().store.fetch(name, part)
    if (fetched === null) return
    await marked(part, fetched.changed)
    await rename(part, path)
  } finally {
    await rm(part, { force: true })
  }
}

/**
 * Has a file of the store on this machine before it is opened by its path.
 * @returns the path; when there is no such file, nothing stands there
 * @throws Error when what came is not what was kept
 */
export async function here(path: string): Promise<string> {
  const stored = stores()
  const name = nameInStore(path)
  if (name === null) return path
  if (stored.here) {
    if (stored.former !== null && (await stored.store.find(name)) === null) await takenOver(name)
    return path
  }
  const begun = coming.get(path) ?? bring(name, path).finally(() => coming.delete(path))
  coming.set(path, begun)
  await begun
  return path
}

/** The same for several files. */
export async function allHere(paths: readonly string[]): Promise<void> {
  for (const path of paths) await here(path)
}

/** Size of a file in bytes, or null when it is not there. */
export async function sizeOf(path: string): Promise<number | null> {
  const name = nameInStore(path)
  const size = await stat(path).then(
    (found) => found.size,
    () => null,
  )
  if (name === null || (size !== null && FIXED.test(name)) || (stores().here && stores().former === null)) return size
  return (await find(name))?.bytes ?? null
}

/** Whether a file stands on this machine as it is kept, without asking for it. */
async function isAtHand(name: string, path: string): Promise<boolean> {
  if (stores().here) return true
  return (
    FIXED.test(name) &&
    (await access(path).then(
      () => true,
      () => false,
    ))
  )
}

/** Reads a file of the store, or a part of it, wherever it is. @throws Error when it is not there */
export async function readKept(path: string, range?: ByteRange): Promise<Readable> {
  const name = nameInStore(path)
  if (name === null || (await isAtHand(name, path))) return createReadStream(await here(path), range)
  const read = (): Promise<Readable | null> => stores().store.read(name, range)
  const stream = (await read()) ?? ((await takenOver(name)) === null ? null : await read())
  if (stream === null) throw new Error(`${name} is not in the store`)
  return stream
}

/** SHA-256 of a file as it is kept. @throws Error when it is not there */
export const digestKept = async (path: string): Promise<string> => await digestOfStream(await readKept(path))

/** What was put into an object store within this time is as good as put there now, in ms. */
const FRESH = 3_600_000

/** Has a file count as put there now, as far as whoever looks for what is left over is concerned. @returns whether it is there so */
export async function refreshed(path: string): Promise<boolean> {
  const name = nameInStore(path)
  if (name !== null && !stores().here) return Date.now() - ((await stores().store.find(name))?.changed ?? 0) < FRESH
  await here(path)
  return await utimes(path, new Date(), new Date()).then(
    () => true,
    () => false,
  )
}

/** Removes a file, or a folder with all that is in it, wherever it is kept. */
export async function removeTree(path: string): Promise<void> {
  if (!path.startsWith(workingFolder() + sep)) throw new Error('outside the store')
  const name = nameInStore(path)
  const { store, former, here } = stores()
  const kept = [...(here ? [] : [store]), ...(former === null ? [] : [former])]
  if (name !== null) for (const one of kept) await removeAll(one, name)
  await rm(path, { recursive: true, force: true })
}

/** Removes what is kept under a name, and in the folder of that name. */
async function removeAll(kept: ObjectStore, name: string): Promise<void> {
  await kept.remove(name)
  for await (const file of kept.list(`${name}/`)) await kept.remove(file.name)
}

/**
 * Removes copies that were used longest ago from this machine until the rest is no larger than it may be, and those that nobody used for
 * a day: what was thrown away on another machine, and what was left of work that broke off, is among them. Nothing happens where the
 * store is the folder itself.
 * @param most bytes
 * @param now ms since 1970
 * @returns bytes that went
 */
export async function trimCopies(most: number, now: number): Promise<number> {
  if (stores().here) return 0
  const copies: { readonly path: string; readonly bytes: number; readonly used: number }[] = []
  for await (const path of pathsIn(workingFolder())) {
    const found = await stat(path).catch(() => null)
    if (found !== null) copies.push({ path, bytes: found.size, used: Math.max(found.atimeMs, found.mtimeMs) })
  }
  let over = copies.reduce((sum, { bytes }) => sum + bytes, 0) - most
  let gone = 0
  for (const { path, bytes, used } of copies.sort((a, b) => a.used - b.used)) {
    if (now - used < IN_USE || (over <= 0 && now - used < UNUSED)) break
    await rm(path, { force: true })
    over -= bytes
    gone += bytes
  }
  return gone
}

/** Keeps the copies on this machine as small as they may be. @returns ends it */
export function keepCopiesSmall(): () => void {
  const timer = setInterval(() => {
    trimCopies(settings().copies, Date.now()).catch((err: unknown) => {
      log.error({ err }, 'copies of media could not be looked through')
    })
  }, IN_USE / 6)
  timer.unref()
  return () => {
    clearInterval(timer)
  }
}
