import type { VoicePart } from '@core/plan'
import { feed, start } from '@render/process'
import { assembleVoice } from './assemble'
import { measureFile, measureSamples } from './loudness'
import type { Loudness } from './loudness'
import { SAMPLE_RATE } from './pcm'

/** Loudness of every delivery, in LUFS, and the most a peak may reach, in dBTP. */
export const TARGET_LUFS = -16
export const MOST_PEAK = -1
/** The limiter stays below the most, since encoding adds a little. */
const LIMITER_DB = -2.2
/** A voice this far below the target is mostly noise; it is not raised further. */
const MOST_GAIN = 30
/** Samples in a frame of AAC. */
const AAC_FRAME = 1024

export interface VoiceOrder {
  readonly parts: readonly VoicePart[]
  readonly voiceOf: (stretch: string) => string
  /** Length of the picture in frames, and frames a second: the sound never outlasts it. */
  readonly frames: number
  readonly rate: number
  readonly out: string
  readonly signal?: AbortSignal
}

/** Samples of sound for a picture: whole AAC frames, so that what the file declares is what it holds. */
export const voiceSamples = (frames: number, rate: number): number =>
  Math.max(1, Math.floor((frames * SAMPLE_RATE) / rate / AAC_FRAME)) * AAC_FRAME

/**
 * Makes the sound of a film in one pass over the whole: parts joined, loudness brought to its target, peaks held.
 * @returns what was measured in the encoded sound
 */
export async function makeVoice(order: VoiceOrder): Promise<Loudness> {
  const samples = voiceSamples(order.frames, order.rate)
  const blocks = (): AsyncGenerator<Int16Array> => assembleVoice(order.parts, order.voiceOf, samples)
  const raw = await measureSamples(blocks())
  const gain = raw.integrated === null ? 0 : Math.min(MOST_GAIN, TARGET_LUFS - raw.integrated)
  const limit = 10 ** (LIMITER_DB / 20)
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats', '-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', 'pipe:0',
    // Peaks between samples show once there are four times as many.
    '-af', `volume=${gain.toFixed(2)}dB,aresample=${String(SAMPLE_RATE * 4)},alimiter=limit=${limit.toFixed(4)}:level=false:attack=3:release=60,aresample=${String(SAMPLE_RATE)}`,
    '-ac', '1', '-c:a', 'aac', '-b:a', '128k', '-f', 'ipod', '-y', order.out,
  ], { signal: order.signal })
  for await (const block of blocks()) {
    if (!await feed(child, Buffer.from(block.buffer, block.byteOffset, block.byteLength))) break
  }
  child.stdin?.end()
  await done
  return await measureFile(order.out)
}
