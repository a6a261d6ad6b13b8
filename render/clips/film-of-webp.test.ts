import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { run } from '@render/process'
import { isAnimatedWebp, readAnimatedWebp } from './animated-webp'
import { filmOfWebp } from './film-of-webp'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-webp-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

const SIZE = { width: 64, height: 32 }

const chunk = (name: string, data: Buffer): Buffer => {
  const header = Buffer.alloc(8)
  header.write(name, 'latin1')
  header.writeUInt32LE(data.length, 4)
  return Buffer.concat([header, data, Buffer.alloc(data.length % 2)])
}

interface Part {
  readonly colour: string
  readonly x: number
  readonly width: number
  readonly ms: number
  readonly flags: number
}

/** An animation of coloured boxes, put together as the format says. */
async function animation(parts: readonly Part[]): Promise<Buffer> {
  const frames = await Promise.all(
    parts.map(async ({ colour, x, width, ms, flags }) => {
      const canvas = createCanvas(width, SIZE.height)
      const ctx = canvas.getContext('2d')
      ctx.fillStyle = colour
      ctx.fillRect(0, 0, width, SIZE.height)
      const still = await canvas.encode('webp', 100)
      const header = Buffer.alloc(16)
      header.writeUIntLE(x / 2, 0, 3)
      header.writeUIntLE(width - 1, 6, 3)
      header.writeUIntLE(SIZE.height - 1, 9, 3)
      header.writeUIntLE(ms, 12, 3)
      header[15] = flags
      // What the still picture has behind its own header: its pixels, and a transparency if there is one.
      const behind = still.subarray(12)
      const pixels = behind.toString('latin1', 0, 4) === 'VP8X' ? behind.subarray(18) : behind
      return chunk('ANMF', Buffer.concat([header, pixels]))
    }),
  )
  const extended = Buffer.alloc(10)
  extended[0] = 0x02 | 0x10
  extended.writeUIntLE(SIZE.width - 1, 4, 3)
  extended.writeUIntLE(SIZE.height - 1, 7, 3)
  return chunk('RIFF', Buffer.concat([Buffer.from('WEBP'), chunk('VP8X', extended), chunk('ANIM', Buffer.alloc(6)), ...frames]))
}

/** Colours in the left and the right half of pictures of a film, by their numbers. */
async function colours(film: string, numbers: readonly number[]): Promise<readonly (readonly string[])[]> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', film, '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'])
  const name = (at: number): string => {
    const [r = 0, g = 0, b = 0] = [...stdout.subarray(at, at + 3)].map((value) => (value > 128 ? 1 : 0))
    return ['black', 'blue', 'green', 'cyan', 'red', 'pink', 'yellow', 'white'][r * 4 + g * 2 + b] ?? ''
  }
  const frame = SIZE.width * SIZE.height * 3
  return numbers.map((n) => [10, 50].map((x) => name(n * frame + (16 * SIZE.width + x) * 3)))
}

describe('an animated WebP', () => {
  it('is a film of its frames, each as long as it says, laid, replaced and cleared as it says', async () => {
    const [path, out] = [join(folder, 'a.webp'), join(folder, 'a.mkv')]
    const file = await animation([
      { colour: '#ff0000', x: 0, width: 64, ms: 200, flags: 0 },
      { colour: '#0000ff', x: 32, width: 32, ms: 400, flags: 1 },
      { colour: '#00ff00', x: 0, width: 32, ms: 5, flags: 2 },
    ])
    await writeFile(path, file)
    expect(readAnimatedWebp(file)?.frames.map(({ x, size, length, blends, clears }) => [x, size.width, length, blends, clears])).toEqual([
      [0, 64, 200, true, false],
      [32, 32, 400, true, true],
      [0, 32, 100, false, false],
    ])
    await filmOfWebp(path, out)
    expect(await colours(out, [0, 9, 10, 29, 30, 34])).toEqual([
      ['red', 'red'],
      ['red', 'red'],
      ['red', 'blue'],
      ['red', 'blue'],
      ['green', 'white'],
      ['green', 'white'],
    ])
    const { stdout } = await run('ffprobe', [
      '-v',
      'error',
      '-count_packets',
      '-show_entries',
      'stream=nb_read_packets',
      '-of',
      'csv=p=0',
      out,
    ])
    expect(Number(stdout.toString())).toBe(35)
  })

  it('is told from a still one, and refused where there is nothing in it', async () => {
    const still = await createCanvas(8, 8).encode('webp')
    expect([isAnimatedWebp(still), isAnimatedWebp(await animation([])), isAnimatedWebp(Buffer.alloc(3))]).toEqual([false, true, false])
    const path = join(folder, 'none.webp')
    await writeFile(path, await animation([]))
    await expect(filmOfWebp(path, join(folder, 'none.mkv'))).rejects.toThrow(/cannot be read/)
    const whole = await animation([{ colour: '#ff0000', x: 0, width: 64, ms: 100, flags: 0 }])
    await writeFile(path, whole.subarray(0, whole.length - 20))
    await expect(filmOfWebp(path, join(folder, 'none.mkv'))).rejects.toThrow(/cannot be read/)
    expect((await readFile(path)).length).toBe(whole.length - 20)
  })
})
