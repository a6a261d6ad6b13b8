import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { assetsOfSlides } from '@core/deck'
import { recomposed } from '@core/compose'
import { Refusal, asId } from '@core/model'
import type { Slide } from '@core/model'
import type { Queries } from '@server/database'
import { saveDeck, slidesOf } from './decks'
import { tell } from './events'

/**
 * Copies slides of one talk into another, with their notes, times and pictures. Both talks are the asker's.
 * @param at place in the other deck, counted from 0
 * @returns the new slides' ids, in order
 * @throws Refusal `not-found` when a slide is not there
 */
export async function copySlides(q: Queries, from: string, ids: readonly string[], talk: string, at: number): Promise<readonly string[]> {
  const row = await q.selectFrom('talk').select(['revision', 'shape']).where('id', '=', talk).forUpdate().executeTakeFirstOrThrow()
  const wanted = new Set(ids)
  const sources = (await slidesOf(q, from)).filter((slide) => wanted.has(slide.id))
  if (sources.length !== wanted.size)
    throw new Refusal('not-found', 'A slide that was to be copied is no longer there. Nothing was copied.')
  const digests = assetsOfSlides(sources)
  if (digests.length > 0) {
    await q
      .insertInto('asset')
      .columns(['talk', 'digest', 'mime', 'bytes'])
      .expression((build) =>
        build
          .selectFrom('asset')
          .select([sql<string>`${talk}::uuid`.as('talk'), 'digest', 'mime', 'bytes'])
          .where('talk', '=', from)
          .where('digest', 'in', digests),
      )
      .onConflict((conflict) => conflict.doNothing())
      .execute()
  }
  const copies = sources.map((slide): Slide => recomposed({ ...slide, id: asId(randomUUID()), version: 1 }, row.shape))
  const before = await slidesOf(q, talk)
  const place = Math.min(at, before.length)
  await saveDeck(q, talk, before, [...before.slice(0, place), ...copies, ...before.slice(place)], row.revision + 1)
  await q
    .updateTable('talk')
    .set({ revision: row.revision + 1, changed: new Date() })
    .where('id', '=', talk)
    .execute()
  await tell(q, { talk, kind: 'deck', id: null })
  return copies.map((slide) => slide.id)
}
