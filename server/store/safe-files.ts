import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdir, open, rename } from 'node:fs/promises'
import { dirname } from 'node:path'
import { settings } from '@server/settings'

/** Has what was written to a file or folder on the disk itself: a name is only as safe as the folder that it stands in. */
export async function synced(path: string): Promise<void> {
  const file = await open(path, 'r')
  try {
    await file.sync()
  } finally {
    await file.close()
  }
}

/** Folders that are known to be on the disk with those that they stand in. */
const safe = new Set<string>()
/** How many are remembered; then it is begun anew. */
const MOST_SAFE = 10_000

/**
 * Makes a folder that is there after a power cut too, with those that it stands in. One that is there already may have been made by
 * somebody who has not come to that yet, so it is seen to once here as well.
 */
export async function safeFolder(path: string): Promise<void> {
  const made = await mkdir(path, { recursive: true })
  if (made === undefined && safe.has(path)) return
  const root = settings().data
  for (let folder = dirname(path); folder.startsWith(root); folder = dirname(folder)) await synced(folder)
  if (safe.size >= MOST_SAFE) safe.clear()
  safe.add(path)
}

/** Has files that were made, and the names under which they stand, on the disk itself. Until then they are not called ready. */
export async function keptSafe(...paths: readonly string[]): Promise<void> {
  for (const path of paths) await synced(path)
  for (const folder of new Set(paths.map((path) => dirname(path)))) await synced(folder)
}

/** Gives a finished file its name on this machine's disk, so that it is there whole or not at all, also after a power cut. */
export async function putWhole(temporary: string, path: string): Promise<void> {
  await synced(temporary)
  await rename(temporary, path)
  await synced(dirname(path))
}

/** SHA-256 of bytes, in hexadecimal digits. */
export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/** SHA-256 of what is read, in hexadecimal digits. */
export async function digestOfStream(stream: AsyncIterable<unknown>): Promise<string> {
  const hash = createHash('sha256')
  for await (const chunk of stream) hash.update(chunk as Buffer)
  return hash.digest('hex')
}

/** Digest of a file of any size on this machine. */
export const digestOfFile = (path: string): Promise<string> => digestOfStream(createReadStream(path))
