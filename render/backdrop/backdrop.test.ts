import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Colour } from '@core/camera'
import type { NewBackdrop, Size } from '@core/model'
import { probe } from '@render/probe'
import type { CameraFile } from '@render/video'
import { colourGap, frameOf, meanColour } from '../../tests/harness/film-file'
import { filmLively, speakerAt } from '../../tests/harness/lively-camera'
import { backdropStill, cameraJpeg, findOutline, makeBackdropFilm, outlineBox } from '.'

const SIZE: Size = { width: 640, height: 360 }
const apart = { time: 60_000, programs: null, home: process.cwd() }
const PINE: NewBackdrop = { kind: 'plain', colour: '#24413B', finder: 'outline' }
let folder: string
const at = (name: string): string => join(folder, name)
const cameraAt = (name: string): CameraFile => ({
  kind: 'recording',
  path: at(name),
  size: SIZE,
  colours: { range: 'limited', matrix: 'bt601' },
})
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-behind-'))
  await filmLively(at('lively.webm'), SIZE, 1500, 'lively')
  await filmLively(at('cloth.webm'), SIZE, 1500, 'cloth')
  await findOutline({ camera: cameraAt('lively.webm'), part: 0, out: at('outline.h264'), apart })
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

async function made(backdrop: NewBackdrop, cloth: Colour | null, name: string): Promise<string> {
  const camera = cameraAt(cloth === null ? 'lively.webm' : 'cloth.webm')
  const outlines = cloth === null ? at('outline.h264') : null
  await makeBackdropFilm({ camera, backdrop, outlines, picture: null, cloth, out: at(name), time: 60_000 })
  return at(name)
}

/** How much of a frame is told rightly, by whether it has the colour that is behind. */
function toldIn(frame: Buffer, number: number, colour: readonly number[]): number {
  const truth = speakerAt(SIZE, (number * 1000) / 30)
  let right = 0
  for (const [n, covered] of truth.entries()) {
    const gap = Math.max(...colour.map((value, channel) => Math.abs((frame[n * 3 + channel] ?? 0) - value)))
    if (gap < 24 !== covered >= 128) right += 1
  }
  return right / truth.length
}

describe('a camera with another backdrop', () => {
  it('shows who is before it, and the colour wherever the lively room was', async () => {
    const film = await made(PINE, null, 'pine.mp4')
    for (const number of [0, 20, 40]) expect(toldIn(await frameOf(film, number), number, [0x24, 0x41, 0x3b])).toBeGreaterThan(0.95)
  })

  it('is as long as the recording, as large, and in its time', async () => {
    const film = await made(PINE, null, 'as-long.mp4')
    const { streams, format } = await probe(film)
    expect(streams.map(({ codec_type, width, height }) => [codec_type, width, height])).toEqual([['video', 640, 360]])
    expect(Math.abs(Number(format.duration) - 1.5)).toBeLessThan(0.04)
    // Its mouth is open as far as in the recording at the same time: 24 frames in it is another than 2 frames later.
    const mouth = { x: 0.47, y: 0.55, w: 0.06, h: 0.1 }
    const [own, recorded] = [await frameOf(film, 24), await frameOf(at('lively.webm'), 24)]
    expect(colourGap(meanColour(own, 640, mouth), meanColour(recorded, 640, mouth))).toBeLessThan(6)
  })

  it('is told by a cloth as well, sharper', async () => {
    const film = await made({ ...PINE, finder: 'cloth' }, [0x2f, 0xa8, 0x4f], 'cloth.mp4')
    expect(toldIn(await frameOf(film, 20), 20, [0x24, 0x41, 0x3b])).toBeGreaterThan(0.985)
  })

  it('keeps the room, out of focus, without a rim of the presenter’s colours', async () => {
    const film = await made({ kind: 'soft', finder: 'outline' }, null, 'soft.mp4')
    const [soft, sharp] = [await frameOf(film, 30), await frameOf(at('lively.webm'), 30)]
    const corner = { x: 0.02, y: 0.6, w: 0.2, h: 0.3 }
    expect(colourGap(meanColour(soft, 640, corner), meanColour(sharp, 640, corner))).toBeLessThan(4)
    // Books on the shelf have edges in the one and none in the other.
    const edges = (frame: Buffer): number => {
      let sum = 0
      for (let x = 10; x < 200; x += 1)
        sum += Math.abs((frame[(40 * 640 + x) * 3] ?? 0) - (frame[(40 * 640 + x - 1) * 3] ?? 0)) > 24 ? 1 : 0
      return sum
    }
    expect(edges(sharp)).toBeGreaterThan(2)
    expect(edges(soft)).toBe(0)
  })

  it('is tried on one picture, with what would help', async () => {
    const jpeg = await cameraJpeg(cameraAt('lively.webm'), 500)
    const { picture, advice } = await backdropStill({ jpeg, backdrop: PINE, behind: null, apart })
    expect([...picture.subarray(0, 2), advice]).toEqual([0xff, 0xd8, []])
    await expect(backdropStill({ jpeg, backdrop: { ...PINE, finder: 'cloth' }, behind: null, apart })).rejects.toThrow(
      'No green or blue cloth',
    )
    await expect(backdropStill({ jpeg: Buffer.from('no picture'), backdrop: PINE, behind: null, apart })).rejects.toThrow('no picture')
  })
})

it('looks at cameras of any shape whole', () => {
  expect(outlineBox({ width: 1280, height: 720 })).toEqual({ x: 0, y: 0, width: 256, height: 144 })
  expect(outlineBox({ width: 640, height: 480 })).toEqual({ x: 32, y: 0, width: 192, height: 144 })
  expect(outlineBox({ width: 480, height: 640 })).toEqual({ x: 74, y: 0, width: 108, height: 144 })
})
