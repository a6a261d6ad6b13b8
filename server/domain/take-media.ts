import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { Cue, StillTimes } from '@core/model'
import type { Queries } from '@server/database'
import { chunkPath, digestOf, facePath, printPath, stillPath, tailPath, writeAllWhole, writeWhole } from '@server/store'
import { roomInTake } from './quotas'

/** Bytes of all recordings of a stretch's take. */
const bytesOfTake = sql<number>`(select sum(other.bytes)::bigint from stretch as other where other.take = stretch.take)`

/** Digests of those chunks of a stretch that are there, by their numbers. */
const digestsOf = (numbers: readonly number[]) =>
  sql<Readonly<Record<number, string>>>`(select coalesce(jsonb_object_agg(chunk.n, chunk.digest), '{}') from chunk
    where chunk.stretch = stretch.id and chunk.n in (${sql.join(numbers)}))`

/** Keeps a print of the voice, by which its place in time is found. */
export async function keepFingerprint(
  q: Queries,
  stretch: string,
  n: number,
  print: { readonly at: number; readonly rate: number },
  samples: Uint8Array,
): Promise<void> {
  await writeWhole(printPath(stretch, n), samples)
  const added = JSON.stringify({ [String(n)]: { at: print.at, rate: print.rate } })
  await q
    .updateTable('stretch')
    .set({ prints: sql`coalesce(prints, '{}'::jsonb) || ${added}::jsonb` })
    .where('id', '=', stretch)
    .where('state', '=', 'open')
    .execute()
}

/**
 * Keeps a full-size picture of a window at rest.
 * @throws Refusal `too-large` when it is more than a take may have, `malformed` when the recording is none of a window
 */
export async function keepStill(q: Queries, stretch: string, n: number, times: StillTimes, picture: Uint8Array): Promise<void> {
  const row = await q
    .selectFrom('stretch')
    .select(['window_of', 'bytes', bytesOfTake.as('ofTake')])
    .where('id', '=', stretch)
    .executeTakeFirst()
  if (row?.window_of == null) throw new Refusal('malformed', 'Nothing was shown of a window in this recording.')
  roomInTake(row, picture.length)
  await writeWhole(stillPath(stretch, n), picture)
  const added = JSON.stringify({ [String(n)]: times })
  await q
    .updateTable('stretch')
    .set((build) => ({
      stills: sql`coalesce(stills, '{}'::jsonb) || ${added}::jsonb`,
      // One that comes again is counted once.
      bytes: sql<number>`${build.ref('bytes')} + case when coalesce(stills, '{}'::jsonb) ? ${String(n)} then 0 else ${picture.length} end`,
    }))
    .where('id', '=', stretch)
    .where('state', '=', 'open')
    .execute()
}

/** Keeps a stretch's first pictures, by which the place of its recorded ones is found. */
export async function keepVideoFingerprint(stretch: string, print: Uint8Array): Promise<void> {
  await writeWhole(facePath(stretch), print)
}

/** Keeps what was said last in a stretch that was cut off, by which its voice goes on where its recording ends. */
export async function keepTail(
  q: Queries,
  stretch: string,
  tail: { readonly at: number; readonly rate: number },
  samples: Uint8Array,
): Promise<void> {
  await writeWhole(tailPath(stretch), samples)
  await q
    .updateTable('stretch')
    .set({ tail: JSON.stringify({ at: tail.at, rate: tail.rate }) })
    .where('id', '=', stretch)
    .where('state', '=', 'open')
    .execute()
}

export interface Chunk {
  readonly n: number
  readonly digest: string
  readonly bytes: Uint8Array
}

/**
 * Keeps chunks of a recording, in any order and as often as they come; when this returns they are on the disk.
 * @throws Refusal `malformed` when one was cut short or damaged on the way, `conflict` when another is kept under its number,
 * `too-large` when it is more than a take may have
 */
export async function keepChunks(q: Queries, stretch: string, chunks: readonly Chunk[]): Promise<void> {
  for (const chunk of chunks) {
    if (digestOf(chunk.bytes) !== chunk.digest) {
      throw new Refusal('malformed', 'A part of the recording arrived damaged. It is still on this computer and is sent again.', {
        n: chunk.n,
      })
    }
  }
  const held = await q
    .selectFrom('stretch')
    .select(['state', 'whole', 'bytes', bytesOfTake.as('ofTake'), digestsOf(chunks.map(({ n }) => n)).as('known')])
    .where('id', '=', stretch)
    .executeTakeFirstOrThrow()
  for (const { n, digest } of chunks) {
    if ((held.known[n] ?? digest) !== digest)
      throw new Refusal('conflict', 'Another part of the recording is kept under this number.', { n })
  }
  const fresh = chunks.filter(({ n }) => held.known[n] === undefined)
  if (fresh.length === 0) return
  // Also what comes late is kept: who recorded it may have been taken for gone meanwhile.
  if (held.state !== 'open' && held.whole)
    throw new Refusal('conflict', 'This recording is closed already, with all that its recorder said it has.')
  roomInTake(
    held,
    fresh.reduce((sum, { bytes }) => sum + bytes.length, 0),
  )
  await writeAllWhole(fresh.map(({ n, bytes }) => ({ path: chunkPath(stretch, n), bytes })))
  // In one question, so that what came is counted once however often it comes.
  await q
    .with('added', (build) =>
      build
        .insertInto('chunk')
        .values(fresh.map((chunk) => ({ stretch, n: chunk.n, bytes: chunk.bytes.length, digest: chunk.digest })))
        .onConflict((conflict) => conflict.doNothing())
        .returning('chunk.bytes'),
    )
    .updateTable('stretch')
    .set((build) => ({
      bytes: build(
        'stretch.bytes',
        '+',
        build.selectFrom('added').select((of) => of.fn.coalesce(of.fn.sum<number>('added.bytes'), of.lit(0)).as('sum')),
      ),
    }))
    .where('id', '=', stretch)
    .execute()
}

/** Which of some slides are not a talk's, on its deck or off it. */
export async function slidesMissing(q: Queries, talk: string, slides: readonly string[]): Promise<ReadonlySet<string>> {
  const wanted = [...new Set(slides)]
  if (wanted.length === 0) return new Set()
  const found = new Set(
    (await q.selectFrom('slide').select('id').where('talk', '=', talk).where('id', 'in', wanted).execute()).map(({ id }) => id),
  )
  return new Set(wanted.filter((slide) => !found.has(slide)))
}

/** Numbers of cues that show a slide which is not their talk's: a film could not be made of them. */
export async function foreignCues(
  q: Queries,
  talk: string,
  cues: readonly { readonly n: number; readonly cue: Cue }[],
): Promise<ReadonlySet<number>> {
  const shown = cues.flatMap(({ n, cue }) => (cue.kind === 'show' ? [{ n, slide: cue.slide }] : []))
  const missing = await slidesMissing(
    q,
    talk,
    shown.map(({ slide }) => slide),
  )
  return new Set(shown.filter(({ slide }) => missing.has(slide)).map(({ n }) => n))
}

/** Most events of a stretch: a hand that never rests makes a tenth of them in an hour. */
const MOST_CUES = 100_000

/** Keeps cues by their number; those that are there already stay as they are. */
export async function keepCues(q: Queries, stretch: string, cues: readonly { readonly n: number; readonly cue: Cue }[]): Promise<void> {
  if (cues.length === 0) return
  if (cues.some(({ n }) => n >= MOST_CUES))
    throw new Refusal('too-many', `A part of a take holds up to ${String(MOST_CUES)} events. Pause and go on, and the next part begins.`)
  await q
    .insertInto('cue')
    .values(cues.map(({ n, cue }) => ({ stretch, n, cue: JSON.stringify(cue) })))
    .onConflict((conflict) => conflict.doNothing())
    .execute()
}

/** What the server has of a stretch: the page sends the rest. */
export async function stretchHoldings(
  q: Queries,
  stretch: string,
): Promise<{ readonly chunks: readonly number[]; readonly cues: number; readonly state: string; readonly whole: boolean }> {
  const [chunks, cues, row] = await Promise.all([
    q.selectFrom('chunk').select('n').where('stretch', '=', stretch).orderBy('n').execute(),
    q
      .selectFrom('cue')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('stretch', '=', stretch)
      .executeTakeFirstOrThrow(),
    q.selectFrom('stretch').select(['state', 'whole']).where('id', '=', stretch).executeTakeFirstOrThrow(),
  ])
  return { chunks: chunks.map((chunk) => chunk.n), cues: Number(cues.count), ...row }
}
