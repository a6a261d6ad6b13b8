import type { Selectable } from 'kysely'
import type { Cue, Ms } from '@core/model'
import type { Queries, StretchTable } from '@server/database'
import { ago } from './ago'

type Stretch = Selectable<StretchTable>

const closing = (q: Queries, take: string) =>
  q.selectFrom('stretch').selectAll().where('take', '=', take).where('state', '=', 'closing').orderBy('number')

/** Stretches of a take that were closed and are not ready to be played, in order. */
export const closingStretches = (q: Queries, take: string): Promise<readonly Stretch[]> =>
  closing(q, take).where('window_of', 'is', null).execute()

/** Likewise what was recorded of windows that were shown during them. */
export const closingWindows = (q: Queries, take: string): Promise<readonly Stretch[]> =>
  closing(q, take).where('window_of', 'is not', null).execute()

/** The talk that a take is of. */
export async function talkOfTake(q: Queries, take: string): Promise<string> {
  return (await q.selectFrom('take').select('talk').where('id', '=', take).executeTakeFirstOrThrow()).talk
}

/** How long a stretch is; 0 before that is known. */
export async function lengthOfStretch(q: Queries, stretch: string): Promise<Ms> {
  return (await q.selectFrom('stretch').select('length_ms').where('id', '=', stretch).executeTakeFirstOrThrow()).length_ms ?? 0
}

/** The stretch of a voice that is being brought in; null when it is in, or was discarded. */
export async function closingVoice(q: Queries, take: string): Promise<string | null> {
  const row = await q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .select('stretch.id')
    .where('take.id', '=', take)
    .where('take.state', '=', 'closing')
    .executeTakeFirst()
  return row?.id ?? null
}

/** When the last thing happened in a stretch, in ms of it; 0 when nothing did. */
export async function lastCueAt(q: Queries, stretch: string): Promise<Ms> {
  const cues = await q.selectFrom('cue').select('cue').where('stretch', '=', stretch).execute()
  return cues.reduce((last, { cue }) => Math.max(last, cue.at), 0)
}

/** Bytes of the first chunks of a recording; null for one that did not come in chunks. */
export async function bytesOfChunks(q: Queries, stretch: string, count: number): Promise<number | null> {
  const { bytes } = await q
    .selectFrom('chunk')
    .select((build) => build.fn.sum<number>('bytes').as('bytes'))
    .where('stretch', '=', stretch)
    .where('n', '<', count)
    .executeTakeFirstOrThrow()
  return bytes === null ? null : Number(bytes)
}

/** Most chunks that are told at a time. */
const CHUNKS_TOLD = 500

/** A recording that comes: how far it has, and how far it goes. */
export interface ComingRecording {
  readonly state: Stretch['state']
  /** How many chunks it has in all; null while it is made. */
  readonly chunks: number | null
  /** How many have come without a gap, as far as they were asked for. */
  readonly upTo: number
}

/**
 * How far a recording has come.
 * @param from number of the first chunk that is asked for
 * @returns null when it is no more
 */
export async function comingRecording(q: Queries, stretch: string, from: number): Promise<ComingRecording | null> {
  // In this order: what is told of a closed one is all there then.
  const row = await q.selectFrom('stretch').select(['state', 'chunks']).where('id', '=', stretch).executeTakeFirst()
  if (row === undefined) return null
  const numbers = await q
    .selectFrom('chunk')
    .select('n')
    .where('stretch', '=', stretch)
    .where('n', '>=', from)
    .orderBy('n')
    .limit(CHUNKS_TOLD)
    .execute()
  const gap = numbers.findIndex(({ n }, index) => n !== from + index)
  return { ...row, upTo: Math.min(from + (gap === -1 ? numbers.length : gap), row.chunks ?? Infinity) }
}

/**
 * Stretches that are being recorded with a voice, the one that began last first.
 * @param within ms in which its take was heard of
 */
export const stretchesBeingRecorded = (q: Queries, within: Ms, most: number): Promise<readonly Pick<Stretch, 'id' | 'camera'>[]> =>
  q
    .selectFrom('take')
    .innerJoin('stretch', 'stretch.take', 'take.id')
    .select(['stretch.id', 'stretch.camera'])
    .where('take.state', '=', 'open')
    .where('take.seen', '>', ago(within))
    .where('stretch.state', '=', 'open')
    .where('stretch.voice', '=', true)
    .where('stretch.bytes', '>', 0)
    .orderBy('take.started', 'desc')
    .limit(most)
    .execute()

/** Stretches of a take that are ready, and of whose files it is not noted yet what they hold. */
export const stretchesToSettle = (q: Queries, take: string): Promise<readonly Stretch[]> =>
  q
    .selectFrom('stretch')
    .selectAll()
    .where('take', '=', take)
    .where('state', '=', 'ready')
    .where('raw_digest', 'is not', null)
    .where('voice_digest', 'is', null)
    .execute()

/** Digests of a stretch's files, by which it is seen that they are whole. */
export type StretchDigests = Pick<Stretch, 'raw_digest' | 'recording_digest' | 'voice_digest'>

/** What is known of a stretch once it is ready. */
export type ReadyStretch = Pick<
  Stretch,
  'raw_digest' | 'loudness' | 'picture_at' | 'sound_at' | 'timing' | 'drift_ppm' | 'camera_lost_ms'
> & {
  readonly length_ms: Ms
  readonly peaks: readonly number[]
}

/** A closed stretch can be played. */
export async function stretchReady(q: Queries, id: string, { peaks, ...known }: ReadyStretch): Promise<void> {
  await q
    .updateTable('stretch')
    .set({ state: 'ready', peaks: JSON.stringify(peaks), recording_digest: null, voice_digest: null, ...known })
    .where('id', '=', id)
    .where('state', '=', 'closing')
    .execute()
}

/** What there is of a window that was shown is a clip by now, or will never be one. */
export async function windowReady(q: Queries, id: string): Promise<void> {
  // It has no length of its own: what is played is its clip.
  await q.updateTable('stretch').set({ state: 'ready', length_ms: 0 }).where('id', '=', id).where('state', '=', 'closing').execute()
}

/** A closed stretch of timings and ink alone lasts so long. */
export async function silentStretchReady(q: Queries, id: string, length: Ms): Promise<void> {
  await q.updateTable('stretch').set({ state: 'ready', length_ms: length }).where('id', '=', id).where('state', '=', 'closing').execute()
}

/** Adds what happened in a closed stretch, in order. */
export async function addCues(q: Queries, stretch: string, cues: readonly Cue[]): Promise<void> {
  if (cues.length === 0) return
  const { last } = await q
    .selectFrom('cue')
    .select((build) => build.fn.max('n').as('last'))
    .where('stretch', '=', stretch)
    .executeTakeFirstOrThrow()
  const first = (last ?? -1) + 1
  await q
    .insertInto('cue')
    .values(cues.map((cue, n) => ({ stretch, n: first + n, cue: JSON.stringify(cue) })))
    .execute()
  await q
    .updateTable('stretch')
    .set({ cues: first + cues.length })
    .where('id', '=', stretch)
    .execute()
}

/** The face is off from then on. */
export const takeFaceOff = (q: Queries, stretch: string, at: Ms): Promise<void> => addCues(q, stretch, [{ kind: 'inset', at, on: false }])

/** Whether a stretch is ready and nothing more of it came since its recording had that digest. */
export async function isReadyAs(q: Queries, id: string, raw: string | null): Promise<boolean> {
  const row = await q
    .selectFrom('stretch')
    .select('id')
    .where('id', '=', id)
    .where('state', '=', 'ready')
    .where('raw_digest', '=', raw)
    .executeTakeFirst()
  return row !== undefined
}

/** What the files of a stretch hold, as they were made, or made again. */
export async function noteDigests(q: Queries, id: string, digests: Partial<StretchDigests>): Promise<void> {
  await q.updateTable('stretch').set(digests).where('id', '=', id).execute()
}

/** What is not known of a stretch before its recording was read. */
export const NOT_READ_YET = {
  kept_ms: null,
  peaks: null,
  loudness: null,
  prints: null,
  tail: null,
  timing: null,
  drift_ppm: null,
  offset_picture: 0,
  offset_sound: 0,
  window_of: null,
  window_view: null,
  stills: null,
} as const
