import { SOUND_PART, SOUND_PART_MS } from '@core/screening'
import type { SoundPart } from '@core/screening'
import { fromDb } from '@core/voice'
import { filter, filtersText } from '@render/filters'
import { outputOf } from '@render/process'
import { SAMPLES_IN, assembleVoice, mixClips } from '@render/sound'
import type { VoiceFinder } from '@render/sound'
import { ONE_FRAGMENT, fragmentOf } from './fragment'
import type { Fragment } from './fragment'

/** What decides how a part sounds besides what is heard in it. */
export interface SoundTreatment {
  /** How much louder than recorded all of it is, in dB. */
  readonly gain: number
}

/** Loudness that screenings are brought to, in LUFS: the usual of a delivery. */
export const SCREENING_LOUDNESS = -16
/** Samples stay this far below full scale, in dBFS: encoding adds a little. */
const CEILING = -2
/** Grows whenever the same part would sound otherwise. */
const MIX = 1
const BIT_RATE = '96k'
/** Packets before a part that are encoded and let go: the encoder's own delay, and what the first packet overlaps with. */
const BEFORE = 3
/** Packets of sound before the part that those come from. */
const LEAD = BEFORE - 1

/** All that decides a part of the sound, as text to be hashed into its name. */
export const contentOfSoundPart = ({ n, packets, heard, clips }: SoundPart, { gain }: SoundTreatment): string =>
  JSON.stringify(['sound', MIX, n, packets, heard, gain, CEILING, BIT_RATE, ...(clips.length === 0 ? [] : [clips])])

/** Where what is heard is found. */
export interface SoundFiles {
  readonly voiceOf: VoiceFinder
  /** A clip's file, by its digest. */
  readonly clipOf: (digest: string) => string | Promise<string>
}

/** Samples of a part with what the encoder needs before and after it. */
async function* samplesFor(part: SoundPart, { voiceOf, clipOf }: SoundFiles): AsyncGenerator<Uint8Array> {
  const { packet, packets, sampleRate } = SOUND_PART
  const margin = (part.margin * sampleRate) / 1000
  const first = margin - LEAD * packet
  const end = margin + (packets + 2) * packet
  let at = 0
  const voice = (): AsyncGenerator<Int16Array> => assembleVoice(part.heard, voiceOf, 2 * margin + packets * packet)
  for await (const block of mixClips(voice, { clips: part.clips, clipOf, begins: part.n * SOUND_PART_MS - part.margin })) {
    const [from, to] = [Math.max(0, first - at), Math.min(block.length, end - at)]
    at += block.length
    if (to > from) yield new Uint8Array(block.buffer, block.byteOffset + from * 2, (to - from) * 2)
  }
}

/**
 * Makes a part of a screening's sound: AAC that goes on from the part before it without a gap or a join.
 */
export async function makeSoundPart(part: SoundPart, { gain }: SoundTreatment, files: SoundFiles): Promise<Fragment> {
  const { packet, sampleRate } = SOUND_PART
  const output = outputOf(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...SAMPLES_IN,
      '-af',
      filtersText([
        filter('volume', [`${gain.toFixed(2)}dB`]),
        filter('alimiter', [], { limit: fromDb(CEILING).toFixed(4), level: false, attack: 3, release: 60, latency: true }),
      ]),
      '-c:a',
      'aac',
      '-aac_coder',
      'fast',
      '-b:a',
      BIT_RATE,
      '-bsf:a',
      `noise=drop='lt(n,${String(BEFORE)})+gte(n,${String(BEFORE + part.packets)})',setts=ts=N*${String(packet)}`,
      ...ONE_FRAGMENT,
      'pipe:1',
    ],
    { input: samplesFor(part, files) },
  )
  const file: Buffer[] = []
  for await (const chunk of output) file.push(chunk)
  return fragmentOf(Buffer.concat(file), Math.round((part.n * SOUND_PART_MS * sampleRate) / 1000), part.n + 1)
}
