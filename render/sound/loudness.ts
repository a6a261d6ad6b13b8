import { run, start, feed } from '@render/process'
import { SAMPLE_RATE } from './pcm'

export interface Loudness {
  /** Integrated, in LUFS (ITU-R BS.1770-4); null when it is too quiet to be gated. */
  readonly integrated: number | null
  /** dBTP, or dBFS of the samples; null for digital silence. */
  readonly truePeak: number | null
}

const METER = 'ebur128=framelog=verbose:peak='

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

const meterOutput = (peak: 'true' | 'sample'): readonly string[] => ['-filter_complex', `[0:a]${METER}${peak}`, '-f', 'null', '-']

/** Measures samples as they come. The peak is that of the samples themselves, which costs a third of the true one. */
export async function measureSamples(blocks: AsyncIterable<Int16Array>): Promise<Loudness> {
  const { child, done } = start('ffmpeg', ['-hide_banner', '-nostats', '-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', 'pipe:0', ...meterOutput('sample')])
  for await (const block of blocks) await feed(child, Buffer.from(block.buffer, block.byteOffset, block.byteLength))
  child.stdin?.end()
  return readMeter((await done).stderr)
}

/** Measures a voice as it is kept: bare samples. */
export async function measureVoice(path: string): Promise<Loudness> {
  const { stderr } = await run('ffmpeg', [
    '-hide_banner', '-nostats', '-protocol_whitelist', 'file,pipe', '-f', 's16le', '-ar', String(SAMPLE_RATE), '-ac', '1', '-i', path, ...meterOutput('sample'),
  ])
  return readMeter(stderr)
}

/** Measures a file of ours. */
export async function measureFile(path: string): Promise<Loudness> {
  const { stderr } = await run('ffmpeg', ['-hide_banner', '-nostats', '-protocol_whitelist', 'file,pipe', '-i', path, ...meterOutput('true')])
  return readMeter(stderr)
}
