import type { TalkView } from '@contracts'
import { api } from '~/client'
import { localTakes } from './local-takes'
import { CHUNK_MS } from './recorder'

/** A take that was begun and never stopped. */
export interface BrokenTake {
  readonly id: string
  readonly began: string
  /** About how much of it is there, in ms. */
  readonly about: number
  readonly here: boolean
}

export const takeLock = (id: string): string => `aisle-take:${id}`

/** Takes of a talk that stopped without being stopped: those this browser knows of, and those only the server does. */
export async function findBrokenTakes(talk: TalkView): Promise<readonly BrokenTake[]> {
  const db = await localTakes()
  const held = new Set((await navigator.locks.query()).held?.map((lock) => lock.name))
  const local = (await db.getAllFromIndex('takes', 'talk', talk.id)).filter((take) => !take.stopped && !held.has(takeLock(take.id)))
  const here = await Promise.all(
    local.map(async (take): Promise<BrokenTake> => {
      const stretches = (await db.getAllFromIndex('stretches', 'take', take.id)).filter(({ window }) => window === undefined)
      const counts = await Promise.all(
        stretches.map(async (stretch) => {
          if (stretch.closing !== null) return stretch.closing.length
          const waiting = await db.countFromIndex('chunks', 'stretch', stretch.id)
          const sent = await api.get<{ chunks: number[] }>(`/stretches/${stretch.id}`).then(
            (held) => held.chunks.length,
            () => 0,
          )
          const tail = (await db.getAllFromIndex('tails', 'stretch', stretch.id)).at(-1)
          return Math.max((waiting + sent) * CHUNK_MS, tail === undefined ? 0 : tail.at + CHUNK_MS)
        }),
      )
      return { id: take.id, began: new Date(take.began).toISOString(), about: counts.reduce((sum, count) => sum + count, 0), here: true }
    }),
  )
  const known = new Set(here.map((take) => take.id))
  const elsewhere = talk.takes
    .filter((take) => take.state === 'open' && !take.live && !known.has(take.id) && !held.has(takeLock(take.id)))
    .map((take): BrokenTake => ({ id: take.id, began: take.started, about: take.length, here: false }))
  return [...here, ...elsewhere]
}
