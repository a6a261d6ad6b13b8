import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { GOP_FRAMES } from '@core/plan'
import { run } from '@render/process'
import { codingOf, frameOffsets } from '.'
import { filtersText } from '@render/filters'
import { bandArgs, bandsOf, selectFrames, woven } from './bands'
import type { Band, MadeBand } from './bands'
import { checkBands } from './check-stream'
import { UnsupportedBitstream } from './h264-units'
import { headersAlike } from './headers-alike'

const SIZE = { width: 426, height: 480 }
const RATE = 30
const CODING = codingOf('mp4', 'good', { kind: 'free' })
/** More than a group, so that one begins within. */
const FRAMES = GOP_FRAMES + 25

let folder: string
let bands: readonly Band[]
let files: readonly { readonly band: Band; readonly out: string }[]
let streams: readonly MadeBand[]
const at = (name: string): string => join(folder, name)
const checked = async (out: string): Promise<boolean | undefined> =>
  (await checkBands([{ out, coding: CODING, size: SIZE, bands: files, frames: FRAMES }], { niceness: 0 }))[0]

/** Frames in which a line grows below what moves all the time. */
const GROWS = [50, 51, 52, 53, 54, 55, 130, 131]

/** Rows of a picture that stays, with something that moves in some of them and something that grows in others. */
async function encoded(band: Band, number: number): Promise<(typeof files)[number]> {
  const out = at(`${String(number)}.h264`)
  const rows = `crop=${String(SIZE.width)}:${String(band.height)}:0:${String(band.top)}`
  const line = GROWS.map(
    (frame, n) => `drawbox=x=${String(20 + n * 30)}:y=300:w=30:h=6:c=red:t=fill:enable='gte(n,${String(frame)})'`,
  ).join(',')
  const pps =
    `testsrc2=s=${String(SIZE.width)}x${String(SIZE.height)}:r=1:d=1,loop=loop=-1:size=1,setpts=N/30/TB,fps=30,` +
    `${line}[page];testsrc=s=64x64:r=30[face];[page][face]overlay=300:112,${rows},${filtersText([selectFrames(band)])}`
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    pps,
    '-frames:v',
    String(band.frames.length),
    ...bandArgs(band, CODING, RATE),
    '-f',
    'h264',
    '-y',
    out,
  ])
  return { band, out }
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-bands-'))
  bands =
    bandsOf(
      { x: 300, y: 112, width: 64, height: 64 },
      GROWS.map((frame) => ({ frame, box: { x: 20, y: 300, width: 300, height: 6 } })),
      FRAMES,
      SIZE,
    ) ?? []
  files = await Promise.all(bands.map(encoded))
  streams = await Promise.all(files.map(async ({ band, out }) => ({ band, stream: await readFile(out) })))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

describe('bands', () => {
  it("hold all of a picture's rows once, and every change in a frame that is encoded", () => {
    const box = fc.record({ x: fc.constant(0), y: fc.nat({ max: 1000 }), width: fc.constant(10), height: fc.integer({ min: 1, max: 300 }) })
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 1080 }),
        fc.option(box),
        fc.array(fc.record({ frame: fc.nat({ max: 299 }), box }), { maxLength: 5 }),
        (half, always, changes) => {
          const size = { width: 1920, height: half * 2 }
          const inside = (one: (typeof changes)[number]['box']): typeof one => ({
            ...one,
            y: Math.min(one.y, size.height - 2),
            height: Math.min(one.height, size.height - Math.min(one.y, size.height - 2)),
          })
          const [moving, changed] = [always === null ? null : inside(always), changes.map((one) => ({ ...one, box: inside(one.box) }))]
          const made = bandsOf(moving, changed, 300, size)
          if (made === null) return
          let next = 0
          for (const band of made) {
            expect(band.top).toBe(next)
            expect(band.top % 16).toBe(0)
            next += band.height
          }
          expect(next).toBe(size.height)
          const encodedAt = (y: number, frame: number): boolean => {
            const band = made.find(({ top, height }) => y >= top && y < top + height)
            return band?.frames.includes(band.still ? frame % GOP_FRAMES : frame) === true
          }
          for (const {
            frame,
            box: { y, height },
          } of changed)
            for (const row of [y, y + height - 1]) expect(encodedAt(row, frame)).toBe(true)
          if (moving !== null)
            for (const frame of [0, 133, 299])
              for (const row of [moving.y, moving.y + moving.height - 1]) expect(encodedAt(row, frame)).toBe(true)
        },
      ),
    )
  })

  it('are not cut where something grows across an edge, unless all of the picture changes', () => {
    const size = { width: 1280, height: 720 }
    const always = { x: 0, y: 0, width: 10, height: 200 }
    const movingRows = (y: number, height: number): number | undefined =>
      bandsOf(always, [{ frame: 40, box: { x: 0, y, width: 9, height } }], 240, size)?.[0]?.height
    expect(movingRows(500, 40)).toBe(256)
    expect(movingRows(150, 130)).toBe(336)
    expect(movingRows(265, 20)).toBe(336)
    expect(movingRows(0, 720)).toBe(256)
  })

  it('are not made where nearly all of the picture changes, or nothing', () => {
    expect(bandsOf({ x: 0, y: 10, width: 20, height: SIZE.height - 20 }, [], 100, SIZE)).toBeNull()
    expect(bandsOf(null, [], 100, SIZE)).toBeNull()
  })

  it('make up one stream that is in every pixel what each of them was', async () => {
    const when = (frames: number): string => (frames === FRAMES ? 'always' : 'at times')
    expect(bands.map(({ still, frames }) => (still ? 'still' : when(frames.length)))).toEqual(['still', 'always', 'at times', 'still'])
    const file = at('whole.h264')
    const whole = woven(streams, await headersAlike(SIZE, RATE, CODING), FRAMES)
    await writeFile(file, whole)
    expect(frameOffsets(whole).length).toBe(FRAMES)
    expect(await checked(file)).toBe(true)
    // It says of itself what any stream of that size says.
    const { stdout } = await run('ffprobe', [
      '-v',
      'error',
      '-count_packets',
      '-show_entries',
      'stream=width,height,profile,pix_fmt,color_space,nb_read_packets',
      '-of',
      'csv=p=0',
      file,
    ])
    expect(stdout.toString().trim()).toBe(`High,${String(SIZE.width)},${String(SIZE.height)},yuv420p,bt709,${String(FRAMES)}`)
    // Both groups can be begun at.
    const keys = (await run('ffprobe', ['-v', 'error', '-show_entries', 'packet=flags', '-of', 'csv=p=0', file])).stdout
      .toString()
      .split('\n')
      .flatMap((flags, n) => (flags.startsWith('K') ? [n] : []))
    expect(keys).toEqual([0, GOP_FRAMES])
  })

  it('are seen through when a band is not what the whole shows there', async () => {
    const [above, moving, ...below] = streams
    if (above === undefined || moving === undefined) throw new Error('several bands')
    const file = at('other.h264')
    // As many rows of another picture.
    await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      `color=c=teal:s=${String(SIZE.width)}x${String(moving.band.height)}:r=30`,
      '-frames:v',
      String(FRAMES),
      ...bandArgs(moving.band, CODING, RATE),
      '-f',
      'h264',
      '-y',
      at('teal.h264'),
    ])
    const teal = { ...moving, stream: await readFile(at('teal.h264')) }
    await writeFile(file, woven([above, teal, ...below], await headersAlike(SIZE, RATE, CODING), FRAMES))
    expect(await checked(file)).toBe(false)
  })

  it('are seen through when they cannot be decoded', async () => {
    const file = at('broken.h264')
    const whole = woven(streams, await headersAlike(SIZE, RATE, CODING), FRAMES)
    const offsets = frameOffsets(whole)
    // A frame in the middle is nothing but its beginning.
    const [from = 0, to] = [offsets[70], offsets[71]]
    await writeFile(file, Buffer.concat([whole.subarray(0, from + 24), Buffer.alloc(300, 0x55), whole.subarray(to)]))
    expect(await checked(file)).toBe(false)
  })

  it('are looked at several at a time, and it is seen which of them are not right', async () => {
    const whole = woven(streams, await headersAlike(SIZE, RATE, CODING), FRAMES)
    const offsets = frameOffsets(whole)
    const [from = 0, to] = [offsets[70], offsets[71]]
    const bytes = {
      right: whole,
      broken: Buffer.concat([whole.subarray(0, from + 24), Buffer.alloc(300, 0x55), whole.subarray(to)]),
      again: whole,
    }
    for (const [name, stream] of Object.entries(bytes)) await writeFile(at(`${name}.h264`), stream)
    const several = (names: readonly (keyof typeof bytes)[]) =>
      checkBands(
        names.map((name) => ({ out: at(`${name}.h264`), coding: CODING, size: SIZE, bands: files, frames: FRAMES })),
        { niceness: 0 },
      )
    expect(await several(['right', 'again'])).toEqual([true, true])
    expect(await several(['right', 'broken', 'again'])).toEqual([true, false, true])
  })

  it('are refused with too few frames, or groups that do not begin together', async () => {
    const like = await headersAlike(SIZE, RATE, CODING)
    const [above, moving, ...below] = streams
    if (above === undefined || moving === undefined) throw new Error('several bands')
    const offsets = frameOffsets(moving.stream)
    expect(() => woven([above, { ...moving, stream: moving.stream.subarray(0, offsets[100]) }, ...below], like, FRAMES)).toThrow(
      UnsupportedBitstream,
    )
    const late = Buffer.concat([
      moving.stream.subarray(0, offsets[100]),
      moving.stream.subarray(offsets[GOP_FRAMES]),
      moving.stream.subarray(offsets[1], offsets[21]),
    ])
    expect(() => woven([above, { ...moving, stream: late }, ...below], like, FRAMES)).toThrow(/where the others do not/)
  })
})
