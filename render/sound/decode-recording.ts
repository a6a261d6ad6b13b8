import { open } from 'node:fs/promises'
import { LoudnessMeter } from '@core/voice'
import { filter, filtersText } from '@render/filters'
import { RECORDING, outputOf } from '@render/process'
import { BYTES_A_SAMPLE, DECODE, SAMPLE_RATE } from './pcm'
import { SampleReader } from './sample-reader'

/** Samples that are handed on together. */
const BLOCK = SAMPLE_RATE

/** What a recording's sound holds. */
export interface DecodedSound {
  readonly samples: number
  /** LUFS; null when it is too quiet to be judged. */
  readonly loudness: number | null
}

/** A recording that is there as a whole, or whose bytes come one after the other, perhaps only as it is made. */
export type RecordingSource = { readonly path: string } | { readonly bytes: AsyncIterable<Uint8Array> }

/**
 * Decodes a recording's sound in the recording's own time: gaps in it are kept as silence. The same comes out whether it is read from a
 * file or as it comes.
 * @param out is filled with samples as a voice is kept: 48 kHz, mono, 16 bits
 * @param time after which decoding is given up, in ms; left out: as for a recording that is there as a whole
 * @throws ProcessFailed when there is no sound in it that can be decoded, and whatever reading the bytes throws
 */
export async function decodeRecording(source: RecordingSource, out: string, time?: number): Promise<DecodedSound> {
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
      '-ac',
      '1',
      '-ar',
      String(SAMPLE_RATE),
      '-f',
      's16le',
      'pipe:1',
    ],
    { ...('bytes' in source ? { input: source.bytes } : {}), ...(time === undefined ? {} : { hold: { time } }) },
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
  return { samples, loudness: meter.integrated }
}
