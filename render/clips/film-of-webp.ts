import { readFile } from 'node:fs/promises'
import { once } from 'node:events'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { SKRSContext2D } from '@napi-rs/canvas'
import { Refusal } from '@core/model'
import type { Ms } from '@core/model'
import { holdInside, killWhole, start } from '@render/process'
import { readAnimatedWebp } from './animated-webp'
import type { WebpAnimation, WebpFrame } from './animated-webp'

/** Longest side and longest animation that is taken. */
const MOST_SIDE = 4096
const LONGEST: Ms = 600_000
/** Pictures a second that its times are kept with: those of most animations are whole hundredths. */
const RATE = 50
const GROUND = '#FFFFFF'
/** What packing it may take, in ms. */
const TIME: Ms = 60_000

const unreadable = (): Refusal => new Refusal('unreadable', 'This moving picture cannot be read. Save it as GIF or MP4, and bring that.')

/** @throws Refusal when there is nothing of it, or too much */
function checked(animation: WebpAnimation | null): WebpAnimation {
  if (animation === null || animation.frames.length === 0) throw unreadable()
  const { size, frames } = animation
  if (Math.max(size.width, size.height) > MOST_SIDE)
    throw new Refusal(
      'too-large',
      `This moving picture is larger than ${String(MOST_SIDE)} pixels a side. Make it smaller, and bring that.`,
    )
  if (frames.reduce((sum, { length }) => sum + length, 0) > LONGEST)
    throw new Refusal('too-large', 'This moving picture is longer than ten minutes. Bring it as a film.')
  return animation
}

/** Lays a frame on the canvas as it is at its time. */
async function lay(ctx: SKRSContext2D, { x, y, size, blends, picture }: WebpFrame): Promise<void> {
  if (!blends) ctx.clearRect(x, y, size.width, size.height)
  ctx.drawImage(await loadImage(picture), x, y, size.width, size.height)
}

/**
 * Makes a film of an animated WebP, which ffmpeg does not read: losslessly, at a rate that fits its times. Decodes what somebody brought:
 * for a process that may die.
 * @param out where it is put, as Matroska
 * @throws Refusal `unreadable` or `too-large`
 */
export async function filmOfWebp(path: string, out: string): Promise<void> {
  const { size, frames } = checked(readAnimatedWebp(await readFile(path)))
  const canvas = createCanvas(size.width, size.height)
  const ctx = canvas.getContext('2d')
  const shown = createCanvas(size.width, size.height)
  const onGround = shown.getContext('2d')
  const args = [
    ...['-hide_banner', '-loglevel', 'error', '-nostats', '-f', 'rawvideo', '-pix_fmt', 'rgba'],
    ...['-s', `${String(size.width)}x${String(size.height)}`, '-r', String(RATE), '-i', 'pipe:0'],
    ...['-c:v', 'ffv1', '-f', 'matroska', '-y', out],
  ]
  const { child, done } = start('ffmpeg', args, { hold: holdInside(TIME) })
  // What it ends with is told where it is awaited, further down.
  done.catch(() => undefined)
  child.stdin?.on('error', () => undefined)
  try {
    let [at, written] = [0, 0]
    for (const frame of frames) {
      await lay(ctx, frame)
      onGround.fillStyle = GROUND
      onGround.fillRect(0, 0, size.width, size.height)
      onGround.drawImage(canvas, 0, 0)
      const pixels = Buffer.from(onGround.getImageData(0, 0, size.width, size.height).data)
      at += frame.length
      for (const until = Math.round((at * RATE) / 1000); written < until; written += 1)
        if (child.stdin?.write(pixels) === false) await Promise.race([once(child.stdin, 'drain'), done])
      if (frame.clears) ctx.clearRect(frame.x, frame.y, frame.size.width, frame.size.height)
    }
    child.stdin?.end()
    await done
  } catch {
    killWhole(child)
    throw unreadable()
  }
}
