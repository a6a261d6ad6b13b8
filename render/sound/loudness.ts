import { createReadStream } from 'node:fs'
import { LoudnessMeter } from '@core/voice'
import { chain, filter, graphText } from '@render/filters'
import { run } from '@render/process'
import { BYTES_A_SAMPLE } from './pcm'

export interface Loudness {
  /** Integrated, in LUFS (ITU-R BS.1770-4); null when it is too quiet to be gated. */
  readonly integrated: number | null
  /** dBTP, or dBFS of the samples; null for digital silence. */
  readonly truePeak: number | null
}

function readMeter(report: string): Loudness {
  const summary = report.slice(report.lastIndexOf('Summary:'))
  const figure = (pattern: RegExp): number | null => {
    const value = Number(pattern.exec(summary)?.[1])
    return Number.isFinite(value) ? value : null
  }
  const integrated = figure(/I:\s+(-?[\d.]+|-inf) LUFS/)
  // The meter reports its gate, -70, when nothing passed it.
  return { integrated: integrated !== null && integrated > -69 ? integrated : null, truePeak: figure(/Peak:\s+(-?[\d.]+|-inf) dBFS/) }
}

/** Measures samples as they come. The peak is that of the samples themselves. */
export async function measureSamples(blocks: AsyncIterable<Int16Array>): Promise<Loudness> {
  const meter = new LoudnessMeter()
  for await (const block of blocks) meter.take(block)
  return { integrated: meter.integrated, truePeak: meter.peak }
}

/** So much of a file is read at a time, in bytes: whole samples. */
const READ = 1_048_576

/** Measures a voice as it is kept: bare samples. */
export const measureVoice = (path: string): Promise<Loudness> => measureSamples(samplesIn(path))

async function* samplesIn(path: string): AsyncGenerator<Int16Array> {
  for await (const chunk of createReadStream(path, { highWaterMark: READ })) {
    // A copy, since samples begin at even places.
    const bytes = Uint8Array.from(chunk as Buffer)
    yield new Int16Array(bytes.buffer, 0, Math.floor(bytes.length / BYTES_A_SAMPLE))
  }
}

/** Measures a file of ours, with peaks between samples. */
export async function measureFile(path: string): Promise<Loudness> {
  const { stderr } = await run('ffmpeg', [
    '-hide_banner',
    '-nostats',
    '-protocol_whitelist',
    'file,pipe',
    '-i',
    path,
    '-filter_complex',
    graphText([chain(['0:a'], [filter('ebur128', [], { framelog: 'verbose', peak: true })], [])]),
    '-f',
    'null',
    '-',
  ])
  return readMeter(stderr)
}
