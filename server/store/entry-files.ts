import { copyFile, link, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { randomUUID } from 'node:crypto'
import { here, putUnder } from './local-copies'
import { entryFolder } from './media-store'
import { safeFolder } from './safe-files'

/** What was handed in: the film, or a file that goes with it. @param ending without its dot */
export const entryPath = (entry: string, role: 'film' | 'captions' | 'transcript' | 'cover', ending: string): string =>
  join(entryFolder(entry), `${role}.${ending}`)

/**
 * Has a file stand under another name as well: it stays there when the first goes. Where the file system knows no second names, it is
 * copied.
 */
export async function alsoUnder(path: string, other: string): Promise<void> {
  await here(path)
  await safeFolder(dirname(other))
  const part = `${other}.${randomUUID()}.part`
  try {
    await link(path, part).catch(() => copyFile(path, part))
    await putUnder(part, other)
  } finally {
    await rm(part, { force: true })
  }
}
