import { LoudnessMeter } from '@core/voice'
import { chain, filter, graphText } from '@render/filters'
import { run } from '@render/process'
import { broughtInput } from './as-recorded'

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

/**
 * Decodes the first sound of an input and measures it, with peaks between samples.
 * @param time ms that it may take; left out: as long as usual
 */
async function measureInput(input: readonly string[], time?: number): Promise<Loudness> {
  const meter = graphText([chain(['0:a:0'], [filter('ebur128', [], { framelog: 'verbose', peak: true })], [])])
  // The report is of the level that inputs of others' are kept below.
  const args = [...input, '-hide_banner', '-nostats', '-loglevel', 'info', '-filter_complex', meter, '-f', 'null', '-']
  const { stderr } = await run('ffmpeg', args, time === undefined ? {} : { hold: { time } })
  return readMeter(stderr)
}

/** Measures a file of ours, with peaks between samples. */
export const measureFile = (path: string): Promise<Loudness> => measureInput(['-protocol_whitelist', 'file,pipe', '-i', path])

/**
 * Measures a film or a sound that somebody brought.
 * @param demuxer the one that may read it
 * @param time ms that it may take
 * @throws ProcessFailed when it cannot be decoded
 */
export const measureBrought = (path: string, demuxer: string, time: number): Promise<Loudness> =>
  measureInput(broughtInput(demuxer, path), time)
