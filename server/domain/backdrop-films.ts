import { randomUUID } from 'node:crypto'
import type { Ms, NewBackdrop, Programme, StretchId } from '@core/model'
import { backdropIn } from '@core/programme'
import type { BackdropFilmView, BackdropsView } from '@contracts'
import type { Queries } from '@server/database'
import { backdropName, backdropPath } from '@server/media'
import { sizeOf } from '@server/store'
import { tell } from './events'
import { addJob } from './jobs'
import { currentProgramme } from './programmes'

/** A recording that is seen with a backdrop. */
interface Wanted {
  readonly stretch: StretchId
  readonly backdrop: NewBackdrop
}

/** Recordings that a programme shows with other backdrops, each of these once. */
function wantedIn(programme: Programme): readonly Wanted[] {
  const wanted = new Map<string, Wanted>()
  for (const piece of programme.pieces) {
    if (piece.kind !== 'recorded' || piece.camera === null || piece.out !== undefined) continue
    const { stretch } = piece.camera
    const backdrop = backdropIn(programme, piece.visit, stretch)
    if (backdrop !== null) wanted.set(backdropName(stretch, backdrop), { stretch, backdrop })
  }
  return [...wanted.values()]
}

const jobOf = (id: string): string => `backdrop:${id}`

/** Has a film made, unless it is being made. @param again whether one that failed, or went since, is tried again */
async function order(q: Queries, { stretch, backdrop }: Wanted, again: boolean): Promise<void> {
  const name = backdropName(stretch, backdrop)
  const before = await q.selectFrom('backdrop_film').select(['id', 'state']).where('name', '=', name).executeTakeFirst()
  if (before !== undefined && (before.state === 'queued' || before.state === 'making' || !again)) return
  const id = before?.id ?? randomUUID()
  const begun = { state: 'queued', share: 0, time_left_ms: null, sentence: null } as const
  const none = { length_ms: null, took_ms: null } as const
  await q
    .insertInto('backdrop_film')
    .values({ id, stretch, name, backdrop: JSON.stringify(backdrop), ...begun, ...none })
    .onConflict((conflict) => conflict.column('name').doUpdateSet(begun))
    .execute()
  await addJob(q, 'make-backdrop', { film: id }, jobOf(id))
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

/** Has the films made that a talk is to be seen with, and tells how far they are. In one transaction. */
export async function readyBackdrops(q: Queries, talk: string): Promise<BackdropsView> {
  const films: BackdropFilmView[] = []
  for (const wanted of wantedIn(await currentProgramme(q, talk))) films.push(await readyOne(q, wanted))
  return { films, pace: await paceOf(q) }
}

const NOT_BEGUN = { state: 'queued', share: 0, timeLeft: null, sentence: null } as const

const knownOf = (q: Queries, { stretch, backdrop }: Wanted) =>
  q
    .selectFrom('backdrop_film')
    .select(['state', 'share', 'time_left_ms as timeLeft', 'sentence'])
    .where('name', '=', backdropName(stretch, backdrop))
    .executeTakeFirst()

/** Has a film made, unless it is there or failed, and tells how far it is. What the cache has lost is made again. */
async function readyOne(q: Queries, wanted: Wanted): Promise<BackdropFilmView> {
  const { stretch, backdrop } = wanted
  if ((await sizeOf(backdropPath(stretch, backdrop))) !== null)
    return { stretch, backdrop, state: 'done', share: 1, timeLeft: 0, sentence: null }
  const before = await knownOf(q, wanted)
  if (before?.state !== 'failed') await order(q, wanted, before?.state === 'done')
  return { stretch, backdrop, ...((await knownOf(q, wanted)) ?? NOT_BEGUN) }
}

/** Tries again what failed. In one transaction. */
export async function retryBackdrops(q: Queries, talk: string): Promise<BackdropsView> {
  for (const wanted of wantedIn(await currentProgramme(q, talk)))
    if ((await sizeOf(backdropPath(wanted.stretch, wanted.backdrop))) === null) await order(q, wanted, true)
  return await readyBackdrops(q, talk)
}

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
