import { readFile } from 'node:fs/promises'
import type { Size } from '@core/model'
import { ProcessFailed, feed, run, start } from '@render/process'
import { chain, crop, graphText, split } from '@render/filters'
import type { Chain } from '@render/filters'
import { rowsToCompare, selectFrames } from './bands'
import type { Band } from './bands'
import { CODECS } from './codec'
import type { Coding } from './encoder'

/** What was made, and how it may be looked at. */
interface Made {
  readonly out: string
  readonly coding: Coding
  readonly size: Size
  readonly niceness: number
  readonly signal?: AbortSignal
}

const OPEN = ['-protocol_whitelist', 'file,pipe', '-f', 'h264'] as const

async function checkCount({ coding, out }: Pick<Made, 'coding' | 'out'>, frames: number): Promise<void> {
  const found = CODECS[coding.format].offsets(await readFile(out)).length
  if (found !== frames) throw new Error(`the encoder made ${String(found)} frames of ${String(frames)}`)
}

/** Smoothing block edges and turning coefficients into pixels are left out: they find no faults and take half of the time. */
const decodeOnly = (source: readonly string[]): readonly string[] => [
  '-hide_banner',
  '-loglevel',
  'error',
  '-xerror',
  '-threads',
  '1',
  '-skip_loop_filter',
  'all',
  '-skip_idct',
  'all',
  ...source,
  '-f',
  'null',
  '-',
]

/** Decodes what was made, once, and counts it. */
export async function checkStream(order: Made, frames: number): Promise<void> {
  await checkCount(order, frames)
  await run('ffmpeg', decodeOnly(['-protocol_whitelist', 'file,pipe', '-f', CODECS[order.coding.format].stream, '-i', order.out]), {
    signal: order.signal,
    niceness: order.niceness,
  })
}

/** Decodes an H.264 stream that is in memory. @throws ProcessFailed when it cannot be */
export async function checkDecodes(stream: Buffer, { niceness, signal }: Pick<Made, 'niceness' | 'signal'>): Promise<void> {
  const { child, done } = start('ffmpeg', decodeOnly(['-f', 'h264', '-i', 'pipe:0']), { niceness, signal })
  await feed(child, stream)
  child.stdin?.end()
  await done
}

/** A stream that was put together of bands, each of them with the file of its own. */
export interface Woven extends Pick<Made, 'out' | 'coding' | 'size'> {
  readonly bands: readonly { readonly band: Band; readonly out: string }[]
  readonly frames: number
}

/**
 * Decodes what was put together of bands, and each band in which something moves by itself, once, and counts and compares them: a block
 * that was predicted from what lies beyond its band looks otherwise in the whole than where it was encoded. Several are looked at in
 * one go, since starting a decoder takes longer than a short part.
 * @returns of each whether all of it can be decoded and every pixel is the same
 */
export async function checkBands(all: readonly Woven[], manner: Pick<Made, 'niceness' | 'signal'>): Promise<readonly boolean[]> {
  for (const woven of all) await checkCount(woven, woven.frames)
  const good = await compared(all, manner)
  if (good !== null) return good
  // One that cannot be decoded ends it all: which of them is it?
  return all.length === 1 ? [false] : (await Promise.all(all.map((one) => checkBands([one], manner)))).flat()
}

/** @returns null when something cannot be decoded */
async function compared(
  all: readonly Woven[],
  { niceness, signal }: Pick<Made, 'niceness' | 'signal'>,
): Promise<readonly boolean[] | null> {
  // Smoothing block edges takes half of the time. It is left out in both, and so shows nothing that is not there.
  const input = (file: string): readonly string[] => ['-threads', '1', '-skip_loop_filter', 'all', ...OPEN, '-i', file]
  const inputs: string[][] = []
  const graph: Chain[] = []
  const pairs: { readonly woven: Woven; readonly frames: number }[] = []
  for (const woven of all) {
    const { size, bands, out } = woven
    const whole = inputs.push([...input(out)]) - 1
    const parts: string[] = []
    // A picture that stands still is predicted from nothing.
    for (const { band, out } of bands.filter(({ band }) => !band.still)) {
      const own = inputs.push([...input(out)]) - 1
      for (const { top, height } of rowsToCompare(band, size.height)) {
        const n = String(pairs.push({ woven, frames: band.frames.length }) - 1)
        parts.push(`part${n}`)
        graph.push(
          chain([`part${n}`], [crop(size.width, height, 0, top), selectFrames(band)], [`whole${n}`]),
          chain([`${String(own)}:v`], [crop(size.width, height, 0, top - band.top)], [`own${n}`]),
        )
      }
    }
    graph.push(chain([`${String(whole)}:v`], [split(parts.length)], parts))
  }
  const decoded = await run(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-xerror',
      ...inputs.flat(),
      '-filter_complex_threads',
      '1',
      '-filter_complex',
      graphText(graph),
      ...pairs.flatMap((_, n) => ['-map', `[whole${String(n)}]`, '-map', `[own${String(n)}]`]),
      '-fps_mode',
      'passthrough',
      '-f',
      'framehash',
      '-hash',
      'murmur3',
      'pipe:1',
    ],
    { signal, niceness },
  ).catch((error: unknown) => {
    // One that was killed says nothing of what it decoded.
    if (error instanceof ProcessFailed && error.exitCode !== null) return null
    throw error
  })
  if (decoded === null) return null
  const seen = new Map<number, string[]>()
  for (const line of decoded.stdout.toString().split('\n')) {
    const [stream, , , , , hash] = line.split(',').map((word) => word.trim())
    if (hash === undefined || line.startsWith('#')) continue
    const hashes = seen.get(Number(stream)) ?? []
    hashes.push(hash)
    seen.set(Number(stream), hashes)
  }
  const same = pairs.map(({ frames }, n) => {
    const [there, here] = [seen.get(2 * n) ?? [], seen.get(2 * n + 1) ?? []]
    return there.length === frames && here.length === frames && there.every((hash, at) => hash === here[at])
  })
  return all.map((one) => pairs.every(({ woven }, n) => woven !== one || same[n] === true))
}
