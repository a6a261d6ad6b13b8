import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { peaksOf } from '@core/voice'
import { chain, filter, graphText } from '@render/filters'
import type { Filter } from '@render/filters'
import { outputOf } from '@render/process'
import { BYTES_A_SAMPLE, SAMPLES_IN, SAMPLES_OUT, SAMPLE_RATE, samplesOf } from './pcm'
import { SampleReader } from './sample-reader'

export interface StretchVoiceOrder {
  /** Its recording's sound in the recording's own time; see `decodeRecording`. */
  readonly decoded: string
  /** Where the voice is written. */
  readonly voice: string
  /** ms */
  readonly length: number
  /** Into the recording's sound at which the stretch begins, in ms. */
  readonly offset: number
  /** How much longer the sound's time is than the stretch's, as a part of it: the microphone's clock ran fast. */
  readonly drift: number
  /** What was said last, where the recording's own sound ends too early; null when that has all of it. */
  readonly tail: SoundTail | null
}

/** A piece of a stretch's voice beside its recording. */
export interface SoundTail {
  /** Samples of 16 bits. */
  readonly path: string
  readonly sampleRate: number
  /** When it begins, in ms of the stretch. */
  readonly at: number
  /** From when on it is the voice, in ms of the stretch: while the recording still has sound, so that one passes into the other. */
  readonly join: number
}

/**
 * Makes a stretch's voice of its recording's sound. Can be repeated, and writes the same bytes then.
 * @returns its outline for drawing
 */
export async function makeStretchVoice(order: StretchVoiceOrder): Promise<readonly number[]> {
  const reader = new SampleReader(voiceSamples(order))
  const file = await open(order.voice, 'w')
  const peaks: number[] = []
  try {
    const wanted = samplesOf(order.length)
    for (let made = 0; made < wanted;) {
      const block = await reader.read(Math.min(AT_ONCE, wanted - made))
      await file.writeFile(new Uint8Array(block.buffer))
      peaks.push(...peaksOf(block, SAMPLE_RATE))
      made += block.length
    }
  } finally {
    await reader.end()
    await file.close()
  }
  return peaks
}

/** Sound that is handled together, in samples: whole peaks, and little memory however long the stretch. */
const AT_ONCE = SAMPLE_RATE * 60

/** The samples of a stretch's voice; there may be more of them than it has, or fewer where its sound ends before it. */
function voiceSamples({ decoded, offset, drift, tail }: StretchVoiceOrder): AsyncIterable<Uint8Array> {
  const own = shiftedSamples(decoded, samplesOf(offset))
  if (Math.abs(drift) < NO_DRIFT && tail === null) return own
  const graph =
    tail === null
      ? [chain(['0:a:0'], undrift(drift), ['voice'])]
      : [
          chain(['0:a:0'], [...undrift(drift), ...exactly(samplesOf(tail.join) + PASS)], ['own']),
          chain(['1:a:0'], after(tail), ['tail']),
          chain(['own', 'tail'], [filter('acrossfade', [], { ns: PASS, c1: 'tri', c2: 'tri' })], ['voice']),
        ]
  return outputOf(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...SAMPLES_IN,
      ...(tail === null ? [] : ['-f', 's16le', '-ar', String(tail.sampleRate), '-ac', '1', '-i', tail.path]),
      '-filter_complex',
      graphText(graph),
      '-map',
      '[voice]',
      ...SAMPLES_OUT,
    ],
    { input: own },
  )
}

/** Samples of a file from one of them on; before the first of them is silence. */
async function* shiftedSamples(path: string, first: number): AsyncGenerator<Uint8Array> {
  if (first < 0) yield new Uint8Array(-first * BYTES_A_SAMPLE)
  for await (const chunk of createReadStream(path, { start: Math.max(0, first) * BYTES_A_SAMPLE, highWaterMark: READ }))
    yield chunk as Buffer
}

/** So much of a file is read at a time, in bytes. */
const READ = 1_048_576

/** Samples in which a recording's own sound passes into what was kept beside it: both are the same, but for how they were packed. */
const PASS = 480

const exactly = (samples: number): readonly Filter[] => [
  filter('apad', [], { whole_len: samples }),
  filter('atrim', [], { end_sample: samples }),
]
/** Times from the first sample on. */
const FROM_FIRST = filter('asetpts', ['PTS-STARTPTS'])
const after = ({ at, join }: SoundTail): readonly Filter[] => [
  filter('aresample', [SAMPLE_RATE]),
  filter('atrim', [], { start_sample: samplesOf(Math.max(0, join - at)) }),
  FROM_FIRST,
]

/** Less drift than this is not heard of, as a part of the time. */
const NO_DRIFT = 0.000_004
/** What a second of sound is said to have of samples while drift is taken out of it, so that a step of drift is one part in a million. */
const FINE = 1_000_000

/** Plays sound as much faster as its microphone's clock ran fast: only the relation of both rates counts. */
const undrift = (drift: number): readonly Filter[] =>
  Math.abs(drift) < NO_DRIFT
    ? []
    : [filter('asetrate', [Math.round(FINE * (1 + drift))]), filter('aresample', [FINE]), filter('asetrate', [SAMPLE_RATE])]
