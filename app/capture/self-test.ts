import { median } from 'd3'
import { deleteDB, openDB } from 'idb'
import { framesInWebm } from '@core/formats'
import { framesSince } from './camera-times'
import { givesFew, keepsUp } from './fit-camera'
import { CHUNK_MS, canRecord, recordTrial } from './recorder'
import type { Trial } from './recorder'
import { USUAL_BYTES, minutesLeft } from './room-left'
import type { SelfTestLine } from './self-test-report'

/** How long the recording on trial lasts, in ms. */
const TRIAL = 3000
/** Chunks that are written on trial, and how large each is, in bytes: as many as ten seconds of a take make. */
const CHUNKS = 40
const CHUNK_BYTES = 80_000
const ROUNDS = 12

const ms = (value: number): string => `${value < 10 ? value.toFixed(1) : String(Math.round(value))} ms`
const sorted = (values: readonly number[]): readonly number[] => [...values].sort((a, b) => a - b)
const has = (name: string): boolean => name in globalThis

/** What the browser has, and what stands in for what it has not. */
export function browserLines(): readonly SelfTestLine[] {
  const secure: SelfTestLine = window.isSecureContext
    ? { name: 'Secure page', state: 'good', say: 'yes' }
    : { name: 'Secure page', state: 'bad', say: 'no: browsers give cameras only to pages on this computer or under https' }
  return [
    secure,
    canRecord()
      ? { name: 'Recorder', state: 'good', say: 'VP8 and Opus in WebM' }
      : { name: 'Recorder', state: 'bad', say: 'this browser records no WebM with VP8 and Opus, so nothing can be recorded in it' },
    has('MediaStreamTrackProcessor')
      ? { name: 'Sound with its times', state: 'good', say: 'raw blocks' }
      : { name: 'Sound with its times', state: 'standIn', say: 'an audio worklet stands in, set by when blocks arrive' },
    has('MediaStreamTrackProcessor')
      ? { name: 'Pictures with their times', state: 'good', say: 'one by one' }
      : { name: 'Pictures with their times', state: 'standIn', say: 'those that the page is shown stand in' },
    'requestVideoFrameCallback' in HTMLVideoElement.prototype
      ? { name: 'Times of shown pictures', state: 'good', say: 'yes' }
      : { name: 'Times of shown pictures', state: 'bad', say: 'missing: when a picture was taken is not known' },
    'locks' in navigator
      ? { name: 'One recording at a time', state: 'good', say: 'locked in this browser and on the server' }
      : {
          name: 'One recording at a time',
          state: 'bad',
          say: 'this browser has no locks: two of its tabs could record at once, so it does not record',
        },
    has('indexedDB')
      ? { name: 'Store', state: 'good', say: 'IndexedDB' }
      : { name: 'Store', state: 'bad', say: 'missing: a take could not be kept on this computer' },
  ]
}

interface Level {
  readonly peak: number
  readonly rms: number
}

function micLines(mic: MediaStreamTrack, name: string, level: Level | null): readonly SelfTestLine[] {
  const { sampleRate, channelCount } = mic.getSettings()
  const rate = sampleRate === undefined ? 'rate not told' : `${String(sampleRate)} Hz`
  const channels = channelCount === undefined ? '' : `, ${String(channelCount)} ${channelCount === 1 ? 'channel' : 'channels'}`
  return [
    { name: 'Microphone', state: 'good', say: `${name}, ${rate}${channels}` },
    level === null
      ? { name: 'Level', state: 'bad', say: 'not measured' }
      : {
          name: 'Level',
          state: level.peak > -1 || level.peak < -60 ? 'bad' : 'good',
          say: `peak ${level.peak.toFixed(1)} dBFS, now ${level.rms.toFixed(1)} dBFS`,
        },
  ]
}

/** @param trial what was recorded of the camera @param given how many pictures it gave meanwhile */
function cameraLines(camera: MediaStreamTrack, name: string, trial: Trial, given: number): readonly SelfTestLine[] {
  const { width, height, frameRate } = camera.getSettings()
  const kept = framesInWebm(trial.bytes)
  return [
    {
      name: 'Camera',
      state: 'good',
      say: `${name}, ${String(width ?? '?')} × ${String(height ?? '?')}, says ${String(Math.round(frameRate ?? 0))} a second`,
    },
    {
      name: 'Pictures',
      state: givesFew(given, TRIAL) ? 'bad' : 'good',
      say: `${((given * 1000) / TRIAL).toFixed(1)} a second came`,
    },
    {
      name: 'Encoder',
      state: keepsUp(kept, given, trial.behind) ? 'good' : 'bad',
      say:
        `kept ${kept >= given ? 'all' : `${String(kept)} of ${String(given)}`} pictures, ` +
        `${String(Math.round(trial.bytes.length / (TRIAL / 1000) / 1000))} kB a second, ${ms(trial.behind)} behind`,
    },
  ]
}

/** What camera and microphone say of themselves, and what came of them when they were recorded for three seconds. */
export async function deviceLines(
  stream: MediaStream,
  names: { readonly camera: string; readonly mic: string },
  level: Level | null,
): Promise<readonly SelfTestLine[]> {
  const [camera] = stream.getVideoTracks()
  const [mic] = stream.getAudioTracks()
  const heard = mic === undefined ? [] : micLines(mic, names.mic, level)
  const began = performance.now()
  const trial = await recordTrial(stream, TRIAL, new AbortController().signal)
  if (camera === undefined || trial === null) return heard
  return [...heard, ...cameraLines(camera, names.camera, trial, framesSince(camera, began, began + TRIAL))]
}

/** How fast this browser's store keeps chunks, and how much it has room for. */
export async function storeLines(): Promise<readonly SelfTestLine[]> {
  const NAME = 'aisle-self-test'
  const store = await openDB(NAME, 1, {
    upgrade: (db) => {
      db.createObjectStore('chunks')
    },
  })
  const took: number[] = []
  try {
    for (let n = 0; n < CHUNKS; n += 1) {
      const began = performance.now()
      const work = store.transaction('chunks', 'readwrite', { durability: 'strict' })
      await Promise.all([work.store.put(new Uint8Array(CHUNK_BYTES).fill(n), n), work.done])
      took.push(performance.now() - began)
    }
  } finally {
    store.close()
    await deleteDB(NAME)
  }
  const slow = sorted(took)[Math.floor(took.length * 0.95)] ?? 0
  const minutes = await minutesLeft(USUAL_BYTES)
  return [
    {
      name: 'Keeping a chunk',
      state: slow > CHUNK_MS ? 'bad' : 'good',
      say: `${ms(median(took) ?? 0)} usually, ${ms(slow)} at the slowest (every chunk lasts ${String(CHUNK_MS)} ms)`,
    },
    minutes === null
      ? { name: 'Room here', state: 'standIn', say: 'the browser does not tell' }
      : {
          name: 'Room here',
          state: minutes < 30 ? 'bad' : 'good',
          say: `about ${String(Math.round(minutes))} minutes of camera and voice`,
        },
  ]
}

/** How far away the server is, and how finely this page tells the time. */
export async function serverLines(reach: () => Promise<unknown>): Promise<readonly SelfTestLine[]> {
  const took: number[] = []
  for (let n = 0; n < ROUNDS; n += 1) {
    const began = performance.now()
    await reach()
    took.push(performance.now() - began)
  }
  const steps = Array.from({ length: 2000 }, () => performance.now())
  const step = Math.min(
    ...steps
      .slice(1)
      .map((at, n) => at - (steps[n] ?? at))
      .filter((by) => by > 0),
  )
  return [
    {
      name: 'Server',
      state: (median(took) ?? 0) > 1000 ? 'bad' : 'good',
      say: `answers in ${ms(median(took) ?? 0)}, ${ms(Math.max(...took))} at the slowest`,
    },
    {
      name: 'Clock',
      state: step > 2 ? 'bad' : 'good',
      say: Number.isFinite(step) ? `tells steps of ${step < 0.01 ? 'less than 0.01' : step.toFixed(2)} ms` : 'tells no steps below 1 ms',
    },
  ]
}
