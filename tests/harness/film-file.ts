import type { Ms } from '@core/model'
import { probe } from '@render/probe'
import { run } from '@render/process'

/** A frame of a video as RGB bytes, row by row. @param number counted from 0 @throws when the video has no such frame */
export async function frameOf(file: string, number: number): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-vf',
    `select=eq(n\\,${String(number)})`,
    '-frames:v',
    '1',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgb24',
    'pipe:1',
  ])
  if (stdout.length === 0) throw new Error(`${file} has no frame ${String(number)}`)
  return stdout
}

/** Mean colour of a part of a frame; the part in fractions of it. */
export function meanColour(frame: Buffer, width: number, part: { x: number; y: number; w: number; h: number }): [number, number, number] {
  const height = frame.length / 3 / width
  const sum: [number, number, number] = [0, 0, 0]
  let count = 0
  for (let y = Math.floor(part.y * height); y < Math.ceil((part.y + part.h) * height); y += 1) {
    for (let x = Math.floor(part.x * width); x < Math.ceil((part.x + part.w) * width); x += 1) {
      for (const channel of [0, 1, 2] as const) sum[channel] += frame[(y * width + x) * 3 + channel] ?? 0
      count += 1
    }
  }
  return [sum[0] / count, sum[1] / count, sum[2] / count]
}

/** Largest difference between two colours in any channel. */
export const colourGap = (a: readonly number[], b: readonly number[]): number =>
  Math.max(...a.map((value, n) => Math.abs(value - (b[n] ?? 0))))

/** Mean level of a file's sound in dBFS. */
export async function meanLevel(file: string): Promise<number> {
  const { stderr } = await run('ffmpeg', ['-hide_banner', '-nostats', '-i', file, '-af', 'volumedetect', '-f', 'null', '-'])
  return Number(/mean_volume: (-?[\d.]+) dB/.exec(stderr)?.[1] ?? -Infinity)
}

/** Whether every packet of a file can be decoded. */
export const decodesClean = async (file: string): Promise<boolean> =>
  (await run('ffmpeg', ['-v', 'error', '-xerror', '-i', file, '-f', 'null', '-'])).stderr === ''

/** Mean level of a part of a file's sound, in dBFS. @param hertz of a tone, to hear that alone */
export async function levelOf(file: string, from: Ms, length: Ms, hertz?: number): Promise<number> {
  const { stderr } = await run('ffmpeg', [
    '-hide_banner',
    '-nostats',
    '-ss',
    String(from / 1000),
    '-t',
    String(length / 1000),
    '-i',
    file,
    '-af',
    hertz === undefined ? 'volumedetect' : `bandpass=f=${String(hertz)}:width_type=h:w=30,volumedetect`,
    '-f',
    'null',
    '-',
  ])
  return Number(/mean_volume: (-?[\d.]+|-inf) dB/.exec(stderr)?.[1]?.replace('-inf', '-120') ?? 0)
}

/** For how long a file's sound is loud, in seconds. */
export async function heardFor(file: string): Promise<number> {
  const { stderr } = await run('ffmpeg', [
    '-hide_banner',
    '-nostats',
    '-i',
    file,
    '-af',
    'silencedetect=noise=-35dB:d=0.1',
    '-f',
    'null',
    '-',
  ])
  const silent = [...stderr.matchAll(/silence_duration: ([\d.]+)/g)].reduce((sum, [, length]) => sum + Number(length), 0)
  return Number((await probe(file)).format.duration) - silent
}
