import { run } from '@render/process'
import type { Ms } from '@core/model'

const RATE = 48_000
/** A click holds every pitch, a voice and a room hardly any of these. */
const CLICK = 'highpass=f=4000,highpass=f=4000'
const SMALL = { width: 64, height: 36 }

/** When a file's sound clicks, in ms: where it is first loud after having been quiet. @param apart least time between two clicks */
export async function clicksOf(file: string, apart: Ms = 1000): Promise<readonly number[]> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-af',
    CLICK,
    '-ac',
    '1',
    '-ar',
    String(RATE),
    '-f',
    's16le',
    'pipe:1',
  ])
  const samples = new Int16Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
  const loud = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0) * 0.4
  const clicks: number[] = []
  let last = -Infinity
  for (const [n, sample] of samples.entries()) {
    if (Math.abs(sample) < loud) continue
    const at = (n / RATE) * 1000
    if (at - last > apart) clicks.push(at)
    last = at
  }
  return clicks
}

/**
 * When a file's picture turns bright or dark, in ms: the first frame of each.
 * @param part of the picture that is looked at, in fractions
 */
export async function turnsOf(
  file: string,
  frameRate: number,
  part = { x: 0, y: 0, width: 1, height: 1 },
): Promise<readonly { readonly at: number; readonly bright: boolean }[]> {
  const crop = `crop=iw*${String(part.width)}:ih*${String(part.height)}:iw*${String(part.x)}:ih*${String(part.y)}`
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-vf',
    `${crop},scale=${String(SMALL.width)}:${String(SMALL.height)},format=gray`,
    '-f',
    'rawvideo',
    'pipe:1',
  ])
  const pixels = SMALL.width * SMALL.height
  const means = Array.from(
    { length: Math.floor(stdout.length / pixels) },
    (_, n) => stdout.subarray(n * pixels, (n + 1) * pixels).reduce((sum, value) => sum + value, 0) / pixels,
  )
  const middle = (Math.min(...means) + Math.max(...means)) / 2
  return means.flatMap((mean, n) => {
    const before = means[n - 1]
    return before !== undefined && mean > middle !== before > middle ? [{ at: (n * 1000) / frameRate, bright: mean > middle }] : []
  })
}
