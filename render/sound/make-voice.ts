import type { Format, LoudnessWanted } from '@core/model'
import type { ClipPart, VoicePart } from '@core/plan'
import { fromDb } from '@core/voice'
import { filter, filtersText } from '@render/filters'
import { feed, start } from '@render/process'
import { assembleVoice } from './assemble'
import type { VoiceFinder } from './assemble'
import { measureFile, measureSamples } from './loudness'
import type { Loudness } from './loudness'
import { mixClips } from './mix-clips'
import { SAMPLES_IN, SAMPLE_RATE } from './pcm'
import { SOUND_CODECS } from './sound-codec'

/** Most that a peak may reach, in dBTP. */
export const MOST_PEAK = -1
/** The limiter stays below the most, since encoding adds a little: how much is seen once it is done, and done again if need be. */
const FIRST_CEILING = -3
const TRIES = 4
/** A voice this far below the target is mostly noise; it is not raised further. */
const MOST_GAIN = 30
/** Grows whenever the same parts would sound otherwise. */
const MIX = 3

/** What sound is wanted. */
export interface VoiceWanted {
  readonly parts: readonly VoicePart[]
  readonly clips: readonly ClipPart[]
  /** Length of the picture in frames, and frames a second: the sound never outlasts it. */
  readonly frames: number
  readonly fps: number
  readonly format: Format
  /** LUFS */
  readonly loudness: LoudnessWanted
}

/** All that decides the sound, as text to be hashed into its key. */
export const contentOfVoice = ({ parts, clips, frames, fps, format, loudness }: VoiceWanted): string =>
  JSON.stringify(['voice', MIX, parts, frames, fps, SOUND_CODECS[format].name, loudness, ...(clips.length === 0 ? [] : [clips])])

export interface VoiceOrder {
  readonly wanted: VoiceWanted
  readonly voiceOf: VoiceFinder
  /** Finds a clip's file by its digest. */
  readonly clipOf: (digest: string) => string | Promise<string>
  readonly out: string
  readonly signal?: AbortSignal
  /** Hears how much of the work is done, 0 to 1. */
  readonly onShare?: (share: number) => void
}

/** How much of the work it is to measure what is there, and to encode it; the rest is measuring what came out. Measured. */
const WORK = { measure: 0.1, encode: 0.62 } as const

/** Samples of sound for a picture: whole packets of its codec, so that what the file declares is what it holds. */
function voiceSamples(frames: number, fps: number, format: Format): number {
  const { packet, extra } = SOUND_CODECS[format]
  return Math.max(1, Math.floor(((frames * SAMPLE_RATE) / fps - extra) / packet)) * packet
}

/**
 * Makes the sound of a film in one pass over the whole: parts joined, loudness brought to its target, peaks held.
 * @returns what was measured in the encoded sound
 */
export async function makeVoice(order: VoiceOrder): Promise<Loudness> {
  const { wanted, onShare } = order
  const samples = voiceSamples(wanted.frames, wanted.fps, wanted.format)
  const voice = (): AsyncGenerator<Int16Array> => assembleVoice(wanted.parts, order.voiceOf, samples)
  const blocks = (): AsyncGenerator<Int16Array> => mixClips(voice, { clips: wanted.clips, clipOf: order.clipOf, begins: 0 })
  const raw = await measureSamples(blocks())
  onShare?.(WORK.measure)
  const gain = raw.integrated === null ? 0 : Math.min(MOST_GAIN, wanted.loudness - raw.integrated)
  const loudest = raw.truePeak === null ? -Infinity : raw.truePeak + gain
  let ceiling: number | null = loudest > FIRST_CEILING - 1 ? FIRST_CEILING : null
  for (let tries = 1; ; tries += 1) {
    await encode(order, blocks(), gain, ceiling, (handed) => {
      onShare?.(WORK.measure + (WORK.encode * handed) / samples)
    })
    const made = await measureFile(order.out)
    const excess = made.truePeak === null ? 0 : made.truePeak - MOST_PEAK
    if (excess <= 0 || tries === TRIES) {
      onShare?.(1)
      return made
    }
    ceiling = (ceiling ?? FIRST_CEILING) - excess - 0.3
  }
}

/** @param hear how many samples were handed over so far */
async function encode(
  order: VoiceOrder,
  blocks: AsyncIterable<Int16Array>,
  gain: number,
  ceiling: number | null,
  hear: (samples: number) => void,
): Promise<void> {
  // It sees the samples alone. Peaks between them, which as a rule are less than what the ceiling leaves, are measured afterwards;
  // twice as many samples would show them here, and take a third of the time that the sound takes.
  const limiter =
    ceiling === null ? [] : [filter('alimiter', [], { limit: fromDb(ceiling).toFixed(4), level: false, attack: 3, release: 60 })]
  const { child, done } = start(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...SAMPLES_IN,
      '-af',
      filtersText([filter('volume', [`${gain.toFixed(2)}dB`]), ...limiter]),
      '-ac',
      '1',
      '-ar',
      String(SAMPLE_RATE),
      ...SOUND_CODECS[order.wanted.format].encoder,
      '-f',
      SOUND_CODECS[order.wanted.format].container,
      '-y',
      order.out,
    ],
    { signal: order.signal },
  )
  let handed = 0
  for await (const block of blocks) {
    if (!(await feed(child, Buffer.from(block.buffer, block.byteOffset, block.byteLength)))) break
    handed += block.length
    hear(handed)
  }
  child.stdin?.end()
  await done
}
