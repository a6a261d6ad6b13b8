import { open } from 'node:fs/promises'
import type { VoicePart } from '@core/plan'
import { fromDb } from '@core/voice'
import { filter, filtersText } from '@render/filters'
import { outputOf } from '@render/process'
import { BYTES_A_SAMPLE, SAMPLE_RATE, samplesOf } from './pcm'
import { SampleReader } from './sample-reader'

/** Length of a fade, or of the passage from one part to the next: long enough that no step is heard, too short to swallow a sound. */
const FADE_MS = 12

/**
 * Fades a block in from what comes before it: silence, or the part before, as it would have gone on. Equal power, so that the room
 * keeps its level.
 */
function fadeIn(samples: Int16Array, before: Int16Array | null): void {
  const fade = Math.min(samplesOf(FADE_MS), samples.length)
  for (let n = 0; n < fade; n += 1) {
    const angle = (Math.PI / 2) * (n / fade)
    samples[n] = Math.max(-32_768, Math.min(32_767, Math.round((samples[n] ?? 0) * Math.sin(angle) + (before?.[n] ?? 0) * Math.cos(angle))))
  }
}

/** Fades a block out into silence. */
function fadeOut(samples: Int16Array): void {
  const fade = Math.min(samplesOf(FADE_MS), samples.length)
  for (let n = 0; n < fade; n += 1) {
    const last = samples.length - 1 - n
    samples[last] = Math.round((samples[last] ?? 0) * Math.sin((Math.PI / 2) * (n / fade)))
  }
}

/** Longest run of samples held at a time. */
const BLOCK_MS = 20_000

/** @param gain in dB */
async function readSamples(path: string, from: number, count: number, gain: number): Promise<Int16Array> {
  const samples = new Int16Array(count)
  const file = await open(path)
  try {
    await file.read(Buffer.from(samples.buffer), 0, count * BYTES_A_SAMPLE, from * BYTES_A_SAMPLE)
  } finally {
    await file.close()
  }
  if (gain === 0) return samples
  const factor = fromDb(gain)
  for (let n = 0; n < count; n += 1) samples[n] = Math.max(-32_768, Math.min(32_767, Math.round(samples[n]! * factor)))
  return samples
}

/** A part of a recorded voice. */
interface Source {
  readonly path: string
  /** In samples. */
  readonly from: number
  readonly count: number
  /** In dB. */
  readonly gain: number
}

async function* blocksOf({ path, from, count, gain }: Source): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < count; at += samplesOf(BLOCK_MS)) {
    const block = await readSamples(path, from + at, Math.min(count - at, samplesOf(BLOCK_MS)), gain)
    yield new Uint8Array(block.buffer)
  }
}

/** Plays a part of a voice faster or slower without changing its pitch. It is read and handed over bit by bit, however long it is. */
function atTempo(source: Source, tempo: number): AsyncGenerator<Uint8Array> {
  const format = ['-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1']
  return outputOf(
    'ffmpeg',
    ['-hide_banner', '-loglevel', 'error', ...format, '-i', 'pipe:0', '-af', filtersText([filter('atempo', [tempo])]), ...format, 'pipe:1'],
    { input: blocksOf(source) },
  )
}

/** Gives the samples of a part of a voice, one run after the other. */
interface PartReader {
  readonly read: (count: number) => Promise<Int16Array>
  readonly end: () => Promise<void>
}

/** @param skipped how much of the part is not wanted, in samples of the film: reading begins behind it */
async function readerOf(path: string, { playbackRate, gain, from: begin, to }: VoicePart, skipped: number): Promise<PartReader> {
  const tempo = playbackRate.num / playbackRate.den
  if (tempo !== 1) {
    const reader = new SampleReader(atTempo({ path, from: samplesOf(begin), count: samplesOf(to - begin + FADE_MS * 2), gain }, tempo))
    // Where it is begun decides how it sounds, so it is read from there.
    for (let left = skipped; left > 0; left -= samplesOf(BLOCK_MS)) await reader.read(Math.min(left, samplesOf(BLOCK_MS)))
    return { read: (count) => reader.read(count), end: () => reader.end() }
  }
  let at = samplesOf(begin) + skipped
  return {
    read: async (count) => {
      const block = await readSamples(path, at, count, gain)
      at += count
      return block
    },
    end: () => Promise.resolve(),
  }
}

/** A part between two samples of the film: where it is heard from, and until when. */
interface Heard {
  /** Where the part begins in the film, which may be before what is heard of it. */
  readonly begin: number
  readonly from: number
  readonly end: number
  /** Whether the next part begins as it ends, and takes over in a passage of its own; else it fades out. */
  readonly meets: boolean
}

/** @param before how the part before would have gone on; null after silence @returns how this one would go on past its end */
async function* partBlocks(
  reader: PartReader,
  { begin, from, end, meets }: Heard,
  before: Int16Array | null,
): AsyncGenerator<Int16Array, Int16Array | null> {
  for (let at = from; at < end;) {
    // What is left is never shorter than a fade.
    const size = end - at < samplesOf(BLOCK_MS) + samplesOf(FADE_MS) ? end - at : samplesOf(BLOCK_MS)
    const block = await reader.read(size)
    if (at === begin) fadeIn(block, before)
    at += size
    if (at === end && !meets) fadeOut(block)
    yield block
  }
  return meets ? await reader.read(samplesOf(FADE_MS)) : null
}

function* silence(samples: number): Generator<Int16Array> {
  for (let left = samples; left > 0; left -= samplesOf(BLOCK_MS)) yield new Int16Array(Math.min(left, samplesOf(BLOCK_MS)))
}

/** Finds the file of a voice: as it was recorded, or as something was done to it. */
export type VoiceFinder = (part: Pick<VoicePart, 'stretch' | 'treatment'>) => string | Promise<string>

/**
 * The film's voice from its parts, with silence between them.
 * @param samples length of the whole
 * @returns blocks of samples in order; together exactly `samples`
 */
export async function* assembleVoice(parts: readonly VoicePart[], voiceOf: VoiceFinder, samples: number): AsyncGenerator<Int16Array> {
  let written = 0
  /** How the part before would have gone on past its end; null after silence. */
  let goingOn: Int16Array | null = null
  for (const [n, part] of parts.entries()) {
    const begin = samplesOf(part.at)
    const from = Math.max(written, Math.min(begin, samples))
    if (from > written) goingOn = null
    yield* silence(from - written)
    const end = Math.min(samplesOf(part.at + part.length), samples)
    const next = parts[n + 1]
    const meets = next !== undefined && samplesOf(next.at) === end
    const reader = await readerOf(await voiceOf(part), part, from - begin)
    try {
      goingOn = yield* partBlocks(reader, { begin, from, end, meets }, goingOn)
    } finally {
      await reader.end()
    }
    written = Math.max(from, end)
  }
  yield* silence(samples - written)
}
