import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { GOP_FRAMES } from '@core/plan'
import type { Scene } from '@core/scene'
import type { Size } from '@core/model'
import { run, start } from '@render/process'
import { areEncodedOnce, codingOf, encoderArgs, frameOffsets, makeStills } from '.'
import type { Coding } from './encoder'
import { headersAlike } from './headers-alike'
import { UNIT, slicesOf, withStartCode } from './h264-units'
import { unchangedSlice } from './unchanged-slice'

const SIZE = { width: 426, height: 240 }
const RATE = 30
const GOOD = codingOf('mp4', 'good', { kind: 'free' })
const CODINGS: Readonly<Record<string, Coding>> = {
  good: GOOD,
  fine: codingOf('mp4', 'fine', { kind: 'free' }),
  coarse: { format: 'mp4', crf: 36, most: null },
}
const SOURCES = ['testsrc2', 'testsrc', 'smptebars', 'rgbtestsrc'] as const

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-still-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

/** Pictures with much in them, as they come from a painter. */
async function picture(source: (typeof SOURCES)[number], { width, height }: Size): Promise<Buffer> {
  return (
    await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      `${source}=s=${String(width)}x${String(height)}:r=1:d=1`,
      '-frames:v',
      '1',
      '-pix_fmt',
      'yuv420p',
      '-f',
      'rawvideo',
      'pipe:1',
    ])
  ).stdout
}

/** Makes pictures still. @returns the group of each */
async function stills(sources: readonly (typeof SOURCES)[number][], coding: Coding, frame: Size = SIZE): Promise<readonly Buffer[]> {
  const pictures = await Promise.all(sources.map((source) => picture(source, SIZE)))
  const painted = pictures.values()
  const parts = sources.map((source) => ({ scene: {} as Scene, out: join(folder, source) }))
  expect(
    await makeStills({ size: SIZE, frame, fps: RATE, coding, niceness: 0 }, parts, {
      paint: () => Promise.resolve(painted.next().value ?? Buffer.alloc(0)),
    }),
  ).toBe(true)
  return await Promise.all(parts.map(({ out }) => readFile(out)))
}

/** What each frame of a stream looks like, as names that are equal for equal pictures; and what the decoder complained of. */
async function looks(stream: Buffer): Promise<{ readonly frames: readonly string[]; readonly complaints: string }> {
  const { child, done } = start('ffmpeg', [
    '-v',
    'warning',
    '-xerror',
    '-f',
    'h264',
    '-i',
    'pipe:0',
    '-fps_mode',
    'passthrough',
    '-f',
    'framemd5',
    'pipe:1',
  ])
  child.stdin?.end(stream)
  const { stdout, stderr } = await done
  return {
    frames: stdout
      .toString()
      .split('\n')
      .filter((line) => line !== '' && !line.startsWith('#'))
      .map((line) => line.split(',').at(-1)?.trim() ?? ''),
    complaints: stderr,
  }
}

/** How alike the first frame of a stream and a picture are, from 0 to 1. */
async function alike(stream: Buffer, source: (typeof SOURCES)[number], { width, height }: Size): Promise<number> {
  const { child, done } = start('ffmpeg', [
    '-v',
    'info',
    '-nostats',
    '-f',
    'h264',
    '-i',
    'pipe:0',
    '-f',
    'lavfi',
    '-i',
    `${source}=s=${String(width)}x${String(height)}:r=1:d=1,format=yuv420p`,
    '-frames:v',
    '1',
    '-lavfi',
    '[0:v][1:v]ssim',
    '-f',
    'null',
    '-',
  ])
  child.stdin?.end(stream)
  return Number(/All:([\d.]+)/.exec((await done).stderr)?.[1])
}

describe('a still picture', () => {
  it.each(Object.entries(CODINGS))(
    'is a group that stays exactly as it is, and costs next to nothing after its first frame (%s)',
    async (_, coding) => {
      const [group] = await stills(['testsrc2'], coding)
      if (group === undefined) throw new Error('a group')
      const { frames, complaints } = await looks(group)
      expect([frames.length, new Set(frames).size, complaints]).toEqual([GOP_FRAMES, 1, ''])
      const offsets = frameOffsets(group)
      expect((group.length - (offsets[1] ?? 0)) / (GOP_FRAMES - 1)).toBeLessThan(40)
      expect(await alike(group, 'testsrc2', SIZE)).toBeGreaterThan(coding.crf > 30 ? 0.95 : 0.99)
    },
  )

  it('is the same picture, and as long, whatever others are made with it', async () => {
    const together = await stills(SOURCES, GOOD)
    for (const [n, source] of SOURCES.entries()) {
      const [alone = Buffer.alloc(0)] = await stills([source], GOOD)
      expect(alone.length).toBe(together[n]?.length)
      expect((await looks(alone)).frames).toEqual((await looks(together[n] ?? Buffer.alloc(0))).frames)
    }
  })

  it('can be followed by others, of which nothing is lost', async () => {
    const groups = await stills(['testsrc', 'smptebars'], GOOD)
    const { frames, complaints } = await looks(Buffer.concat([...groups, ...groups]))
    expect([frames.length, new Set(frames).size, complaints]).toEqual([4 * GOP_FRAMES, 2, ''])
    expect(new Set(frames.slice(GOP_FRAMES, 2 * GOP_FRAMES)).size).toBe(1)
    expect(frames.slice(0, GOP_FRAMES)).toEqual(frames.slice(2 * GOP_FRAMES, 3 * GOP_FRAMES))
  })

  it('has bars beside it in a picture of another shape', async () => {
    const [group = Buffer.alloc(0)] = await stills(['smptebars'], GOOD, { width: 640, height: 240 })
    const { frames, complaints } = await looks(group)
    expect([frames.length, complaints]).toEqual([GOP_FRAMES, ''])
    const file = join(folder, 'smptebars')
    const probed = await run('ffprobe', ['-v', 'error', '-show_entries', 'stream=width,height', '-of', 'csv=p=0', file])
    expect(probed.stdout.toString().trim()).toBe('640,240')
  })

  it('is spread over its time where a rate bounds it', () => {
    expect(
      [GOOD, codingOf('mp4', 'good', { kind: 'rate', most: 800 }), codingOf('webm', 'good', { kind: 'free' })].map(areEncodedOnce),
    ).toEqual([true, false, false])
  })
})

describe('a slice in which nothing changes', () => {
  it.each([
    [16, 16],
    [426, 240],
    [1280, 720],
    [1920, 1080],
    [3840, 2160],
  ])('leaves a picture of %i by %i as it was', async (width, height) => {
    const size = { width, height }
    const headers = await headersAlike(size, RATE, GOOD)
    const { child, done } = start('ffmpeg', [
      '-v',
      'error',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-s',
      `${String(width)}x${String(height)}`,
      '-r',
      String(RATE),
      '-i',
      'pipe:0',
      ...encoderArgs(GOOD, RATE, 1),
      '-f',
      'h264',
      'pipe:1',
    ])
    child.stdin?.end(await picture('testsrc2', size))
    const { stdout: first } = await done
    expect(slicesOf(first).map(({ type }) => type)).toEqual([UNIT.idrSlice])
    const more = [1, 2, 3].map((frame) =>
      withStartCode(unchangedSlice(headers, { macroblock: 0, frame }, headers.mbWidth * headers.mbHeight)),
    )
    const { frames, complaints } = await looks(Buffer.concat([first, ...more]))
    expect([frames.length, new Set(frames).size, complaints]).toEqual([4, 1, ''])
  })
})
