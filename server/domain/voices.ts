import { randomUUID } from 'node:crypto'
import { Refusal, asId } from '@core/model'
import type { VisitId } from '@core/model'
import { visitsOf } from '@core/programme'
import { revisited } from '@core/scene'
import type { Revisit } from '@core/scene'
import { toFilm } from '@contracts'
import type { TakePlace } from '@contracts'
import type { Queries } from '@server/database'
import { broughtPath, safeFolder, stretchFolder } from '@server/store'
import { tell } from './events'
import { filmView } from './films'
import type { StagedUpload } from './kept-for-talk'
import { addJob } from './jobs'
import { roomForTake, roomInQuota } from './quotas'
import { NOT_READ_YET } from './stretches'

/** What a visit shows, as a recording of its own would. @throws Refusal `not-found` when it is gone */
async function showingOf(q: Queries, talk: string, visit: VisitId, length: number): Promise<Revisit> {
  const film = toFilm(await filmView(q, talk))
  const found = visitsOf(film.programme).find((one) => one.id === visit)
  const shown = found === undefined ? null : revisited(film, found, length)
  if (shown === null) throw new Refusal('not-found', 'The part of the talk that this voice is for is not there any more.')
  return shown
}

/**
 * Takes in a sound file as the voice of a visit: it is read by a job, and then takes the visit's place like a retake. In one transaction.
 * @throws Refusal when it is not one file, or the visit is gone
 */
export async function beginVoice(
  q: Queries,
  talk: string,
  visit: VisitId,
  files: readonly StagedUpload[],
  place: TakePlace,
): Promise<string> {
  const [file] = files
  if (file === undefined || files.length > 1) throw new Refusal('malformed', 'Bring one sound file for a slide.')
  if (file.bytes === 0) throw new Refusal('unreadable', `“${file.name}” is empty. Nothing was changed.`)
  await roomForTake(q, talk)
  await roomInQuota(q, talk, file.bytes)
  const { opening } = await showingOf(q, talk, visit, 0)
  const [take, stretch] = [randomUUID(), randomUUID()]
  await safeFolder(stretchFolder(stretch))
  await file.staged.putUnder(broughtPath(stretch))
  await q
    .insertInto('take')
    .values({
      id: take,
      talk,
      kind: 'retake',
      intent: JSON.stringify({ kind: 'retake', visit }),
      state: 'closing',
      sentence: null,
      discarded: null,
      place: JSON.stringify(place),
    })
    .execute()
  await q
    .insertInto('stretch')
    .values({
      id: stretch,
      take,
      number: 0,
      camera: false,
      voice: true,
      mime: 'audio/webm;codecs=opus',
      opening: JSON.stringify(opening),
      length_ms: null,
      chunks: 1,
      cues: 0,
      state: 'closing',
      ...NOT_READ_YET,
    })
    .execute()
  await addJob(q, 'bring-voice', { take }, `bring-voice:${take}`)
  await tell(q, { talk, kind: 'take', id: take })
  return take
}

/**
 * Notes how long a voice that was brought in is, and what is shown with it; the take is finished like any other then. In one
 * transaction.
 */
export async function placeVoice(q: Queries, take: string, stretch: string, length: number): Promise<void> {
  const { talk, intent } = await q.selectFrom('take').select(['talk', 'intent']).where('id', '=', take).executeTakeFirstOrThrow()
  if (intent.kind !== 'retake') throw new Error('a voice takes the place of one visit')
  const { opening, cues } = await showingOf(q, talk, asId(intent.visit), length)
  await q
    .updateTable('stretch')
    .set({ opening: JSON.stringify(opening), length_ms: length, cues: cues.length })
    .where('id', '=', stretch)
    .execute()
  if (cues.length > 0) {
    await q
      .insertInto('cue')
      .values(cues.map((cue, n) => ({ stretch, n, cue: JSON.stringify(cue) })))
      .onConflict((conflict) => conflict.doNothing())
      .execute()
  }
  await addJob(q, 'finish-take', { take }, `finish-take:${take}`)
}

/** A take cannot be made: says why, for the person. */
export async function failTake(q: Queries, take: string, sentence: string): Promise<void> {
  const row = await q
    .updateTable('take')
    .set({ state: 'failed', sentence })
    .where('id', '=', take)
    .where('state', '=', 'closing')
    .returning('talk')
    .executeTakeFirst()
  if (row !== undefined) await tell(q, { talk: row.talk, kind: 'take', id: take })
}
