import { sql } from 'kysely'
import { Refusal, asId } from '@core/model'
import type { Cue, Intent, Ms, Programme, SlideId, Snapshot, TakeKind } from '@core/model'
import { piecesOfTake, placeTake, reportOf, withoutStretches } from '@core/programme'
import type { TakeReport } from '@core/programme'
import type { TakePlace } from '@contracts'
import { SHORTEST_PAUSE } from '@core/pace'
import { speechFree, spokenTime } from '@core/voice'
import type { Queries } from '@server/database'
import { digestOf, facePath, printPath, slicePath, tailPath, writeWhole } from '@server/store'
import { slidesOf } from './decks'
import { tell } from './events'
import { loadStretches, stretchIdsOf } from './films'
import { addJob } from './jobs'
import { currentProgramme, saveProgramme } from './programmes'
import { roomForTake, roomInQuota, roomInTake } from './quotas'
import { forgetSpeech, rememberSpeech } from './speech'
import type { Spoken } from './speech'

export interface NewTake {
  readonly kind: TakeKind
  readonly intent: Intent
  /** The browser that records it; left out, it stands in nobody's way. */
  readonly place?: TakePlace | null
}

/** A take that was not heard of for longer than this is no longer being recorded, in ms. */
const HEARD_OF = 20_000

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
          .where('seen', '>', sql<Date>`now() - make_interval(secs => ${HEARD_OF / 1000})`)
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
}

/** Most stretches of a take: one for each pause, and one for each time a device changed. */
const MOST_STRETCHES = 1000

/** @throws Refusal `not-found` when a slide is not its talk's; `too-many`; `too-large` when the talk or its owner has no room left */
export async function openStretch(q: Queries, id: string, talk: string, stretch: NewStretch): Promise<void> {
  if ((await slidesMissing(q, talk, [stretch.opening.slide])).size > 0)
    throw new Refusal('not-found', 'The slide that this recording begins with is not in the talk.')
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
      kept_ms: null,
      slices: null,
      cues: null,
      peaks: null,
      loudness: null,
      prints: null,
      tail: null,
      timing: null,
      drift_ppm: null,
      offset_picture: 0,
      offset_sound: 0,
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

export interface Slice {
  readonly n: number
  readonly digest: string
  readonly bytes: Uint8Array
}

/**
 * Keeps slices of a recording, in any order and as often as they come; when this returns they are on the disk.
 * @throws Refusal `malformed` when one was cut short or damaged on the way, `conflict` when another is kept under its number,
 * `too-large` when it is more than a take may have
 */
export async function keepSlices(q: Queries, stretch: string, slices: readonly Slice[]): Promise<void> {
  for (const slice of slices) {
    if (digestOf(slice.bytes) !== slice.digest) {
      throw new Refusal('malformed', 'A part of the recording arrived damaged. It is still on this computer and is sent again.', {
        n: slice.n,
      })
    }
  }
  const known = new Map(
    (
      await q
        .selectFrom('slice')
        .select(['n', 'digest'])
        .where('stretch', '=', stretch)
        .where(
          'n',
          'in',
          slices.map((slice) => slice.n),
        )
        .execute()
    ).map((row) => [row.n, row.digest]),
  )
  for (const slice of slices) {
    const digest = known.get(slice.n)
    if (digest !== undefined && digest !== slice.digest) {
      throw new Refusal('conflict', 'Another part of the recording is kept under this number.', { n: slice.n })
    }
  }
  const fresh = slices.filter((slice) => !known.has(slice.n))
  if (fresh.length === 0) return
  // Also what comes late is kept: who recorded it may have been taken for gone meanwhile.
  const { state, whole } = await q.selectFrom('stretch').select(['state', 'whole']).where('id', '=', stretch).executeTakeFirstOrThrow()
  if (state !== 'open' && whole) throw new Refusal('conflict', 'This recording is closed already, with all that its recorder said it has.')
  await roomInTake(
    q,
    stretch,
    fresh.reduce((sum, slice) => sum + slice.bytes.length, 0),
  )
  for (const slice of fresh) await writeWhole(slicePath(stretch, slice.n), slice.bytes)
  // In one question, so that what came is counted once however often it comes.
  await q
    .with('added', (build) =>
      build
        .insertInto('slice')
        .values(fresh.map((slice) => ({ stretch, n: slice.n, bytes: slice.bytes.length, digest: slice.digest })))
        .onConflict((conflict) => conflict.doNothing())
        .returning('slice.bytes'),
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
async function slidesMissing(q: Queries, talk: string, slides: readonly string[]): Promise<ReadonlySet<string>> {
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
): Promise<{ readonly slices: readonly number[]; readonly cues: number; readonly state: string; readonly whole: boolean }> {
  const [slices, cues, row] = await Promise.all([
    q.selectFrom('slice').select('n').where('stretch', '=', stretch).orderBy('n').execute(),
    q
      .selectFrom('cue')
      .select((build) => build.fn.countAll<number>().as('count'))
      .where('stretch', '=', stretch)
      .executeTakeFirstOrThrow(),
    q.selectFrom('stretch').select(['state', 'whole']).where('id', '=', stretch).executeTakeFirstOrThrow(),
  ])
  return { slices: slices.map((slice) => slice.n), cues: Number(cues.count), ...row }
}

/**
 * Closes a stretch: nothing more comes. One that somebody else had closed meanwhile, taking it for broken off, is made ready again with
 * what came since.
 * @throws Refusal `conflict` with the numbers that are missing
 */
export async function closeStretch(
  q: Queries,
  stretch: string,
  closing: { readonly slices: number; readonly cues: number; readonly length: Ms },
): Promise<void> {
  const held = await stretchHoldings(q, stretch)
  if (held.state !== 'open' && held.whole) return
  const have = new Set(held.slices)
  const missing = Array.from({ length: closing.slices }, (_, n) => n).filter((n) => !have.has(n))
  if (missing.length > 0 || held.cues < closing.cues) {
    throw new Refusal('conflict', 'Parts of the recording have not arrived yet. They are still on this computer and are sent again.', {
      missing: missing.slice(0, 100),
      cues: held.cues,
    })
  }
  await q
    .updateTable('stretch')
    .set({ state: 'closing', whole: true, slices: closing.slices, cues: closing.cues, length_ms: closing.length })
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
async function haveFinished(q: Queries, talk: string, take: string): Promise<void> {
  await addJob(q, 'finish-take', { take }, `finish-take:${take}`)
  await tell(q, { talk, kind: 'take', id: take })
}

/** Whether a take is being recorded, by when it was heard of last. Decided here: a page sees only its own browser. */
export const isLive = sql<boolean>`take.state = 'open' and take.seen > now() - make_interval(secs => ${HEARD_OF / 1000})`

/**
 * Finishes a take that stopped without being stopped, with everything that arrived: of each open stretch the slices
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

/** Closes what is open of a take, with the slices that came without a gap from the first on. */
async function recoverOpenStretches(q: Queries, take: string): Promise<void> {
  await sql`
    update stretch set state = 'closing', whole = false,
      slices = (select coalesce(min(gap.n), 0) from (
        select expected.n from generate_series(0, (select coalesce(max(slice.n), -1) + 1 from slice
          where slice.stretch = stretch.id)) as expected(n)
        where not exists (select 1 from slice where slice.stretch = stretch.id and slice.n = expected.n)
      ) gap),
      cues = (select count(*) from cue where cue.stretch = stretch.id)
    where take = ${take} and state = 'open'`.execute(q)
}

/** Puts a finished take's pieces where its presenter meant them. In one transaction. */
export async function placeFinishedTake(q: Queries, take: string): Promise<void> {
  const row = await q
    .selectFrom('take')
    .select(['talk', 'kind', 'intent', 'state', 'place'])
    .where('id', '=', take)
    .forUpdate()
    .executeTakeFirstOrThrow()
  if (row.state !== 'closing') return
  const ids = await q
    .selectFrom('stretch')
    .select('id')
    .where('take', '=', take)
    .where('state', '=', 'ready')
    .where('length_ms', '>', 0)
    .orderBy('number')
    .execute()
  if (row.kind !== 'rehearsal' && ids.length > 0) {
    const stretches = await loadStretches(
      q,
      ids.map(({ id }) => id),
    )
    // Take the talk's lock first, so that two takes finished at once are placed one after the other.
    await q.selectFrom('talk').select('id').where('id', '=', row.talk).forUpdate().executeTakeFirstOrThrow()
    const slides = await slidesOf(q, row.talk)
    const before = await withoutEarlier(
      q,
      row.talk,
      take,
      ids.map(({ id }) => id),
    )
    const programme = placeTake(before, row.intent, { id: asId(take), kind: row.kind, stretches }, slides, (id) =>
      speechFree(stretches.find((stretch) => stretch.id === id)?.peaks ?? [], SHORTEST_PAUSE),
    )
    // A take of which nothing counts changes nothing.
    if (programme !== before) await saveProgramme(q, row.talk, programme, placedBy(take), { author: row.place?.browser ?? null })
    if (row.kind !== 'dub') await rememberSpeech(q, row.talk, take, slides, spokenOn(take, stretches))
  }
  await q.updateTable('take').set({ state: 'closed' }).where('id', '=', take).execute()
  await tell(q, { talk: row.talk, kind: 'take', id: take })
}

/** The programme that a take is placed into: as it is, or, when it had been placed already with less, as it is without it. */
async function withoutEarlier(q: Queries, talk: string, take: string, stretches: readonly string[]): Promise<Programme> {
  const now = await currentProgramme(q, talk)
  const own = new Set(stretches)
  if (!stretchIdsOf(now).some((id) => own.has(id))) return now
  const without = (await beforeTake(q, talk, take, now)) ?? withoutStretches(now, own)
  return { ...without, revision: now.revision }
}

/** How long was spoken on each slide that a take shows. */
function spokenOn(take: string, stretches: Awaited<ReturnType<typeof loadStretches>>): readonly Spoken[] {
  const peaks = new Map(stretches.map((stretch) => [stretch.id, stretch.peaks]))
  const times = new Map<SlideId, Ms>()
  for (const piece of piecesOfTake({ id: asId(take), kind: 'full', stretches })) {
    if (piece.kind === 'still' || piece.voice === null) continue
    const spoken = spokenTime(peaks.get(piece.voice.stretch) ?? [], piece.voice.from, piece.voice.to)
    times.set(piece.slide, (times.get(piece.slide) ?? 0) + spoken)
  }
  return [...times].map(([slide, spoken]) => ({ slide, spoken }))
}

/** What a take holds, for who has just recorded it. */
export async function takeReport(q: Queries, take: string): Promise<TakeReport> {
  const ids = await q.selectFrom('stretch').select('id').where('take', '=', take).where('state', '=', 'ready').orderBy('number').execute()
  return reportOf(
    await loadStretches(
      q,
      ids.map(({ id }) => id),
    ),
  )
}

const placedBy = (take: string): string => `take ${take}`
const discardOf = (take: string): string => `discarded take ${take}`

/** The programme as it was before a take was put into it, if nothing but slides has changed since. */
async function beforeTake(q: Queries, talk: string, take: string, now: Programme): Promise<Programme | null> {
  const placed = await q
    .selectFrom('programme')
    .select(['revision', 'value'])
    .where('talk', '=', talk)
    .where('reason', '=', placedBy(take))
    .executeTakeFirst()
  if (placed === undefined || JSON.stringify(placed.value.pieces) !== JSON.stringify(now.pieces)) return null
  const before = await q
    .selectFrom('programme')
    .select('value')
    .where('talk', '=', talk)
    .where('revision', '=', placed.revision - 1)
    .executeTakeFirst()
  return before === undefined ? null : { ...before.value, slides: { ...before.value.slides, ...now.slides }, revision: now.revision + 1 }
}

/** Takes a take out of the programme, which is again as it was before if it can be. Its recording stays, so that it can be brought back. */
export async function discardTake(q: Queries, talk: string, take: string): Promise<void> {
  const changed = await q
    .updateTable('take')
    .set({ state: 'discarded', discarded: new Date() })
    .where('id', '=', take)
    .where('state', '<>', 'discarded')
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) return
  await forgetSpeech(q, talk, take)
  const stretches = new Set((await q.selectFrom('stretch').select('id').where('take', '=', take).execute()).map((row) => row.id))
  const programme = await currentProgramme(q, talk)
  const without = (await beforeTake(q, talk, take, programme)) ?? withoutStretches(programme, stretches)
  if (JSON.stringify(without.pieces) !== JSON.stringify(programme.pieces)) await saveProgramme(q, talk, without, discardOf(take))
  await tell(q, { talk, kind: 'take', id: take })
}

/**
 * Brings a discarded take back, and the programme as it was before it went if nothing has changed since. One that was discarded before
 * it was ever placed is finished now.
 */
export async function bringBackTake(q: Queries, talk: string, take: string): Promise<void> {
  const placed = await q
    .selectFrom('programme')
    .select('revision')
    .where('talk', '=', talk)
    .where('reason', '=', placedBy(take))
    .executeTakeFirst()
  const unready = await q.selectFrom('stretch').select('id').where('take', '=', take).where('state', '<>', 'ready').executeTakeFirst()
  const finishes = placed === undefined || unready !== undefined
  const back = await q
    .updateTable('take')
    .set({ state: finishes ? 'closing' : 'closed', discarded: null })
    .where('id', '=', take)
    .where('state', '=', 'discarded')
    .executeTakeFirst()
  if (back.numUpdatedRows === 0n) return
  if (finishes) {
    await recoverOpenStretches(q, take)
    await haveFinished(q, talk, take)
    return
  }
  const programme = await currentProgramme(q, talk)
  const last = await q
    .selectFrom('programme')
    .select('reason')
    .where('talk', '=', talk)
    .where('revision', '=', programme.revision)
    .executeTakeFirst()
  if (last?.reason === discardOf(take)) {
    const before = await q
      .selectFrom('programme')
      .select('value')
      .where('talk', '=', talk)
      .where('revision', '=', programme.revision - 1)
      .executeTakeFirstOrThrow()
    await saveProgramme(q, talk, { ...before.value, revision: programme.revision + 1 }, 'brought back a take')
  }
  await tell(q, { talk, kind: 'take', id: take })
}
