import { readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { leaveObjects, objectsLyingSince } from './object-leavings'
import { stores, workingFolder } from './stores'

/** What may lie in the store with nothing that refers to it. */
export type LeavingKind = 'stretch' | 'delivery' | 'asset' | 'upload' | 'stream' | 'entry' | 'export'

const FOLDERS: Readonly<Record<LeavingKind, string>> = {
  stretch: 'stretches',
  delivery: 'deliveries',
  asset: 'assets',
  upload: 'uploads',
  stream: 'streams',
  entry: 'entries',
  export: 'exports',
}

/** A name that is none of ours is left where it is. */
const OURS: Readonly<Record<LeavingKind, RegExp>> = {
  stretch: /^[0-9a-f-]{36}$/,
  delivery: /^[0-9a-f-]{36}$/,
  asset: /^[0-9a-f]{64}$/,
  upload: /^[\w-]+$/,
  stream: /^[0-9a-f-]{36}$/,
  entry: /^[0-9a-f-]{36}$/,
  export: /^[0-9a-f-]{36}$/,
}

const namesIn = (folder: string): Promise<readonly string[]> => readdir(folder).catch(() => [])
const changed = (path: string): Promise<number> =>
  stat(path).then(
    (found) => found.mtimeMs,
    () => Infinity,
  )

const asidePath = (kind: LeavingKind, name: string): string => join(workingFolder(), `leaving-${kind}-${name}`)

/** Puts back what was on its way out when a worker was broken off: it is looked at anew. */
export async function putBack(kind: LeavingKind): Promise<void> {
  if (!stores().here) return
  const prefix = `leaving-${kind}-`
  for (const found of await namesIn(workingFolder())) {
    if (!found.startsWith(prefix)) continue
    const name = found.slice(prefix.length)
    const kept = await rename(join(workingFolder(), found), pathOf(kind, name)).then(
      () => true,
      () => false,
    )
    // The same was brought in again meanwhile.
    if (!kept) await rm(join(workingFolder(), found), { recursive: true, force: true })
  }
}

/**
 * Names of a kind that have lain in the store unchanged since a time: what is still being brought in is left out.
 * @param before on the clock on the wall, in ms
 */
export async function lyingSince(kind: LeavingKind, before: number): Promise<readonly string[]> {
  if (!stores().here) return (await objectsLyingSince(FOLDERS[kind], before)).filter((name) => OURS[kind].test(name))
  const root = join(workingFolder(), FOLDERS[kind])
  const names =
    kind === 'asset' ? (await Promise.all((await namesIn(root)).map((folder) => namesIn(join(root, folder))))).flat() : await namesIn(root)
  const ours = names.filter((name) => OURS[kind].test(name))
  const old = await Promise.all(ours.map(async (name) => (await changed(pathOf(kind, name))) < before))
  return ours.filter((_, n) => old[n])
}

const pathOf = (kind: LeavingKind, name: string): string =>
  kind === 'asset' ? join(workingFolder(), FOLDERS[kind], name.slice(0, 2), name) : join(workingFolder(), FOLDERS[kind], name)

/**
 * Takes one out of the store for good. Whoever keeps the same bytes again in this very moment touches them first (`keepAsset`):
 * then they stay.
 * @param before as in `lyingSince`
 * @returns whether it went
 */
export async function leave(kind: LeavingKind, name: string, before: number): Promise<boolean> {
  const path = pathOf(kind, name)
  if (!stores().here) return await leaveObjects(path, before)
  const aside = asidePath(kind, name)
  await rename(path, aside)
  if ((await changed(aside)) >= before) {
    await rename(aside, path)
    return false
  }
  await rm(aside, { recursive: true, force: true })
  return true
}
