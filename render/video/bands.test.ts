import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { GROUP } from '@core/plan'
import { run } from '@render/process'
import { codingOf, encoderArgs, frameOffsets } from '.'
import { bandsOf, woven } from './bands'
import type { Band } from './bands'
import { checkBands } from './check-stream'
import { SETTLED, emptyStream, lengthened, unchangedFrame } from './still-group'

const SIZE = { width: 426, height: 240 }
const RATE = 30
const CODING = codingOf('mp4', 'good', { kind: 'free' })
/** More than a group, so that one begins within. */
const FRAMES = GROUP + 25

let folder: string
let bands: readonly Band[]
let files: readonly { readonly band: Band, readonly out: string, readonly frames: number }[]
let streams: readonly { readonly band: Band, readonly stream: Buffer }[]
const at = (name: string): string => join(folder, name)
const order = (out: string) => ({ out, coding: CODING, size: SIZE, threads: 1, niceness: 0 })

/** Rows of a picture that stays, with something that moves in those that do not. */
async function encoded(band: Band, number: number): Promise<typeof files[number]> {
  const [frames, out] = [band.still ? SETTLED : FRAMES, at(`${String(number)}.h264`)]
  const still = `testsrc2=s=${String(SIZE.width)}x${String(SIZE.height)}:r=1:d=1,loop=loop=-1:size=1,setpts=N/30/TB,fps=30,crop=${String(SIZE.width)}:${String(band.height)}:0:${String(band.top)}`
  const moving = `${still}[page];testsrc=s=64x64:r=30[face];[page][face]overlay=300:${String(96 - band.top)}`
  await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', band.still ? still : moving, '-frames:v', String(frames), ...encoderArgs(CODING, RATE, 1), '-f', 'h264', '-y', out])
  return { band, out, frames }
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-bands-'))
  bands = bandsOf([{ x: 300, y: 96, width: 64, height: 64 }], SIZE) ?? []
  files = await Promise.all(bands.map(encoded))
  streams = await Promise.all(files.map(async ({ band, out }) => {
    const stream = await readFile(out)
    return { band, stream: band.still ? lengthened(stream, await unchangedFrame({ width: SIZE.width, height: band.height }, RATE, CODING), GROUP) : stream }
  }))
})
afterAll(async () => { await rm(folder, { recursive: true }) })

describe('bands', () => {
  it('hold all of a picture\'s rows once, those that change within a moving one, in whole blocks', () => {
    fc.assert(fc.property(fc.integer({ min: 30, max: 1080 }), fc.nat({ max: 1079 }), fc.integer({ min: 1, max: 400 }), (lines, y, height) => {
      const size = { width: 1920, height: lines * 2 }
      const box = { x: 0, y: Math.min(y, size.height - 1), width: 10, height }
      const made = bandsOf([box], size)
      if (made === null) return
      let next = 0
      for (const band of made) {
        expect(band.top).toBe(next)
        expect(band.top % 16).toBe(0)
        next += band.height
      }
      expect(next).toBe(size.height)
      const moving = made.filter(({ still }) => !still)
      expect(moving.length).toBe(1)
      expect(moving[0]?.top ?? Infinity).toBeLessThanOrEqual(box.y)
      expect((moving[0]?.top ?? 0) + (moving[0]?.height ?? 0)).toBeGreaterThanOrEqual(Math.min(size.height, box.y + box.height))
    }))
  })

  it('are not made where nearly all of the picture changes, or nothing', () => {
    expect(bandsOf([{ x: 0, y: 10, width: 20, height: 220 }], SIZE)).toBeNull()
    expect(bandsOf([{ x: 0, y: 0, width: 2, height: 2 }, { x: 0, y: 230, width: 2, height: 2 }], SIZE)).toBeNull()
    expect(bandsOf([], SIZE)).toBeNull()
  })

  it('make up one stream that is in every pixel what each of them was', async () => {
    expect(bands.map(({ still }) => still)).toEqual([true, false, true])
    const file = at('whole.h264')
    const whole = woven(streams, await emptyStream(SIZE, RATE, CODING), FRAMES)
    await writeFile(file, whole)
    expect(frameOffsets(whole).length).toBe(FRAMES)
    expect(await checkBands(order(file), files, FRAMES)).toBe(true)
    // It says of itself what any stream of that size says.
    const { stdout } = await run('ffprobe', ['-v', 'error', '-count_packets', '-show_entries', 'stream=width,height,profile,pix_fmt,color_space,nb_read_packets', '-of', 'csv=p=0', file])
    expect(stdout.toString().trim()).toBe(`High,${String(SIZE.width)},${String(SIZE.height)},yuv420p,bt709,${String(FRAMES)}`)
    // Both groups can be begun at.
    const keys = (await run('ffprobe', ['-v', 'error', '-show_entries', 'packet=flags', '-of', 'csv=p=0', file])).stdout.toString().split('\n').flatMap((flags, n) => (flags.startsWith('K') ? [n] : []))
    expect(keys).toEqual([0, GROUP])
  })

  it('are seen through when a band is not what the whole shows there', async () => {
    const [above, moving, below] = streams
    if (above === undefined || moving === undefined || below === undefined) throw new Error('three bands')
    const file = at('other.h264')
    // As many rows of another picture.
    await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', `color=c=teal:s=${String(SIZE.width)}x${String(moving.band.height)}:r=30`, '-frames:v', String(FRAMES), ...encoderArgs(CODING, RATE, 1), '-f', 'h264', '-y', at('teal.h264')])
    const teal = { band: moving.band, stream: await readFile(at('teal.h264')) }
    await writeFile(file, woven([above, teal, below], await emptyStream(SIZE, RATE, CODING), FRAMES))
    expect(await checkBands(order(file), files, FRAMES)).toBe(false)
  })

  it('are refused with too few frames, or groups that do not begin together', async () => {
    const like = await emptyStream(SIZE, RATE, CODING)
    expect(() => woven(streams, like, FRAMES + 1)).toThrow(/frames of/)
    const [above, moving, below] = streams
    if (above === undefined || moving === undefined || below === undefined) throw new Error('three bands')
    const offsets = frameOffsets(moving.stream)
    const late = Buffer.concat([moving.stream.subarray(0, offsets[100]), moving.stream.subarray(offsets[GROUP]), moving.stream.subarray(offsets[1], offsets[21])])
    expect(() => woven([above, { ...moving, stream: late }, below], like, FRAMES)).toThrow(/where the others do not/)
  })
})
