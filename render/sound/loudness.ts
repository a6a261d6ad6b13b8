import { LoudnessMeter } from '@core/voice'
import { chain, filter, graphText } from '@render/filters'
import { run } from '@render/process'

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
