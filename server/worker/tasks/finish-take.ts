import { rename } from 'node:fs/promises'
import { join } from 'node:path'
import { alignSound, closeStretch, concatenate, measureVoice } from '@render/sound'
import { cameraLost, lengthOfRecording } from '@render/probe'
import { database } from '@server/database'
import type { Database } from '@server/database'
import { placeFinishedTake, tell } from '@server/domain'
import { printPath, recordingPath, removeTree, sizeOf, slicePath, stretchFolder, voicePath } from '@server/store'

async function lastCueOf(db: Database, stretch: string): Promise<number> {
  const cues = await db.selectFrom('cue').select('cue').where('stretch', '=', stretch).execute()
  return cues.reduce((last, { cue }) => Math.max(last, cue.at), 0)
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
    if (await sizeOf(raw) === null) {
      await concatenate(Array.from({ length: count }, (_, n) => slicePath(stretch.id, n)), `${raw}.part`)
      await rename(`${raw}.part`, raw)
    }
    const length = stretch.length_ms ?? Math.max(0, await lengthOfRecording(raw) - Math.round(stretch.offset_sound))
    const aligned = await alignSound(raw, Object.entries(stretch.prints ?? {}).sort().map(([n, print]) => ({ ...print, path: printPath(stretch.id, Number(n)) })))
    // What the page sent is how late the microphone itself is known to be; where its samples lie is measured.
    const sound = (aligned?.offset ?? 0) + stretch.offset_sound
    const peaks = length === 0 ? [] : await closeStretch({
      raw, recording: recordingPath(stretch.id), voice: voicePath(stretch.id), length,
      offsets: { picture: stretch.offset_picture, sound }, drift: aligned?.drift ?? 0,
    })
    const { integrated } = await measureVoice(voicePath(stretch.id))
    const lost = stretch.camera && length > 0 ? await cameraLost(recordingPath(stretch.id), length) : 0
    await db.updateTable('stretch').set({ state: 'ready', length_ms: length, peaks: JSON.stringify(peaks), loudness: integrated, camera_lost_ms: lost, offset_sound: sound, timing: aligned === null ? 'approximate' : 'measured', drift_ppm: aligned === null ? null : Math.round(aligned.drift * 1e6) }).where('id', '=', stretch.id).execute()
    // The recording as it came is in one file now; the slices it came in are no longer needed.
    await removeTree(join(folder, 'slices'))
  }
  await placeFinishedTake(db, take)
}

export async function finishTakeGivenUp(take: string): Promise<void> {
  const row = await database().updateTable('take')
    .set({ state: 'failed', sentence: 'This take could not be made ready. The recording is kept on the server as it came; try again, and tell whoever runs this server if it fails again.' })
    .where('id', '=', take).where('state', '=', 'closing').returning('talk').executeTakeFirst()
  if (row !== undefined) await tell(database(), { talk: row.talk, kind: 'take', id: take })
}
