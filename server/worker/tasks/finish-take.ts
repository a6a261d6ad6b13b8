import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { BYTES_A_SAMPLE, alignSound, closeStretch, concatenate, measureVoice } from '@render/sound'
import type { SoundTail } from '@render/sound'
import { alignPictures, cameraSeen, lengthOfRecording } from '@render/probe'
import { database } from '@server/database'
import type { Database, Queries } from '@server/database'
import { failTake, placeFinishedTake } from '@server/domain'
import { facePath, keptSafe, printPath, putUnder, recordingPath, removeParts, removeTree, sizeOf, slicePath, stretchFolder, tailPath, voicePath } from '@server/store'

async function lastCueOf(db: Database, stretch: string): Promise<number> {
  const cues = await db.selectFrom('cue').select('cue').where('stretch', '=', stretch).execute()
  return cues.reduce((last, { cue }) => Math.max(last, cue.at), 0)
}

/** So much of a recording's own sound is let go of where a tail goes on, in ms: its last packet may be cut short. */
const OVERLAP = 150
/** A tail that adds less is not worth a join, in ms. */
const LEAST = 50
/** So much longer than its sound a stretch may be: a microphone may be pulled out a while before the take is stopped, in ms. */
const MOST_SILENT = 600_000
/** A face that stands still for longer is taken off, in ms. */
const STILL = 500

/** How a stretch's voice goes on beyond its recording. @param own where the recording's sound ends, in ms of the stretch @returns null when it has all of it */
async function tailOf(stretch: string, { at, rate }: { readonly at: number, readonly rate: number }, own: number): Promise<{ readonly tail: SoundTail, readonly end: number } | null> {
  const path = tailPath(stretch)
  const end = Math.round(at + ((await sizeOf(path) ?? 0) / BYTES_A_SAMPLE / rate) * 1000)
  const join = Math.max(0, at, own - OVERLAP)
  return end - Math.max(own, join) < LEAST ? null : { tail: { path, rate, at, join }, end }
}

async function takeFaceOff(q: Queries, stretch: string, at: number): Promise<void> {
  const { last } = await q.selectFrom('cue').select((build) => build.fn.max('n').as('last')).where('stretch', '=', stretch).executeTakeFirstOrThrow()
  const n = (last ?? -1) + 1
  await q.insertInto('cue').values({ stretch, n, cue: JSON.stringify({ kind: 'inset', at, on: false }) }).execute()
  await q.updateTable('stretch').set({ cues: n + 1 }).where('id', '=', stretch).execute()
}

/** Whether more of a recording has come than was put together; one that did not come in slices has not. */
async function hasGrown(q: Queries, stretch: string, count: number, raw: string): Promise<boolean> {
  const { bytes } = await q.selectFrom('slice').select((build) => build.fn.sum<number>('bytes').as('bytes')).where('stretch', '=', stretch).where('n', '<', count).executeTakeFirstOrThrow()
  return bytes !== null && Number(bytes) !== await sizeOf(raw)
}

/** Makes each stretch of a take ready to be played, then puts the take into the programme. Can be repeated at any point. */
export async function finishTakeTask(take: string): Promise<void> {
  const db = database()
  const stretches = await db.selectFrom('stretch').selectAll().where('take', '=', take).where('state', '=', 'closing').orderBy('number').execute()
  for (const stretch of stretches) {
    const folder = stretchFolder(stretch.id)
    const raw = join(folder, 'raw.webm')
    const count = stretch.slices ?? 0
    if (count === 0) {
      // Timings and ink alone: it lasts until it was closed, or until the last thing that happened in it.
      const length = stretch.voice ? 0 : stretch.length_ms ?? await lastCueOf(db, stretch.id)
      await db.updateTable('stretch').set({ state: 'ready', length_ms: length }).where('id', '=', stretch.id).execute()
      continue
    }
    // One that was closed before all of it had come is put together anew.
    if (await sizeOf(raw) === null || await hasGrown(db, stretch.id, count, raw)) {
      const part = `${raw}.${randomUUID()}.part`
      await concatenate(Array.from({ length: count }, (_, n) => slicePath(stretch.id, n)), part)
      await putUnder(part, raw)
    }
    const aligned = await alignSound(raw, Object.entries(stretch.prints ?? {}).sort().map(([n, print]) => ({ ...print, path: printPath(stretch.id, Number(n)) })))
    // What the page sent is how late the microphone itself is known to be; where its samples lie is measured.
    const sound = (aligned?.offset ?? 0) + stretch.offset_sound
    // Which picture stands first in a recording is the page's guess; where they all lie is measured, if they say.
    const picture = (stretch.camera && await sizeOf(facePath(stretch.id)) !== null ? await alignPictures(raw, facePath(stretch.id)) : null) ?? stretch.offset_picture
    const own = Math.max(0, await lengthOfRecording(raw) - Math.round(sound))
    const last = stretch.tail === null ? null : await tailOf(stretch.id, { rate: stretch.tail.rate, at: stretch.tail.at - stretch.offset_sound }, own)
    // Never much longer than what was really recorded, whatever the page said.
    const length = Math.min(stretch.length_ms ?? Infinity, Math.max(own, last?.end ?? 0) + (stretch.length_ms === null ? 0 : MOST_SILENT))
    const peaks = length === 0 ? [] : await closeStretch({
      raw, recording: recordingPath(stretch.id), voice: voicePath(stretch.id), length,
      offsets: { picture, sound }, drift: aligned?.drift ?? 0, tail: last?.tail ?? null,
    })
    if (length > 0) await keptSafe(recordingPath(stretch.id), voicePath(stretch.id))
    const { integrated } = await measureVoice(voicePath(stretch.id))
    const seen = stretch.camera && length > 0 ? await cameraSeen(recordingPath(stretch.id), length) : { lost: 0, until: 0 }
    await db.transaction().execute(async (q) => {
      const made = await q.updateTable('stretch').set({ state: 'ready', length_ms: length, peaks: JSON.stringify(peaks), loudness: integrated, camera_lost_ms: seen.lost, offset_picture: picture, offset_sound: sound, timing: aligned === null ? 'approximate' : 'measured', drift_ppm: aligned === null ? null : Math.round(aligned.drift * 1e6) }).where('id', '=', stretch.id).where('state', '=', 'closing').returning('id').executeTakeFirst()
      // Another worker, which was taken for dead, came first.
      if (made === undefined) return
      // Its last picture would stand beside what is said then as if it were still.
      if (last !== null && stretch.camera && length - seen.until > STILL) await takeFaceOff(q, stretch.id, Math.round(seen.until))
    })
    // The recording as it came is in one file now; the slices it came in are no longer needed, unless more of them may come.
    if (stretch.whole) await removeTree(join(folder, 'slices'))
    // A worker that was killed leaves what it was writing.
    await removeParts(folder)
  }
  await placeFinishedTake(db, take)
}

export const finishTakeGivenUp = (take: string): Promise<void> =>
  failTake(database(), take, 'This take could not be made ready. The recording is kept on the server as it came; try again, and tell whoever runs this server if it fails again.')
