import type { VoicePart } from '@core/plan'
import { feed, start } from '@render/process'
import { assembleVoice } from './assemble'
import { measureFile, measureSamples } from './loudness'
import type { Loudness } from './loudness'
import { SAMPLE_RATE } from './pcm'

/** Loudness of every delivery, in LUFS, and the most a peak may reach, in dBTP. */
export const TARGET_LUFS = -16
export const MOST_PEAK = -1
/** The limiter stays below the most, since encoding adds a little: how much is seen once it is done, and done again if need be. */
const FIRST_CEILING = -3
const TRIES = 4
/** A voice this far below the target is mostly noise; it is not raised further. */
const MOST_GAIN = 30
/** Samples in a frame of AAC. */
const AAC_FRAME = 1024

/** Grows whenever the same parts would sound otherwise. */
const MIX = 2

/** All that decides the sound, as text to be hashed into its key. */
export const contentOfVoice = (parts: readonly VoicePart[], frames: number, rate: number): string =>
  JSON.stringify(['voice', MIX, parts, frames, rate, TARGET_LUFS])

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
  const loudest = raw.truePeak === null ? -Infinity : raw.truePeak + gain
  let ceiling: number | null = loudest > FIRST_CEILING - 1 ? FIRST_CEILING : null
  for (let tries = 1; ; tries += 1) {
    await encode(order, blocks(), gain, ceiling)
    const made = await measureFile(order.out)
    const excess = made.truePeak === null ? 0 : made.truePeak - MOST_PEAK
    if (excess <= 0 || tries === TRIES) return made
    ceiling = (ceiling ?? FIRST_CEILING) - excess - 0.3
  }
}

async function encode(order: VoiceOrder, blocks: AsyncIterable<Int16Array>, gain: number, ceiling: number | null): Promise<void> {
  // Peaks between samples show once there are twice as many.
  const limiter = ceiling === null
    ? ''
    : `,aresample=${String(SAMPLE_RATE * 2)},alimiter=limit=${(10 ** (ceiling / 20)).toFixed(4)}:level=false:attack=3:release=60,aresample=${String(SAMPLE_RATE)}`
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats', '-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', 'pipe:0',
    '-af', `volume=${gain.toFixed(2)}dB${limiter}`,
    '-ac', '1', '-c:a', 'aac', '-aac_coder', 'fast', '-b:a', '128k', '-f', 'ipod', '-y', order.out,
  ], { signal: order.signal })
  for await (const block of blocks) {
    if (!await feed(child, Buffer.from(block.buffer, block.byteOffset, block.byteLength))) break
  }
  child.stdin?.end()
  await done
}
