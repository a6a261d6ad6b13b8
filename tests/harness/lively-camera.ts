import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas, SKRSContext2D } from '@napi-rs/canvas'
import { paintPresenter } from '@core/practice'
import type { PaintContext } from '@core/paint'
import type { Size } from '@core/model'
import { run, runFed } from '@render/process'

/** What hangs behind the practice camera's speaker. */
export type Behind = 'lively' | 'cloth'

const CLOTH = '#2FA84F'
const COLOURS = ['#B8553F', '#E3C567', '#5C8AA8', '#8C6BB1', '#D9D2C0', '#44614B'] as const

/** A room in which much goes on: shelves, a curtain in the wind, people who pass, light that changes. @param at ms */
function paintLively(ctx: SKRSContext2D, { width, height }: Size, at: number): void {
  const unit = height / 100
  const light = 0.85 + 0.15 * Math.sin(at / 700)
  ctx.fillStyle = `rgb(${String(Math.round(190 * light))},${String(Math.round(176 * light))},${String(Math.round(150 * light))})`
  ctx.fillRect(0, 0, width, height)
  for (let n = 0; n < 24; n += 1) {
    ctx.fillStyle = COLOURS[n % COLOURS.length] ?? '#000000'
    ctx.fillRect(((n % 12) * width) / 12 + 2 * unit, (n < 12 ? 6 : 34) * unit, width / 16, (14 + ((n * 7) % 9)) * unit)
  }
  // A curtain.
  ctx.fillStyle = '#7FA3B5'
  ctx.beginPath()
  ctx.moveTo(width, 0)
  for (let y = 0; y <= 100; y += 5) ctx.lineTo(width - (16 + 5 * Math.sin(y / 14 + at / 400)) * unit, y * unit)
  ctx.lineTo(width, height)
  ctx.fill()
  // Somebody passes far behind, without a face.
  const x = ((at / 26) % 260) * unit - 40 * unit
  ctx.fillStyle = '#3B4A57'
  ctx.fillRect(x, 44 * unit, 9 * unit, 56 * unit)
}

function pictureOf(size: Size, at: number, behind: Behind): Canvas {
  const canvas = createCanvas(size.width, size.height)
  const ctx = canvas.getContext('2d')
  if (behind === 'lively') paintLively(ctx, size, at)
  else {
    ctx.fillStyle = CLOTH
    ctx.fillRect(0, 0, size.width, size.height)
  }
  const paint: PaintContext<Canvas> = ctx
  paintPresenter(paint, size, at, 0.5 + 0.5 * Math.sin(at / 90))
  return canvas
}

/** Where the speaker is at a time: how much of each pixel they cover, 0 to 255. */
export function speakerAt(size: Size, at: number): Uint8Array {
  const canvas = createCanvas(size.width, size.height)
  const paint: PaintContext<Canvas> = canvas.getContext('2d')
  paintPresenter(paint, size, at, 0.5 + 0.5 * Math.sin(at / 90))
  const { data } = canvas.getContext('2d').getImageData(0, 0, size.width, size.height)
  return Uint8Array.from({ length: size.width * size.height }, (_, n) => data[n * 4 + 3] ?? 0)
}

/** Films the practice camera's speaker before something else, as browsers record: VP8 in WebM, 30 pictures a second. @param length ms */
export async function filmLively(out: string, size: Size, length: number, behind: Behind): Promise<void> {
  async function* pictures(): AsyncGenerator<Uint8Array> {
    for (let n = 0; n < (length * 30) / 1000; n += 1) {
      await Promise.resolve()
      yield pictureOf(size, (n * 1000) / 30, behind).data()
    }
  }
  const read = ['-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${String(size.width)}x${String(size.height)}`, '-r', '30', '-i', 'pipe:0']
  const encode = ['-vf', 'scale=out_color_matrix=bt601:out_range=tv', '-pix_fmt', 'yuv420p', '-c:v', 'libvpx', '-b:v', '2500k']
  const fast = ['-deadline', 'realtime', '-cpu-used', '8', '-colorspace', 'smpte170m', '-color_range', 'tv']
  const args = ['-hide_banner', '-loglevel', 'error', '-y', ...read, ...encode, ...fast, '-f', 'webm', out]
  await runFed('ffmpeg', args, pictures())
}

/** As `filmLively`, with a hum, as bytes that a page would send. */
export async function livelyRecording(size: Size, length: number): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-lively-'))
  try {
    const [film, whole] = [join(folder, 'camera.webm'), join(folder, 'recording.webm')]
    await filmLively(film, size, length, 'lively')
    const hum = ['-f', 'lavfi', '-i', `sine=frequency=440:duration=${String(length / 1000)},volume=8dB`]
    await run('ffmpeg', ['-v', 'error', '-y', '-i', film, ...hum, '-c:v', 'copy', '-c:a', 'libopus', whole])
    return await readFile(whole)
  } finally {
    await rm(folder, { recursive: true })
  }
}
