import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { assetsOfSlides } from '@core/deck'
import { recomposed } from '@core/compose'
import { Refusal, asId } from '@core/model'
import type { Slide } from '@core/model'
import type { Queries } from '@server/database'
import { lockDeck, putDeck, slidesOf } from './decks'

/**
 * Copies slides of one talk into another, with their notes, times and pictures. Both talks are the asker's.
 * @param at place in the other deck, counted from 0
 * @returns the new slides' ids, in order
 * @throws Refusal `not-found` when a slide is not there
 */
export async function copySlides(q: Queries, from: string, ids: readonly string[], talk: string, at: number): Promise<readonly string[]> {
  const { revision, shape } = await lockDeck(q, talk)
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
  const copies = sources.map((slide): Slide => recomposed({ ...slide, id: asId(randomUUID()), version: 1 }, shape))
  const before = await slidesOf(q, talk)
  const place = Math.min(at, before.length)
  const after = [...before.slice(0, place), ...copies, ...before.slice(place)]
  await putDeck(q, talk, before, { shape, slides: after }, revision + 1)
  return copies.map((slide) => slide.id)
}
