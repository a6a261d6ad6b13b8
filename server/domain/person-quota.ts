import { sql } from 'kysely'
import type { Quota, QuotaUse } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { bytesHeld } from './held-bytes'
import { isLive } from './live-takes'

/** Films made in so many days count. */
export const FILM_DAYS = 30

/** What everybody may keep, and have made, of whom nothing else is said. */
export const usualQuota = (): Quota => ({
  bytes: settings().personQuota,
  filmMinutes: settings().filmMinutes,
  recordings: settings().recordings,
})

/** What somebody may keep, and have made. */
export async function quotaOf(q: Queries, person: string): Promise<Quota> {
  const own = await q
    .selectFrom('person')
    .select(['guest', 'most_bytes', 'most_film_minutes', 'most_recordings'])
    .where('id', '=', person)
    .executeTakeFirstOrThrow()
  const usual = usualQuota()
  return {
    bytes: own.most_bytes ?? (own.guest ? settings().guestQuota : usual.bytes),
    filmMinutes: own.most_film_minutes ?? usual.filmMinutes,
    recordings: own.most_recordings ?? usual.recordings,
  }
}

/** Minutes of the films that were made for somebody lately, or are to be. */
export async function filmMinutesOf(q: Queries, person: string): Promise<number> {
  const { sum } = await q
    .selectFrom('delivery')
    .innerJoin('talk', 'talk.id', 'delivery.talk')
    .select((build) => build.fn.sum<number | null>('delivery.length_ms').as('sum'))
    .where('talk.owner', '=', person)
    .where('delivery.state', 'not in', ['failed', 'cancelled'])
    .where('delivery.created', '>', sql<Date>`now() - make_interval(days => ${FILM_DAYS})`)
    .executeTakeFirstOrThrow()
  return Math.ceil(Number(sum ?? 0) / 60_000)
}

/** Takes that somebody records at the moment. @param but those of this talk */
export async function recordingsOf(q: Queries, person: string, but: string | null = null): Promise<number> {
  const { count } = await q
    .selectFrom('take')
    .innerJoin('talk', 'talk.id', 'take.talk')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('talk.owner', '=', person)
    .where(isLive)
    .$if(but !== null, (others) => others.where('talk.id', '!=', but))
    .executeTakeFirstOrThrow()
  return Number(count)
}

/** What somebody uses of it. */
export async function quotaUseOf(q: Queries, person: string): Promise<QuotaUse> {
  const [bytes, filmMinutes, recordings] = await Promise.all([
    bytesHeld(q, { owner: person }),
    filmMinutesOf(q, person),
    recordingsOf(q, person),
  ])
  return { bytes, filmMinutes, recordings }
}
