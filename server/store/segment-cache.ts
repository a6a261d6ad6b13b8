import { utimes } from 'node:fs/promises'
import { here } from './local-copies'
import { segmentFolder } from './media-store'
import { nameInStore, stores } from './stores'

/** What was used so lately may belong to a film that is being made, in ms. */
const IN_USE = 3_600_000

/** Whether a part of a film is there already. It is on this machine then, and counts as used now, so that it is not the next to go. */
export async function foundInCache(file: string): Promise<boolean> {
  await here(file)
  return await utimes(file, new Date(), new Date()).then(
    () => true,
    () => false,
  )
}

/**
 * Takes out of the cache what was used longest ago (in an object store, what was put there longest ago), until the rest is no larger than
 * it may be.
 * @param most bytes
 * @param now ms since 1970
 * @returns bytes that went
 */
export async function trimSegmentCache(most: number, now: number): Promise<number> {
  const { store } = stores()
  const files = []
  for await (const file of store.list(`${nameInStore(segmentFolder()) ?? ''}/`)) files.push(file)
  let over = files.reduce((sum, { bytes }) => sum + bytes, 0) - most
  let gone = 0
  for (const { name, bytes, changed } of files.sort((a, b) => a.changed - b.changed)) {
    if (over <= 0 || now - changed < IN_USE) break
    await store.remove(name)
    over -= bytes
    gone += bytes
  }
  return gone
}
