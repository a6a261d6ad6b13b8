import { open, readFile, stat } from 'node:fs/promises'
import { peaksOf } from '@core/voice'
import { chain, filter, graphText } from '@render/filters'
import type { Filter } from '@render/filters'
import { RECORDING, run } from '@render/process'
import { BYTES_A_SAMPLE, DECODE, SAMPLE_RATE, samplesOf } from './pcm'

export interface CloseOrder {
  /** The chunks one after the other, as they came. */
  readonly raw: string
  /** Where the recording with an index, in the stretch's own time, is written. */
  readonly recording: string
  /** Where the voice is written. */
  readonly voice: string
  /** ms */
  readonly length: number
  /** Into the raw file at which the stretch's time begins. */
  readonly offsets: { readonly picture: number; readonly sound: number }
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

const seconds = (ms: number): string => (ms / 1000).toFixed(4)

/**
 * Finishes a stretch: its recording gets an index and its own time, its voice is decoded once for all. Can be repeated, and writes the
 * same bytes then.
 * @returns the voice's outline for drawing
 */
export async function closeStretch(order: CloseOrder): Promise<readonly number[]> {
  const quiet = ['-hide_banner', '-loglevel', 'error', '-nostats', ...RECORDING]
  const remuxed = run('ffmpeg', [
    // Pictures were found by their own times in the file, wherever that begins.
    ...quiet,
    '-seek_timestamp',
    '1',
    '-itsoffset',
    seconds(-order.offsets.picture),
    '-i',
    order.raw,
    ...RECORDING,
    '-itsoffset',
    seconds(-order.offsets.sound),
    '-i',
    order.raw,
    '-map',
    '0:v?',
    '-map',
    '1:a?',
    '-c',
    'copy',
    ...FROM_ZERO,
    '-f',
    'webm',
    '-cues_to_front',
    '1',
    '-fflags',
    '+bitexact',
    '-y',
    order.recording,
  ])
  const samples = samplesOf(order.length)
  const sound = [...DECODE, ...shift(order.offsets.sound), ...undrift(order.drift), filter('aformat', [], { channel_layouts: 'mono' })]
  const { tail } = order
  const decoded = run('ffmpeg', [
    ...quiet,
    '-i',
    order.raw,
    ...(tail === null ? [] : ['-f', 's16le', '-ar', String(tail.sampleRate), '-ac', '1', '-i', tail.path]),
    '-filter_complex',
    graphText(
      tail === null
        ? [chain(['0:a:0'], [...sound, ...exactly(samples)], ['voice'])]
        : [
            chain(['0:a:0'], [...sound, ...exactly(samplesOf(tail.join) + PASS)], ['own']),
            chain(['1:a:0'], after(tail), ['tail']),
            chain(['own', 'tail'], [filter('acrossfade', [], { ns: PASS, c1: 'tri', c2: 'tri' }), ...exactly(samples)], ['voice']),
          ],
    ),
    '-map',
    '[voice]',
    '-ac',
    '1',
    '-ar',
    String(SAMPLE_RATE),
    '-f',
    's16le',
    '-y',
    order.voice,
  ])
  // Neither waits for the other: one reads and writes, the other computes. What one leaves of itself is awaited before its failure is told.
  await Promise.allSettled([remuxed, decoded])
  await Promise.all([remuxed, decoded])
  const { size } = await stat(order.voice)
  if (size !== samples * BYTES_A_SAMPLE)
    throw new Error(`the voice has ${String(size)} bytes instead of ${String(samples * BYTES_A_SAMPLE)}`)
  return await peaksOfFile(order.voice)
}

/** Sound that is looked at together, in samples: whole peaks, and little memory however long the file. */
const AT_ONCE = SAMPLE_RATE * 60

async function peaksOfFile(path: string): Promise<readonly number[]> {
  const peaks: number[] = []
  const file = await open(path)
  try {
    const buffer = Buffer.alloc(AT_ONCE * BYTES_A_SAMPLE)
    for (;;) {
      const { bytesRead } = await file.read(buffer, 0, buffer.length)
      if (bytesRead === 0) return peaks
      peaks.push(...peaksOf(new Int16Array(buffer.buffer, buffer.byteOffset, bytesRead / BYTES_A_SAMPLE), SAMPLE_RATE))
    }
  } finally {
    await file.close()
  }
}

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

/**
 * What lies before the stretch's beginning is packed into its first moments, a packet a ms: pictures cannot be read without the
 * whole one that they begin with, and no file has times below zero.
 */
const FROM_ZERO: readonly string[] = ['-copypriorss', '1', '-bsf:v', 'setts=ts=max(TS\\,N)', '-bsf:a', 'setts=ts=max(TS\\,N)']

/** Moves sound so that what stands at `offset` ms comes to stand at zero. */
function shift(offset: number): readonly Filter[] {
  if (offset > 0) return [filter('atrim', [], { start_sample: samplesOf(offset) }), FROM_FIRST]
  return offset < 0 ? [filter('adelay', [], { delays: Math.round(-offset), all: 1 })] : []
}

/** Rate at which drift is taken out: a step of it is 5 parts in a million. */
const FINE = 192_000
/** Less drift than this is not heard of, as a part of the time. */
const NO_DRIFT = 0.000_004

/** Plays sound as much faster as its microphone's clock ran fast, and back at the usual rate. */
const undrift = (drift: number): readonly Filter[] =>
  Math.abs(drift) < NO_DRIFT
    ? []
    : [filter('aresample', [FINE]), filter('asetrate', [Math.round(FINE * (1 + drift))]), filter('aresample', [SAMPLE_RATE])]

/** Puts files one after the other. */
export async function concatenate(files: readonly string[], out: string): Promise<void> {
  const target = await open(out, 'w')
  try {
    for (const file of files) await target.writeFile(await readFile(file))
  } finally {
    await target.close()
  }
}
