import { sql } from 'kysely'
import { Refusal, UNFINISHED } from '@core/model'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { ownerOf } from './ownership'

/** Most that the recording of one stretch, and those of one take, may have, in bytes: twelve hours without a pause, and as much again. */
const MOST_OF_STRETCH = 16e9
const MOST_OF_TAKE = 32e9
/**
 * Most takes of a talk, those that were thrown away included; most talks of a person; most of their decks and files that wait to be
 * read and made.
 */
const MOST_TAKES = 2000
const MOST_TALKS = 10_000
const MOST_IMPORTS_WAITING = 100
const MOST_FILES_WAITING = 2000

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(bytes < 1e10 ? 1 : 0)} GB`

/** What talks hold, in bytes: what was brought, recordings as they came, finished files. @param whose talks: one, or all of a person's */
async function bytesOf(q: Queries, whose: { readonly talk: string } | { readonly owner: string }): Promise<number> {
  const talks = 'talk' in whose ? sql`(select ${whose.talk}::uuid as id)` : sql`(select id from talk where owner = ${whose.owner})`
  const { rows } = await sql<{ bytes: number }>`
    with mine as ${talks}
    select ((select coalesce(sum(bytes), 0) from asset where talk in (select id from mine))
      + (select coalesce(sum(stretch.bytes), 0) from stretch join take on take.id = stretch.take where take.talk in (select id from mine))
      + (select coalesce(sum((facts ->> 'bytes')::bigint), 0) from delivery where talk in (select id from mine)
        and facts is not null)
      + (select coalesce(sum(bytes), 0) from talk_export where talk in (select id from mine)))::bigint as bytes`.execute(q)
  return rows[0]?.bytes ?? 0
}

/**
 * Looks whether a talk and its owner may keep as much more. A recording under way is not stopped by it: it is asked before one begins.
 * @throws Refusal `too-large` saying whose room is used up, before anything is taken in
 */
export async function roomInQuota(q: Queries, talk: string, bytes: number): Promise<void> {
  const { talkQuota, personQuota, guestQuota } = settings()
  const ofTalk = await bytesOf(q, { talk })
  if (ofTalk + bytes > talkQuota) {
    throw new Refusal(
      'too-large',
      `This talk holds ${gigabytes(ofTalk)}, and up to ${gigabytes(talkQuota)} can be kept in one. Delete files or takes of it ` +
        `that are no longer needed. Nothing was changed.`,
    )
  }
  const { owner, guest } = await q
    .selectFrom('talk')
    .innerJoin('person', 'person.id', 'talk.owner')
    .select(['talk.owner', 'person.guest'])
    .where('talk.id', '=', talk)
    .executeTakeFirstOrThrow()
  const most = guest ? guestQuota : personQuota
  const ofPerson = await bytesOf(q, { owner })
  if (ofPerson + bytes > most) {
    throw new Refusal(
      'too-large',
      `Your talks hold ${gigabytes(ofPerson)}, and up to ${gigabytes(most)} can be kept by one person here. Delete ` +
        `talks, files or takes that are no longer needed. Nothing was changed.`,
    )
  }
}

/** @throws Refusal `too-large` when a recording would be longer than any take is */
export async function roomInTake(q: Queries, stretch: string, bytes: number): Promise<void> {
  const row = await q
    .selectFrom('stretch')
    .innerJoin('stretch as other', 'other.take', 'stretch.take')
    .select((build) => ['stretch.bytes', build.fn.sum<number>('other.bytes').as('all')])
    .where('stretch.id', '=', stretch)
    .groupBy(['stretch.id', 'stretch.bytes'])
    .executeTakeFirst()
  if (row === undefined) return
  if (row.bytes + bytes > MOST_OF_STRETCH || Number(row.all) + bytes > MOST_OF_TAKE) {
    throw new Refusal(
      'too-large',
      'This recording is longer than can be kept in one take. Stop it; all that has come is safe. Go on in another take at the ' +
        'end of the talk.',
    )
  }
}

const count = async (query: { executeTakeFirstOrThrow: () => Promise<{ readonly count: number }> }): Promise<number> =>
  Number((await query.executeTakeFirstOrThrow()).count)

/** @throws Refusal `too-many` when a talk has as many takes as it can */
export async function roomForTake(q: Queries, talk: string): Promise<void> {
  const takes = await count(
    q
      .selectFrom('take')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('talk', '=', talk),
  )
  if (takes >= MOST_TAKES)
    throw new Refusal('too-many', `A talk keeps up to ${String(MOST_TAKES)} takes. Duplicate the talk and go on in the copy.`)
}

/** @throws Refusal `too-many` when a person has as many talks as they can */
export async function roomForTalk(q: Queries, owner: string): Promise<void> {
  const talks = await count(
    q
      .selectFrom('talk')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('owner', '=', owner),
  )
  if (talks >= MOST_TALKS)
    throw new Refusal(
      'too-many',
      `Up to ${String(MOST_TALKS)} talks can be kept by one person here. Delete some that are no longer needed.`,
    )
}

/** @throws Refusal `too-many` when as many decks of the talk's owner wait to be read as may */
export async function roomForImport(q: Queries, talk: string): Promise<void> {
  const waiting = await count(
    q
      .selectFrom('import')
      .innerJoin('talk', 'talk.id', 'import.talk')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('import.state', 'in', ['queued', 'reading'])
      .where('talk.owner', '=', await ownerOf(q, talk)),
  )
  if (waiting >= MOST_IMPORTS_WAITING)
    throw new Refusal(
      'too-many',
      'Many of your decks are still waiting to be read. Nothing was changed; bring this one when some of them are done.',
    )
}

/** @throws Refusal `too-many` when as many files of the talk's owner wait to be made as may */
export async function roomForFiles(q: Queries, talk: string, files: number): Promise<void> {
  const waiting = await count(
    q
      .selectFrom('delivery')
      .innerJoin('talk', 'talk.id', 'delivery.talk')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('delivery.state', 'in', UNFINISHED)
      .where('talk.owner', '=', await ownerOf(q, talk)),
  )
  if (waiting + files > MOST_FILES_WAITING)
    throw new Refusal(
      'too-many',
      'Many of your files are still waiting to be made. Nothing was begun; order this one when some of them are done.',
    )
}
