import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { Intent, Ms, Snapshot, TakeKind, WindowView } from '@core/model'
import type { TakePlace } from '@contracts'
import type { Queries } from '@server/database'
import { ago } from './ago'
import { tell } from './events'
import { addJob } from './jobs'
import { HEARD_OF, isLive } from './live-takes'
import { roomForRecording, roomForTake, roomInQuota } from './quotas'
import { NOT_READ_YET } from './stretches'
import { slidesMissing, stretchHoldings } from './take-media'

export interface NewTake {
  readonly kind: TakeKind
  readonly intent: Intent
  /** The browser that records it; left out, it stands in nobody's way. */
  readonly place?: TakePlace | null
}

/**
 * Opens a take under an id that the page chose, so that asking again does no harm: it says that the take goes on. In one transaction.
 * @throws Refusal `conflict` when another browser is recording this talk, `too-many` or `too-large` when there is no room for another
 */
export async function openTake(q: Queries, talk: string, id: string, { kind, intent, place = null }: NewTake): Promise<void> {
  // Two browsers that begin at the same moment take turns.
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  const there = await q.selectFrom('take').select('talk').where('id', '=', id).executeTakeFirst()
  if (there !== undefined) {
    if (there.talk !== talk) throw new Refusal('conflict', 'This take belongs to another talk.')
    await q.updateTable('take').set({ seen: new Date() }).where('id', '=', id).execute()
    return
  }
  const elsewhere =
    place === null
      ? undefined
      : await q
          .selectFrom('take')
          .select('place')
          .where('talk', '=', talk)
          .where('state', '=', 'open')
          .where('seen', '>', ago(HEARD_OF))
          .where(sql<string>`place ->> 'browser'`, '<>', place.browser)
          .executeTakeFirst()
  if (elsewhere !== undefined) {
    throw new Refusal(
      'conflict',
      `This talk is being recorded on ${elsewhere.place?.name ?? 'another machine'}. Stop that take there first; nothing of it is touched.`,
      { elsewhere: true },
    )
  }
  await roomForTake(q, talk)
  await roomForRecording(q, talk)
  await roomInQuota(q, talk, 0)
  await q
    .insertInto('take')
    .values({
      id,
      talk,
      kind,
      intent: JSON.stringify(intent),
      state: 'open',
      sentence: null,
      discarded: null,
      place: place === null ? null : JSON.stringify(place),
    })
    .execute()
  await tell(q, { talk, kind: 'take', id })
}

export interface NewStretch {
  readonly take: string
  readonly number: number
  readonly camera: boolean
  readonly voice: boolean
  readonly mime: string
  readonly opening: Snapshot
  /** It is of a window that is shown during the stretch `of`. */
  readonly window?: WindowView & { readonly of: string }
}

const viewOf = ({ clip, slide, name, at, began }: WindowView): WindowView => ({ clip, slide, name, at, began })

/** @throws Refusal `not-found` when a window is to be shown during what is no stretch of its take */
async function checkWindow(q: Queries, take: string, of: string): Promise<void> {
  const shownIn = await q
    .selectFrom('stretch')
    .select('id')
    .where('id', '=', of)
    .where('take', '=', take)
    .where('window_of', 'is', null)
    .executeTakeFirst()
  if (shownIn === undefined) throw new Refusal('not-found', 'The recording during which this window was shown is not in this take.')
}

/** Most stretches of a take: one for each pause, and one for each time a device changed. */
const MOST_STRETCHES = 1000

/** @throws Refusal `not-found` when a slide is not its talk's; `too-many`; `too-large` when the talk or its owner has no room left */
export async function openStretch(q: Queries, id: string, talk: string, { window, ...stretch }: NewStretch): Promise<void> {
  if ((await slidesMissing(q, talk, [stretch.opening.slide, ...(window === undefined ? [] : [window.slide])])).size > 0)
    throw new Refusal('not-found', 'The slide that this recording begins with is not in the talk.')
  if (window !== undefined) await checkWindow(q, stretch.take, window.of)
  const { count } = await q
    .selectFrom('stretch')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('take', '=', stretch.take)
    .where('id', '<>', id)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_STRETCHES)
    throw new Refusal('too-many', `A take can be paused up to ${String(MOST_STRETCHES)} times. Stop it, and go on at the end of the talk.`)
  await roomInQuota(q, talk, 0)
  const added = await q
    .insertInto('stretch')
    .values({
      id,
      ...stretch,
      opening: JSON.stringify(stretch.opening),
      state: 'open',
      length_ms: null,
      chunks: null,
      cues: null,
      ...NOT_READ_YET,
      window_of: window?.of ?? null,
      window_view: window === undefined ? null : JSON.stringify(viewOf(window)),
    })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .executeTakeFirst()
  if (added.numInsertedOrUpdatedRows === 0n) {
    const there = await q.selectFrom('stretch').select('take').where('id', '=', id).executeTakeFirst()
    if (there?.take !== stretch.take) throw new Refusal('conflict', 'This recording belongs to another take.')
  }
}

export async function setOffsets(
  q: Queries,
  stretch: string,
  offsets: { readonly picture: number; readonly sound: number },
): Promise<void> {
  await q
    .updateTable('stretch')
    .set({ offset_picture: offsets.picture, offset_sound: offsets.sound })
    .where('id', '=', stretch)
    .where('state', '=', 'open')
    .execute()
}

/** Says how much of a stretch counts: its presenter went back and said the rest again. */
export async function keepStretch(q: Queries, stretch: string, kept: Ms): Promise<void> {
  await q
    .updateTable('stretch')
    .set({ kept_ms: kept })
    .where('id', '=', stretch)
    .where('take', 'in', (build) => build.selectFrom('take').select('id').where('state', '=', 'open'))
    .execute()
}

/**
 * Closes a stretch: nothing more comes. One that somebody else had closed meanwhile, taking it for broken off, is made ready again with
 * what came since.
 * @throws Refusal `conflict` with the numbers that are missing
 */
export async function closeStretch(
  q: Queries,
  stretch: string,
  closing: { readonly chunks: number; readonly cues: number; readonly length: Ms },
): Promise<void> {
  const held = await stretchHoldings(q, stretch)
  if (held.state !== 'open' && held.whole) return
  const have = new Set(held.chunks)
  const missing = Array.from({ length: closing.chunks }, (_, n) => n).filter((n) => !have.has(n))
  if (missing.length > 0 || held.cues < closing.cues) {
    throw new Refusal('conflict', 'Parts of the recording have not arrived yet. They are still on this computer and are sent again.', {
      missing: missing.slice(0, 100),
      cues: held.cues,
    })
  }
  await q
    .updateTable('stretch')
    .set({ state: 'closing', whole: true, chunks: closing.chunks, cues: closing.cues, length_ms: closing.length })
    .where('id', '=', stretch)
    .execute()
}

/** Closes a take and has its recording made ready. @throws Refusal `conflict` while a stretch of it is open */
export async function finishTake(q: Queries, talk: string, take: string): Promise<void> {
  const open = await q.selectFrom('stretch').select('id').where('take', '=', take).where('state', '=', 'open').executeTakeFirst()
  if (open !== undefined) throw new Refusal('conflict', 'A part of this take is still open.', { stretch: open.id })
  const { state } = await q.selectFrom('take').select('state').where('id', '=', take).executeTakeFirstOrThrow()
  if (state === 'discarded')
    throw new Refusal(
      'conflict',
      'This take was discarded on another page meanwhile. All of it is on the server; bring it back in Review, under Takes.',
    )
  // One that was finished is only finished again when something of it came since.
  const fresh = await q.selectFrom('stretch').select('id').where('take', '=', take).where('state', '=', 'closing').executeTakeFirst()
  if (state === 'closed' && fresh === undefined) return
  await q.updateTable('take').set({ state: 'closing', sentence: null }).where('id', '=', take).execute()
  await haveFinished(q, talk, take)
}

/** Has a closing take made ready. */
export async function haveFinished(q: Queries, talk: string, take: string): Promise<void> {
  await addJob(q, 'finish-take', { take }, `finish-take:${take}`)
  await tell(q, { talk, kind: 'take', id: take })
}

/**
 * Finishes a take that stopped without being stopped, with everything that arrived: of each open stretch the chunks
 * without a gap from the first on. Its length is found in the recording itself.
 * @param browser that asks; the one that recorded it may come back at once
 * @throws Refusal `conflict` while another browser is recording it
 */
export async function recoverTake(q: Queries, talk: string, take: string, browser: string | null): Promise<void> {
  const { live, place } = await q
    .selectFrom('take')
    .select([isLive.as('live'), 'place'])
    .where('id', '=', take)
    .executeTakeFirstOrThrow()
  if (live && place !== null && place.browser !== browser) {
    throw new Refusal('conflict', `This take is being recorded on ${place.name} right now. Stop it there; nothing of it is touched.`)
  }
  await recoverOpenStretches(q, take)
  await finishTake(q, talk, take)
}

/** Closes what is open of a take, with the chunks that came without a gap from the first on. */
export async function recoverOpenStretches(q: Queries, take: string): Promise<void> {
  await sql`
    update stretch set state = 'closing', whole = false,
      chunks = (select coalesce(min(gap.n), 0) from (
        select expected.n from generate_series(0, (select coalesce(max(chunk.n), -1) + 1 from chunk
          where chunk.stretch = stretch.id)) as expected(n)
        where not exists (select 1 from chunk where chunk.stretch = stretch.id and chunk.n = expected.n)
      ) gap),
      cues = (select count(*) from cue where cue.stretch = stretch.id)
    where take = ${take} and state = 'open'`.execute(q)
}
