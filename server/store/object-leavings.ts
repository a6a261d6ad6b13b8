import { removeTree } from './local-copies'
import { nameInStore, stores } from './stores'

/** When what is kept under a name, or in the folder of that name, was put there last; in ms since 1970. */
async function changedLast(name: string): Promise<number> {
  const { store } = stores()
  let last = (await store.find(name))?.changed ?? 0
  for await (const { changed } of store.list(`${name}/`)) last = Math.max(last, changed)
  return last
}

/**
 * The same as `lyingSince`, of an object store.
 * @param folder that they are in; of assets, digests stand one folder deeper
 * @param before on the clock on the wall, in ms
 */
export async function objectsLyingSince(folder: string, before: number): Promise<readonly string[]> {
  const last = new Map<string, number>()
  for await (const { name, changed } of stores().store.list(`${folder}/`)) {
    const parts = name.split('/')
    const own = (folder === 'assets' ? parts[2] : parts[1]) ?? ''
    last.set(own, Math.max(last.get(own) ?? 0, changed))
  }
  return [...last].filter(([, changed]) => changed < before).map(([name]) => name)
}

/**
 * The same as `leave`, of an object store. Whoever keeps the same bytes again puts them there anew, and then they stay.
 * @returns whether it went
 */
export async function leaveObjects(path: string, before: number): Promise<boolean> {
  const name = nameInStore(path)
  if (name === null || (await changedLast(name)) >= before) return false
  await removeTree(path)
  return true
}
