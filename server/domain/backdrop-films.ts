import { randomUUID } from 'node:crypto'
import type { Ms, NewBackdrop, Programme, StretchId } from '@core/model'
import { backdropIn } from '@core/programme'
import type { BackdropFilmView, BackdropsView } from '@contracts'
import type { Queries } from '@server/database'
import { backdropName, backdropPath } from '@server/media'
import { sizeOf } from '@server/store'
import { tell } from './events'
import { addJob } from './jobs'

/** A recording that is seen with a backdrop. */
interface Wanted {
  readonly stretch: StretchId
  readonly backdrop: NewBackdrop
}

/** Recordings that a programme shows with other backdrops, by the names of their films. */
function wantedIn(programme: Programme): ReadonlyMap<string, Wanted> {
  const wanted = new Map<string, Wanted>()
  for (const piece of programme.pieces) {
    if (piece.kind !== 'recorded' || piece.camera === null || piece.out !== undefined) continue
    const { stretch } = piece.camera
    const backdrop = backdropIn(programme, piece.visit, stretch)
    if (backdrop !== null) wanted.set(backdropName(stretch, backdrop), { stretch, backdrop })
  }
  return wanted
}

const NOT_BEGUN = { state: 'queued', share: 0, timeLeft: null, sentence: null } as const
const THERE = { state: 'done', share: 1, timeLeft: 0, sentence: null } as const

/** Has a film made, whatever became of it before. */
async function order(q: Queries, name: string, { stretch, backdrop }: Wanted): Promise<void> {
  const begun = { state: 'queued', share: 0, time_left_ms: null, sentence: null } as const
  const none = { length_ms: null, took_ms: null } as const
  const { id } = await q
    .insertInto('backdrop_film')
    .values({ id: randomUUID(), stretch, name, backdrop: JSON.stringify(backdrop), ...begun, ...none })
    .onConflict((conflict) => conflict.column('name').doUpdateSet(begun))
    .returning('id')
    .executeTakeFirstOrThrow()
  await addJob(q, 'make-backdrop', { film: id }, `backdrop:${id}`)
}

/**
 * Has the films made that a programme is to be seen with, those that are not there or under way. In one transaction.
 * @param again whether those that failed are tried again
 * @returns how far each is
 */
export async function wantBackdrops(q: Queries, programme: Programme, again = false): Promise<readonly BackdropFilmView[]> {
  const wanted = wantedIn(programme)
  if (wanted.size === 0) return []
  const rows = await q
    .selectFrom('backdrop_film')
    .select(['name', 'state', 'share', 'time_left_ms as timeLeft', 'sentence'])
    .where('name', 'in', [...wanted.keys()])
    .execute()
  const known = new Map(rows.map(({ name, ...row }) => [name, row]))
  const films: BackdropFilmView[] = []
  for (const [name, one] of wanted) {
    const row = known.get(name)
    const there = (await sizeOf(backdropPath(one.stretch, one.backdrop))) !== null
    // What the cache has lost is made again.
    const begins = !there && (row === undefined || row.state === 'done' || (row.state === 'failed' && again))
    if (begins) await order(q, name, one)
    const now = there ? THERE : (row ?? NOT_BEGUN)
    films.push({ ...one, ...(begins ? NOT_BEGUN : now) })
  }
  return films
}

/** How long making films took of late, as a share of their length; null where none was made yet. */
async function paceOf(q: Queries): Promise<number | null> {
  const { length, took } = await q
    .selectFrom((build) =>
      build
        .selectFrom('backdrop_film')
        .select(['length_ms', 'took_ms'])
        .where('took_ms', 'is not', null)
        .where('length_ms', '>', 0)
        .orderBy('made', 'desc')
        .limit(5)
        .as('lately'),
    )
    .select((build) => [build.fn.sum<number | null>('length_ms').as('length'), build.fn.sum<number | null>('took_ms').as('took')])
    .executeTakeFirstOrThrow()
  return length === null || took === null ? null : Number(took) / Number(length)
}

/** As `wantBackdrops`, with what making films takes here. In one transaction. */
export const backdropsOf = async (q: Queries, programme: Programme, again: boolean): Promise<BackdropsView> => ({
  films: await wantBackdrops(q, programme, again),
  pace: await paceOf(q),
})

/** A film that is to be made. */
export interface BackdropToMake extends Wanted {
  readonly id: string
  readonly talk: string
}

/** Takes one up; null when it is gone. */
export async function backdropToMake(q: Queries, id: string): Promise<BackdropToMake | null> {
  const row = await q
    .selectFrom('backdrop_film')
    .innerJoin('stretch', 'stretch.id', 'backdrop_film.stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .select(['backdrop_film.id', 'backdrop_film.stretch', 'backdrop_film.backdrop', 'take.talk'])
    .where('backdrop_film.id', '=', id)
    .executeTakeFirst()
  return row === undefined ? null : { ...row, stretch: row.stretch as StretchId }
}

/** What is known of a film while it is made, or when it is there. */
export interface BackdropProgress {
  readonly state: 'making' | 'done' | 'failed'
  readonly share: number
  readonly time_left_ms: number | null
  readonly sentence?: string
  readonly length_ms?: Ms
  readonly took_ms?: Ms
}

/** Notes how far a film is, and tells of it. */
export async function noteBackdrop(q: Queries, { id, talk }: Pick<BackdropToMake, 'id' | 'talk'>, known: BackdropProgress): Promise<void> {
  await q.updateTable('backdrop_film').set(known).where('id', '=', id).execute()
  await tell(q, { talk, kind: 'backdrop', id })
}
