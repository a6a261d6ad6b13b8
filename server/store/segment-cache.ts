import { readdir, rm, stat, utimes } from 'node:fs/promises'
import { join } from 'node:path'
import { segmentFolder, sizeOf } from './media-store'

/** What was used so lately may belong to a film that is being made, in ms. */
const IN_USE = 3_600_000

/** Whether a part of a film is there already. It counts as used now, so that it is not the next to go. */
export async function foundInCache(file: string): Promise<boolean> {
  if ((await sizeOf(file)) === null) return false
  return await utimes(file, new Date(), new Date()).then(
    () => true,
    () => false,
  )
}

/**
 * Takes out of the cache what was used longest ago, until the rest is no larger than it may be.
 * @param most bytes
 * @param now ms since 1970
 * @returns bytes that went
 */
export async function trimSegmentCache(most: number, now: number): Promise<number> {
  const folder = segmentFolder()
  const names = await readdir(folder).catch(() => [])
  const files = (
    await Promise.all(
      names.map(async (name) => {
        const path = join(folder, name)
        const found = await stat(path).catch(() => null)
        return found?.isFile() === true ? { path, bytes: found.size, used: found.mtimeMs } : null
      }),
    )
  ).flatMap((file) => file ?? [])
  let over = files.reduce((sum, file) => sum + file.bytes, 0) - most
  let gone = 0
  for (const file of files.sort((a, b) => a.used - b.used)) {
    if (over <= 0 || now - file.used < IN_USE) break
    await rm(file.path, { force: true })
    over -= file.bytes
    gone += file.bytes
  }
  return gone
}
