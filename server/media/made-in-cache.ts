import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import pLimit from 'p-limit'
import { foundInCache, putUnder, safeFolder, segmentFolder } from '@server/store'

/** Makes a file of the cache under a name of its own, which it is given once it is whole. */
export type MakeFile = (part: string) => Promise<void>

/**
 * A file of the cache; it is made if it is not there. Several processes may make the same: each makes its own, and the last one's takes
 * the place of others alike.
 */
export async function madeInCache(path: string, make: MakeFile): Promise<string> {
  if (await foundInCache(path)) return path
  await safeFolder(segmentFolder())
  const part = `${path}.${randomUUID()}.part`
  try {
    await make(part)
    await putUnder(part, path)
    return path
  } finally {
    await rm(part, { force: true })
  }
}

/** Makes files of the cache, so many at a time, each once for all who ask for it meanwhile. */
export class CacheMaker {
  readonly #limit: ReturnType<typeof pLimit>
  readonly #underWay = new Map<string, Promise<string>>()

  constructor(atOnce: number) {
    this.#limit = pLimit(atOnce)
  }

  get isIdle(): boolean {
    return this.#limit.activeCount + this.#limit.pendingCount === 0
  }

  /** A file; those that are there are not held up by what is being made. @throws whatever making it throws */
  async fileAt(path: string, make: MakeFile): Promise<string> {
    if (await foundInCache(path)) return path
    const known = this.#underWay.get(path)
    if (known !== undefined) return await known
    const making = this.#limit(() => madeInCache(path, make)).finally(() => this.#underWay.delete(path))
    this.#underWay.set(path, making)
    return await making
  }
}
