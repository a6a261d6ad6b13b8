import { Refusal, UNFINISHED } from '@core/model'
import type { Ms } from '@core/model'
import type { Quota } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { bytesHeld, largestTalks } from './held-bytes'
import { ownerOf } from './ownership'
import { FILM_DAYS, filmMinutesOf, quotaOf, recordingsOf } from './person-quota'

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

/** So many of the largest talks are named when there is no room. */
const LARGEST_NAMED = 3
const MINUTE = 60_000

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(bytes < 1e10 ? 1 : 0)} GB`
const minutes = (count: number): string => `${String(count)} minute${count === 1 ? '' : 's'}`

/** Whose a talk is, and what they may keep. */
async function ownerAndQuota(q: Queries, talk: string): Promise<{ readonly owner: string; readonly quota: Quota }> {
  const { owner } = await q.selectFrom('talk').select('owner').where('id', '=', talk).executeTakeFirstOrThrow()
  return { owner, quota: await quotaOf(q, owner) }
}

/**
 * Looks whether a talk and its owner may keep as much more. A recording under way is not stopped by it: it is asked before one begins.
 * @throws Refusal `too-large` saying whose room is used up, before anything is taken in
 */
export async function roomInQuota(q: Queries, talk: string, bytes: number): Promise<void> {
  const { talkQuota } = settings()
  const ofTalk = await bytesHeld(q, { talk })
  if (ofTalk + bytes > talkQuota) {
    throw new Refusal(
      'too-large',
      `This talk holds ${gigabytes(ofTalk)}, and up to ${gigabytes(talkQuota)} can be kept in one. Delete files or takes of it ` +
        `that are no longer needed. Nothing was changed.`,
    )
  }
  const { owner, quota } = await ownerAndQuota(q, talk)
  const most = quota.bytes
  const ofPerson = await bytesHeld(q, { owner })
  if (ofPerson + bytes > most) {
    throw new Refusal(
      'too-large',
      `Your talks hold ${gigabytes(ofPerson)}, and up to ${gigabytes(most)} can be kept by one person here. ` +
        `${await whatHoldsMost(q, owner)} Nothing was changed.`,
      { quota: 'bytes' },
    )
  }
}

/** What somebody deletes to have room, in a sentence. */
async function whatHoldsMost(q: Queries, owner: string): Promise<string> {
  const largest = (await largestTalks(q, owner, LARGEST_NAMED)).map(({ name, bytes }) => `“${name}” (${gigabytes(bytes)})`)
  const what = 'Delete talks, files or takes that are no longer needed'
  return largest.length === 0 ? `${what}.` : `${what}; most is in ${largest.join(', ')}.`
}

/** @throws Refusal `too-many` when as many minutes of film were made for the talk's owner lately as may be */
export async function roomForFilm(q: Queries, talk: string, length: Ms): Promise<void> {
  const { owner, quota } = await ownerAndQuota(q, talk)
  const most = quota.filmMinutes
  if (most === null) return
  const made = await filmMinutesOf(q, owner)
  if (made + length / MINUTE <= most) return
  throw new Refusal(
    'too-many',
    `In the last ${String(FILM_DAYS)} days ${minutes(made)} of film were made for you, and up to ${minutes(most)} are. Nothing was ` +
      `begun. Cancel files that still wait, make this one later, or ask whoever runs the server for more.`,
    { quota: 'filmMinutes' },
  )
}

/** @throws Refusal `too-many` when as many takes of the talk's owner are being recorded as may */
export async function roomForRecording(q: Queries, talk: string): Promise<void> {
  const { owner, quota } = await ownerAndQuota(q, talk)
  const most = quota.recordings
  if (most === null || (await recordingsOf(q, owner, talk)) < most) return
  throw new Refusal(
    'too-many',
    `${most === 1 ? 'One of your talks is' : `${String(most)} of your talks are`} being recorded at this moment, and no more can be at ` +
      `once. Stop one of those takes, then begin this one.`,
    { quota: 'recordings' },
  )
}

/** What a recording holds, in bytes, and its take in all. */
export interface TakeHolds {
  readonly bytes: number
  readonly ofTake: number
}

/** @param bytes that come @throws Refusal `too-large` when a recording would be longer than any take is */
export function roomInTake(holds: TakeHolds, bytes: number): void {
  if (holds.bytes + bytes > MOST_OF_STRETCH || holds.ofTake + bytes > MOST_OF_TAKE) {
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
