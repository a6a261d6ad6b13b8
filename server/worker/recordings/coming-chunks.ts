import { readFile } from 'node:fs/promises'
import type { Queries } from '@server/database'
import { comingRecording } from '@server/domain'
import { chunkPath, here } from '@server/store'
import type { Wakeable } from './wakeable'

/** How often it is looked for more, in ms: a recorder hands over a chunk a second. */
const LOOK_AGAIN = 1000
/** A recording of which nothing came for so long is not waited for, in ms. */
const PATIENCE = 600_000

/** What was waited for does not come. */
export class NothingComes extends Error {
  constructor(stretch: string) {
    super(`the recording does not go on: ${stretch}`)
    this.name = 'NothingComes'
  }
}

/**
 * Chunks of a recording in their order, as they come, until it is closed and all are there.
 * @param wait is woken when it is closed
 * @throws NothingComes
 */
export async function* comingChunks(q: Queries, stretch: string, wait: Wakeable): AsyncGenerator<Buffer> {
  let next = 0
  for (let since = performance.now(); ;) {
    const coming = await comingRecording(q, stretch, next)
    if (coming === null || (coming.state !== 'open' && coming.state !== 'closing')) throw new NothingComes(stretch)
    if (coming.upTo > next) since = performance.now()
    for (; next < coming.upTo; next += 1) yield await readFile(await here(chunkPath(stretch, next)))
    if (coming.state === 'closing') {
      if (next === coming.chunks) return
      if (next > (coming.chunks ?? 0)) throw new NothingComes(stretch)
    } else if (performance.now() - since > PATIENCE) throw new NothingComes(stretch)
    else await wait.pause(LOOK_AGAIN)
  }
}
