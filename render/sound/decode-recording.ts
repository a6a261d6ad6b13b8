import { open } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import type { Readable } from 'node:stream'
import { LoudnessMeter } from '@core/voice'
import { filter, filtersText } from '@render/filters'
import { PictureWatch } from '@render/probe'
import type { PicturesSeen } from '@render/probe'
import { RECORDING, outputOf } from '@render/process'
import { BYTES_A_SAMPLE, DECODE, SAMPLES_OUT, SAMPLE_RATE } from './pcm'
import { SampleReader } from './sample-reader'

/** Samples that are handed on together. */
const BLOCK = SAMPLE_RATE

/** What was found in a recording while its sound was decoded. */
export interface DecodedRecording {
  readonly samples: number
  /** LUFS; null when it is too quiet to be judged. */
  readonly loudness: number | null
  /** When its pictures come; null when it has none, or they were not asked for. */
  readonly pictures: PicturesSeen | null
}

/** Another output: when the pictures come, a line each in ms (Matroska's time stamps, version 2). */
const TIMES_OF_PICTURES: readonly string[] = ['-map', '0:v:0', '-c', 'copy', '-f', 'mkvtimestamp_v2', 'pipe:3']

/** Hears of each picture as its line comes. */
async function watchPictures(lines: Readable, watch: PictureWatch): Promise<void> {
  for await (const line of createInterface({ input: lines })) {
    const at = Number(line)
    if (line !== '' && Number.isFinite(at)) watch.take(at)
  }
}

export interface DecodeOptions {
  /** After which decoding is given up, in ms; left out: as for a recording that is there as a whole. */
  readonly time?: number
  /** Whether there are pictures in it, of which it is to be said when they come. */
  readonly pictured: boolean
}

/** A recording that is there as a whole, or whose bytes come one after the other, perhaps only as it is made. */
export type RecordingSource = { readonly path: string } | { readonly bytes: AsyncIterable<Uint8Array> }

/**
 * Decodes a recording's sound in the recording's own time: gaps in it are kept as silence. The same comes out whether it is read from a
 * file or as it comes.
 * @param out is filled with samples as a voice is kept: 48 kHz, mono, 16 bits
 * @throws ProcessFailed when there is no sound in it that can be decoded, or no pictures that were said to be there, and whatever reading
 * the bytes throws
 */
export async function decodeRecording(source: RecordingSource, out: string, { time, pictured }: DecodeOptions): Promise<DecodedRecording> {
  const watch = new PictureWatch()
  let watched: Promise<void> = Promise.resolve()
  const onThird = (lines: Readable): void => {
    watched = watchPictures(lines, watch)
  }
  const decoded = outputOf(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...RECORDING,
      '-i',
      'path' in source ? source.path : 'pipe:0',
      '-map',
      '0:a:0',
      '-af',
      filtersText([...DECODE, filter('aformat', [], { channel_layouts: 'mono' })]),
      ...SAMPLES_OUT,
      ...(pictured ? TIMES_OF_PICTURES : []),
    ],
    {
      ...(pictured ? { onThird } : {}),
      ...('bytes' in source ? { input: source.bytes } : {}),
      ...(time === undefined ? {} : { hold: { time } }),
    },
  )
  const meter = new LoudnessMeter()
  const reader = new SampleReader(decoded)
  const file = await open(out, 'w')
  let samples = 0
  try {
    for (let block = await reader.next(BLOCK); block.length > 0; block = await reader.next(BLOCK)) {
      meter.take(block)
      await file.writeFile(new Uint8Array(block.buffer, block.byteOffset, block.length * BYTES_A_SAMPLE))
      samples += block.length
    }
  } finally {
    await reader.end()
    await file.close()
  }
  await watched
  return { samples, loudness: meter.integrated, pictures: watch.seen }
}
