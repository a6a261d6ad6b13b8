import type { Selectable } from 'kysely'
import type { Ms } from '@core/model'
import type { Queries, StretchTable } from '@server/database'

type Stretch = Selectable<StretchTable>

/** Stretches of a take that were closed and are not ready to be played, in order. */
export const closingStretches = (q: Queries, take: string): Promise<readonly Stretch[]> =>
  q.selectFrom('stretch').selectAll().where('take', '=', take).where('state', '=', 'closing').orderBy('number').execute()

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

/** Digests of a stretch's files, by which it is seen that they are whole. */
export type StretchDigests = Pick<Stretch, 'raw_digest' | 'recording_digest' | 'voice_digest'>

/** What is known of a stretch once it is ready. */
export type ReadyStretch = StretchDigests &
  Pick<Stretch, 'loudness' | 'picture_at' | 'sound_at' | 'timing' | 'drift_ppm' | 'camera_lost_ms'> & {
    readonly length_ms: Ms
    readonly peaks: readonly number[]
  }

/** A closed stretch can be played. */
export async function stretchReady(q: Queries, id: string, { peaks, ...known }: ReadyStretch): Promise<void> {
  await q
    .updateTable('stretch')
    .set({ state: 'ready', peaks: JSON.stringify(peaks), ...known })
    .where('id', '=', id)
    .where('state', '=', 'closing')
    .execute()
}

/** A closed stretch of timings and ink alone lasts so long. */
export async function silentStretchReady(q: Queries, id: string, length: Ms): Promise<void> {
  await q.updateTable('stretch').set({ state: 'ready', length_ms: length }).where('id', '=', id).where('state', '=', 'closing').execute()
}

/** The face is off from then on. */
export async function takeFaceOff(q: Queries, stretch: string, at: Ms): Promise<void> {
  const { last } = await q
    .selectFrom('cue')
    .select((build) => build.fn.max('n').as('last'))
    .where('stretch', '=', stretch)
    .executeTakeFirstOrThrow()
  const n = (last ?? -1) + 1
  await q
    .insertInto('cue')
    .values({ stretch, n, cue: JSON.stringify({ kind: 'inset', at, on: false }) })
    .execute()
  await q
    .updateTable('stretch')
    .set({ cues: n + 1 })
    .where('id', '=', stretch)
    .execute()
}

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

/** The files of a stretch were made again. */
export async function noteDigests(q: Queries, id: string, digests: StretchDigests): Promise<void> {
  await q.updateTable('stretch').set(digests).where('id', '=', id).execute()
}
