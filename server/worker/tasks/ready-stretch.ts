import type { Selectable } from 'kysely'
import { BYTES_A_SAMPLE, alignSound, closeStretch, concatenate, measureVoice } from '@render/sound'
import type { SoundTail } from '@render/sound'
import { alignPictures, cameraSeen, checkRecording, lengthOfRecording } from '@render/probe'
import type { Database, Queries, StretchTable } from '@server/database'
import { bytesOfChunks, noteDigests, stretchReady, takeFaceOff } from '@server/domain'
import type { StretchDigests } from '@server/domain'
import {
  digestOfFile,
  facePath,
  keptSafe,
  printPath,
  putUnder,
  rawPath,
  recordingPath,
  removeParts,
  removeTree,
  sizeOf,
  chunkPath,
  chunkFolder,
  stretchFolder,
  tailPath,
  voicePath,
} from '@server/store'
import type { Claim } from '../claims'

type Stretch = Selectable<StretchTable>

/** So much of a recording's own sound is let go of where a tail goes on, in ms: its last packet may be cut short. */
const OVERLAP = 150
/** A tail that adds less is not worth a join, in ms. */
const LEAST = 50
/** So much longer than its sound a stretch may be: a microphone may be pulled out a while before the take is stopped, in ms. */
const MOST_SILENT = 600_000
/** A face that stands still for longer is taken off, in ms. */
const STILL = 500

/**
 * How a stretch's voice goes on beyond its recording.
 * @param own where the recording's sound ends, in ms of the stretch
 * @returns null when it has all of it
 */
async function tailOf(
  stretch: string,
  { at, sampleRate }: { readonly at: number; readonly sampleRate: number },
  own: number,
): Promise<{ readonly tail: SoundTail; readonly end: number } | null> {
  const path = tailPath(stretch)
  const end = Math.round(at + (((await sizeOf(path)) ?? 0) / BYTES_A_SAMPLE / sampleRate) * 1000)
  const join = Math.max(0, at, own - OVERLAP)
  return end - Math.max(own, join) < LEAST ? null : { tail: { path, sampleRate, at, join }, end }
}

/** Whether more of a recording has come than was put together; one that did not come in chunks has not. */
async function hasGrown(q: Queries, stretch: string, count: number, raw: string): Promise<boolean> {
  const bytes = await bytesOfChunks(q, stretch, count)
  return bytes !== null && bytes !== (await sizeOf(raw))
}

/** Puts the recording as it came together, unless it is there. One that was closed before all of it had come is put together anew. */
async function putTogether(db: Database, claim: Claim, stretch: string, count: number): Promise<void> {
  const raw = rawPath(stretch)
  if ((await sizeOf(raw)) !== null && !(await hasGrown(db, stretch, count, raw))) {
    await keptSafe(raw)
    return
  }
  const part = partOf(raw, claim)
  await concatenate(
    Array.from({ length: count }, (_, n) => chunkPath(stretch, n)),
    part,
  )
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await putUnder(part, raw)
  })
}

/** A name for what is not finished that no other worker gives, nor this one again. */
const partOf = (path: string, claim: Claim): string => `${path}.${String(claim.number)}.part`

/** Where a stretch lies in the recording as it came. */
interface Found {
  /** ms into the recording at which the stretch begins, in its pictures and in its sound. */
  readonly picture: number
  readonly sound: number
  /** Parts of a million. */
  readonly drift: number
  /** Whether its sound was matched, or only taken to begin where the recorder began. */
  readonly matched: boolean
}

async function findIn(raw: string, stretch: Stretch): Promise<Found> {
  const aligned = await alignSound(
    raw,
    Object.entries(stretch.prints ?? {})
      .sort()
      .map(([n, { at, rate }]) => ({ at, sampleRate: rate, path: printPath(stretch.id, Number(n)) })),
  )
  // What the page sent is how late the microphone itself is known to be; where its samples lie is measured.
  const sound = (aligned?.offset ?? 0) + stretch.offset_sound
  // Which picture stands first in a recording is the page's guess; where they all lie is measured, if they say.
  const measured = stretch.camera && (await sizeOf(facePath(stretch.id))) !== null ? await alignPictures(raw, facePath(stretch.id)) : null
  return { sound, picture: measured ?? stretch.offset_picture, drift: Math.round((aligned?.drift ?? 0) * 1e6), matched: aligned !== null }
}

/** A stretch's recording and voice, made and measured, under names of their own. */
interface Made {
  readonly length: number
  readonly peaks: readonly number[]
  readonly loudness: number | null
  readonly camera: { readonly lost: number; readonly until: number }
  readonly tailed: boolean
  readonly digests: StretchDigests
  /** Gives them their names. */
  readonly put: () => Promise<void>
}

/** Makes what is played from the recording as it came. The same comes out however often it is done. */
async function makeOf(raw: string, stretch: Stretch, { picture, sound, drift }: Found, claim: Claim): Promise<Made> {
  const own = Math.max(0, (await lengthOfRecording(raw)) - Math.round(sound))
  const last =
    stretch.tail === null
      ? null
      : await tailOf(stretch.id, { sampleRate: stretch.tail.rate, at: stretch.tail.at - stretch.offset_sound }, own)
  // Never much longer than what was really recorded, whatever the page said.
  const length = Math.min(stretch.length_ms ?? Infinity, Math.max(own, last?.end ?? 0) + (stretch.length_ms === null ? 0 : MOST_SILENT))
  const digested = digestOfFile(raw)
  // It is waited for further down; until then its failure is nobody's.
  digested.catch(() => undefined)
  if (length === 0) {
    const raw_digest = await digested
    return {
      length,
      peaks: [],
      loudness: null,
      camera: { lost: 0, until: 0 },
      tailed: false,
      digests: { raw_digest, recording_digest: null, voice_digest: null },
      put: () => Promise.resolve(),
    }
  }
  const [recording, voice] = [partOf(recordingPath(stretch.id), claim), partOf(voicePath(stretch.id), claim)]
  const peaks = await closeStretch({
    raw,
    recording,
    voice,
    length,
    offsets: { picture, sound },
    drift: drift / 1e6,
    tail: last?.tail ?? null,
  })
  const [{ integrated }, camera, raw_digest, recording_digest, voice_digest] = await Promise.all([
    measureVoice(voice),
    stretch.camera ? cameraSeen(recording, length) : { lost: 0, until: 0 },
    digested,
    digestOfFile(recording),
    digestOfFile(voice),
  ])
  return {
    length,
    peaks,
    loudness: integrated,
    tailed: last !== null,
    camera,
    digests: { raw_digest, recording_digest, voice_digest },
    put: async () => {
      await putUnder(recording, recordingPath(stretch.id))
      await putUnder(voice, voicePath(stretch.id))
    },
  }
}

/**
 * Makes a closed stretch ready to be played. Can be repeated at any point.
 * @throws ClaimLost when another worker has begun the same, Refusal when it cannot be played
 */
export async function makeReady(db: Database, stretch: Stretch, count: number, claim: Claim): Promise<void> {
  const { id } = stretch
  await putTogether(db, claim, id, count)
  await checkRecording(rawPath(id))
  const found = await findIn(rawPath(id), stretch)
  const made = await makeOf(rawPath(id), stretch, found, claim)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await made.put()
    await stretchReady(q, id, {
      length_ms: made.length,
      peaks: made.peaks,
      loudness: made.loudness,
      camera_lost_ms: made.camera.lost,
      picture_at: found.picture,
      sound_at: found.sound,
      timing: found.matched ? 'measured' : 'approximate',
      drift_ppm: found.matched ? found.drift : null,
      ...made.digests,
    })
    // Its last picture would stand beside what is said then as if it were still.
    if (made.tailed && stretch.camera && made.length - made.camera.until > STILL) await takeFaceOff(q, id, Math.round(made.camera.until))
  })
  // The recording as it came is in one file now; the chunks it came in are no longer needed, unless more of them may come.
  if (stretch.whole) await removeTree(chunkFolder(id))
  // A worker that was killed leaves what it was writing.
  await removeParts(stretchFolder(id))
}

/** Makes the files of a stretch that is ready again, from the recording as it came, where they are missing or damaged. @throws ClaimLost */
export async function makeReadyAgain(db: Database, stretch: Stretch, claim: Claim): Promise<void> {
  const { id, picture_at: picture, sound_at: sound, drift_ppm: drift } = stretch
  const made = await makeOf(rawPath(id), stretch, { picture: picture ?? 0, sound: sound ?? 0, drift: drift ?? 0, matched: true }, claim)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await made.put()
    await noteDigests(q, id, made.digests)
  })
  await removeParts(stretchFolder(id))
}
