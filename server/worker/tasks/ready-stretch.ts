import type { Selectable } from 'kysely'
import { BYTES_A_SAMPLE, SAMPLE_RATE, alignSound, indexRecording, makeStretchVoice } from '@render/sound'
import type { SoundTail } from '@render/sound'
import { alignPictures, cameraSeen } from '@render/probe'
import type { Database, StretchTable } from '@server/database'
import { noteDigests, stretchReady, takeFaceOff } from '@server/domain'
import { log } from '@server/log'
import {
  allHere,
  chunkFolder,
  decodedPath,
  digestKept,
  facePath,
  here,
  printPath,
  rawPath,
  readingPath,
  recordingPath,
  removeParts,
  removeTree,
  sizeOf,
  stage,
  stretchFolder,
  tailPath,
  voicePath,
} from '@server/store'
import type { Claim } from '../claims'
import { partOf, readRecording, readWhole } from '../recordings'
import type { Reading } from '../recordings'

type Stretch = Selectable<StretchTable>

/** So much of a recording's own sound is let go of where a tail goes on, in ms: its last packet may be cut short. */
const OVERLAP = 150
/** A tail that adds less is not worth a join, in ms. */
const LEAST = 50
/** So much longer than its sound a stretch may be: a microphone may be pulled out a while before the take is stopped, in ms. */
const MOST_SILENT = 600_000
/** A face that stands still for longer is taken off, in ms. */
const STILL = 500

/** How long samples of 16 bits take, in ms. */
const msOf = (bytes: number, sampleRate: number): number => (bytes / BYTES_A_SAMPLE / sampleRate) * 1000

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
  const path = await here(tailPath(stretch))
  const end = Math.round(at + msOf((await sizeOf(path)) ?? 0, sampleRate))
  const join = Math.max(0, at, own - OVERLAP)
  return end - Math.max(own, join) < LEAST ? null : { tail: { path, sampleRate, at, join }, end }
}

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

async function findIn(stretch: Stretch): Promise<Found> {
  const raw = await here(rawPath(stretch.id))
  const prints = Object.entries(stretch.prints ?? {})
    .sort()
    .map(([n, { at, rate }]) => ({ at, sampleRate: rate, path: printPath(stretch.id, Number(n)) }))
  await allHere(prints.map(({ path }) => path))
  const aligned = await alignSound(await here(decodedPath(stretch.id)), prints)
  // What the page sent is how late the microphone itself is known to be; where its samples lie is measured.
  const sound = (aligned?.offset ?? 0) + stretch.offset_sound
  // Which picture stands first in a recording is the page's guess; where they all lie is measured, if they say.
  const face = await here(facePath(stretch.id))
  const measured = stretch.camera && (await sizeOf(face)) !== null ? await alignPictures(raw, face) : null
  return {
    sound,
    picture: measured ?? stretch.offset_picture,
    drift: Math.round((aligned?.drift ?? 0) * 1e6),
    matched: aligned !== null,
  }
}

/** A stretch's recording and voice, made and measured, under names of their own. */
interface Made {
  readonly length: number
  readonly peaks: readonly number[]
  readonly camera: { readonly lost: number; readonly until: number }
  readonly tailed: boolean
  /** Gives them their names. */
  readonly put: () => Promise<void>
}

const NOTHING_MADE: Made = { length: 0, peaks: [], camera: { lost: 0, until: 0 }, tailed: false, put: () => Promise.resolve() }

/** Makes what is played from the recording as it came, once that was read. The same comes out however often it is done. */
async function makeOf(stretch: Stretch, reading: Reading, { picture, sound, drift }: Found, claim: Claim): Promise<Made> {
  const own = Math.max(0, Math.round(msOf(reading.decoded, SAMPLE_RATE)) - Math.round(sound))
  const last =
    stretch.tail === null
      ? null
      : await tailOf(stretch.id, { sampleRate: stretch.tail.rate, at: stretch.tail.at - stretch.offset_sound }, own)
  // Never much longer than what was really recorded, whatever the page said.
  const length = Math.min(stretch.length_ms ?? Infinity, Math.max(own, last?.end ?? 0) + (stretch.length_ms === null ? 0 : MOST_SILENT))
  if (length === 0) return NOTHING_MADE
  const [recording, voice] = [partOf(recordingPath(stretch.id), claim), partOf(voicePath(stretch.id), claim)]
  const work = [
    indexRecording(rawPath(stretch.id), recording, { picture, sound }),
    makeStretchVoice({
      decoded: decodedPath(stretch.id),
      voice,
      length,
      offset: sound,
      drift: drift / 1e6,
      tail: last?.tail ?? null,
    }),
  ] as const
  // Neither waits for the other. What one leaves of itself is awaited before the other's failure is told.
  await Promise.allSettled(work)
  const [, peaks] = await Promise.all(work)
  const [recordingStaged, voiceStaged] = [await stage(recording), await stage(voice)]
  return {
    length,
    peaks,
    tailed: last !== null,
    camera: cameraSeen(stretch.camera ? reading.pictures : null, picture, length),
    put: async () => {
      await recordingStaged.putUnder(recordingPath(stretch.id))
      await voiceStaged.putUnder(voicePath(stretch.id))
    },
  }
}

/**
 * Makes a closed stretch ready to be played. Can be repeated at any point.
 * @throws ClaimLost when another worker has begun the same, Refusal when it cannot be played
 */
export async function makeReady(db: Database, stretch: Stretch, count: number, claim: Claim): Promise<void> {
  const { id } = stretch
  const began = performance.now()
  const reading = await readRecording(db, id, count)
  const read = performance.now()
  const found = await findIn(stretch)
  const made = await makeOf(stretch, reading, found, claim)
  const madeAt = performance.now()
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await made.put()
    await stretchReady(q, id, {
      length_ms: made.length,
      peaks: made.peaks,
      loudness: reading.loudness,
      camera_lost_ms: made.camera.lost,
      picture_at: found.picture,
      sound_at: found.sound,
      timing: found.matched ? 'measured' : 'approximate',
      drift_ppm: found.matched ? found.drift : null,
      raw_digest: reading.digest,
    })
    // Its last picture would stand beside what is said then as if it were still.
    if (made.tailed && stretch.camera && made.length - made.camera.until > STILL) await takeFaceOff(q, id, Math.round(made.camera.until))
  })
  const took = { read: Math.round(read - began), made: Math.round(madeAt - read), put: Math.round(performance.now() - madeAt) }
  log.info({ stretch: id, length: made.length, took }, 'a recording is ready')
}

/**
 * Notes what a ready stretch's files hold, by which it is seen later that they are whole, and takes away what was only needed on the way.
 * @throws ClaimLost when more of it came and it is made ready again
 */
export async function settleStretch(db: Database, { id, whole, length_ms }: Stretch, claim: Claim): Promise<void> {
  if (length_ms !== 0) {
    const [recording_digest, voice_digest] = await Promise.all([digestKept(recordingPath(id)), digestKept(voicePath(id))])
    await db.transaction().execute(async (q) => {
      await claim.stillHeld(q)
      await noteDigests(q, id, { recording_digest, voice_digest })
    })
  }
  // The recording as it came is in one file now; the chunks it came in are no longer needed, unless more of them may come.
  if (whole) await removeTree(chunkFolder(id))
  await Promise.all([removeTree(decodedPath(id)), removeTree(readingPath(id))])
  // A worker that was killed leaves what it was writing.
  await removeParts(stretchFolder(id))
}

/** Makes the files of a stretch that is ready again, from the recording as it came, where they are missing or damaged. @throws ClaimLost */
export async function makeReadyAgain(db: Database, stretch: Stretch, claim: Claim): Promise<void> {
  const { id, picture_at: picture, sound_at: sound, drift_ppm: drift } = stretch
  const reading = await readWhole(db, id, claim)
  const found = { picture: picture ?? 0, sound: sound ?? 0, drift: drift ?? 0, matched: true }
  const made = await makeOf(stretch, reading, found, claim)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await made.put()
    await noteDigests(q, id, { raw_digest: reading.digest })
  })
  await settleStretch(db, stretch, claim)
}
