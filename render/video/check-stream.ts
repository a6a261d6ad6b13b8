import { readFile } from 'node:fs/promises'
import type { Size } from '@core/model'
import { ProcessFailed, feed, run, start } from '@render/process'
import { rowsToCompare, selectFrames } from './bands'
import type { Band } from './bands'
import { CODECS } from './codec'
import type { Coding } from './encoder'

/** What was made, and how it may be looked at. */
interface Made {
  readonly out: string
  readonly coding: Coding
  readonly size: Size
  readonly threads: number
  readonly niceness: number
  readonly signal?: AbortSignal
}

const OPEN = ['-protocol_whitelist', 'file,pipe', '-f', 'h264'] as const

async function checkCount({ coding, out }: Made, frames: number): Promise<void> {
  const found = CODECS[coding.format].offsets(await readFile(out)).length
  if (found !== frames) throw new Error(`the encoder made ${String(found)} frames of ${String(frames)}`)
}

/** Smoothing block edges and turning coefficients into pixels are left out: they find no faults and take half of the time. */
const decodeOnly = (source: readonly string[]): readonly string[] =>
  ['-hide_banner', '-loglevel', 'error', '-xerror', '-threads', '1', '-skip_loop_filter', 'all', '-skip_idct', 'all', ...source, '-f', 'null', '-']

/** Decodes what was made, once, and counts it. */
export async function checkStream(order: Made, frames: number): Promise<void> {
  await checkCount(order, frames)
  await run('ffmpeg', decodeOnly(['-protocol_whitelist', 'file,pipe', '-f', CODECS[order.coding.format].stream, '-i', order.out]), { signal: order.signal, niceness: order.niceness })
}

/** Decodes an H.264 stream that is in memory. @throws ProcessFailed when it cannot be */
export async function checkDecodes(stream: Buffer, { niceness, signal }: Pick<Made, 'niceness' | 'signal'>): Promise<void> {
  const { child, done } = start('ffmpeg', decodeOnly(['-f', 'h264', '-i', 'pipe:0']), { niceness, signal })
  await feed(child, stream)
  child.stdin?.end()
  await done
}

/**
 * Decodes what was put together of bands, and each band in which something moves by itself, once, and counts and compares them: a block that was predicted from
 * what lies beyond its band looks otherwise in the whole than where it was encoded.
 * @returns whether all of it can be decoded and every pixel is the same
 */
export async function checkBands(order: Made, all: readonly { readonly band: Band, readonly out: string }[], frames: number): Promise<boolean> {
  await checkCount(order, frames)
  // A picture that stands still is predicted from nothing.
  const bands = all.filter(({ band }) => !band.still)
  // Smoothing block edges takes half of the time. It is left out in both, and so shows nothing that is not there.
  const decoder = ['-threads', String(order.threads), '-skip_loop_filter', 'all']
  const compared = bands.flatMap(({ band }, n) => rowsToCompare(band, order.size.height).map((rows) => ({ ...rows, band, input: n + 1 })))
  const crop = (height: number, top: number): string => `crop=${String(order.size.width)}:${String(height)}:0:${String(top)}`
  const names = (word: string): readonly string[] => compared.map((_, n) => `[${word}${String(n)}]`)
  const [parts, own, whole] = [names('part'), names('own'), names('whole')]
  const graph = compared.flatMap(({ top, height, band, input }, n) => [
    `${parts[n] ?? ''}${crop(height, top)},${selectFrames(band)}${whole[n] ?? ''}`, `[${String(input)}:v]${crop(height, top - band.top)}${own[n] ?? ''}`,
  ])
  const decoded = await run('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-xerror', ...decoder, ...OPEN, '-i', order.out, ...bands.flatMap(({ out }) => [...decoder, ...OPEN, '-i', out]),
    '-filter_complex_threads', '1', '-filter_complex', `[0:v]split=${String(compared.length)}${parts.join('')};${graph.join(';')}`,
    ...compared.flatMap((_, n) => ['-map', whole[n] ?? '', '-map', own[n] ?? '']),
    '-fps_mode', 'passthrough', '-f', 'framehash', '-hash', 'murmur3', 'pipe:1',
  ], { signal: order.signal, niceness: order.niceness }).catch((error: unknown) => {
    // One that was killed says nothing of what it decoded.
    if (error instanceof ProcessFailed && error.exitCode !== null) return null
    throw error
  })
  if (decoded === null) return false
  const seen = new Map<number, string[]>()
  for (const line of decoded.stdout.toString().split('\n')) {
    const [stream, , , , , hash] = line.split(',').map((word) => word.trim())
    if (hash === undefined || line.startsWith('#')) continue
    const number = Number(stream)
    const hashes = seen.get(number) ?? []
    hashes.push(hash)
    seen.set(number, hashes)
  }
  return compared.every(({ band }, n) => {
    const [there, here] = [seen.get(2 * n) ?? [], seen.get(2 * n + 1) ?? []]
    return there.length === band.frames.length && here.length === there.length && there.every((hash, at) => hash === here[at])
  })
}
