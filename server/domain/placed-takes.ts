import { dequal } from 'dequal'
import { sql } from 'kysely'
import { asId } from '@core/model'
import type { Ms, Programme, SlideId } from '@core/model'
import { piecesOfTake, placeTake, reportOf, withoutStretches } from '@core/programme'
import type { TakeReport } from '@core/programme'
import { SHORTEST_PAUSE } from '@core/pace'
import { speechFree, spokenTime } from '@core/voice'
import type { Queries } from '@server/database'
import { slidesOf } from './decks'
import { tell } from './events'
import { loadStretches, stretchIdsOf } from './films'
import { AFTER_FILES, addJob } from './jobs'
import { programmeAt } from './programme-differences'
import { currentProgramme, saveProgramme } from './programmes'
import { forgetSpeech, rememberSpeech } from './speech'
import type { Spoken } from './speech'
import { haveFinished, recoverOpenStretches } from './takes'
import { wantWords } from './words'

/** How long after it what nobody waits for is done, in ms: those who recorded it, and those who wait to see it, go first. */
const SETTLES_AFTER = 10_000

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
    .where('window_of', 'is', null)
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
    if (programme !== before)
      await saveProgramme(q, row.talk, programme, { kind: 'take', take: asId(take) }, { author: row.place?.browser ?? null })
    if (row.kind !== 'dub') await rememberSpeech(q, row.talk, take, slides, spokenOn(take, stretches))
  }
  await q.updateTable('take').set({ state: 'closed' }).where('id', '=', take).execute()
  await addJob(q, 'settle-take', { take }, `settle-take:${take}`, { starts: new Date(Date.now() + SETTLES_AFTER), place: AFTER_FILES })
  if (row.kind !== 'rehearsal') await wantWords(q, row.talk)
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
  const ids = await q
    .selectFrom('stretch')
    .select('id')
    .where('take', '=', take)
    .where('state', '=', 'ready')
    .where('window_of', 'is', null)
    .orderBy('number')
    .execute()
  return reportOf(
    await loadStretches(
      q,
      ids.map(({ id }) => id),
    ),
  )
}

/** Where a take was put into its talk's programme first: before that, nothing of it was there. */
const placingOf = (q: Queries, talk: string, take: string): Promise<{ revision: number } | undefined> =>
  q
    .selectFrom('programme')
    .select('revision')
    .where('talk', '=', talk)
    .where(sql<boolean>`reason @> ${JSON.stringify({ kind: 'take', take })}::jsonb`)
    .orderBy('revision')
    .executeTakeFirst()

/** The programme as it was before a take was put into it, if nothing but slides has changed since. */
async function beforeTake(q: Queries, talk: string, take: string, now: Programme): Promise<Programme | null> {
  const placed = await placingOf(q, talk, take)
  // Before the first revision there is none.
  if (placed === undefined || placed.revision === 1) return null
  if (!dequal((await programmeAt(q, talk, placed.revision)).pieces, now.pieces)) return null
  const before = await programmeAt(q, talk, placed.revision - 1)
  return { ...before, slides: { ...before.slides, ...now.slides }, revision: now.revision }
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
  if (!dequal(without.pieces, programme.pieces)) await saveProgramme(q, talk, without, { kind: 'discard', take: asId(take) })
  await tell(q, { talk, kind: 'take', id: take })
}

/**
 * Brings a discarded take back, and the programme as it was before it went if nothing has changed since. One that was discarded before
 * it was ever placed is finished now.
 */
export async function bringBackTake(q: Queries, talk: string, take: string): Promise<void> {
  const placed = await placingOf(q, talk, take)
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
  if (last?.reason.kind === 'discard' && last.reason.take === take) {
    const before = await programmeAt(q, talk, programme.revision - 1)
    await saveProgramme(q, talk, { ...before, revision: programme.revision }, { kind: 'bring-back', take: asId(take) })
  }
  await tell(q, { talk, kind: 'take', id: take })
}
