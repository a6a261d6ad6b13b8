import { readFile } from 'node:fs/promises'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { imageSize } from 'image-size'
import { Refusal } from '@core/model'
import type { Size } from '@core/model'

/** Longest side and most pixels of a picture that is brought in. */
const LONGEST_SIDE = 20_000
const MOST_PIXELS = 120_000_000

export interface PictureFile {
  readonly bytes: Buffer
  /** As it is seen, turned where the camera said so. */
  readonly size: Size
  /** How the camera was held, 1 to 8, as Exif counts. */
  readonly orientation: number
}

/**
 * Reads a picture's size from its head, before anything is unpacked.
 * @throws Refusal `unreadable` or `too-large`
 */
export async function openPicture(path: string): Promise<PictureFile> {
  const bytes = await readFile(path)
  let head: ReturnType<typeof imageSize>
  try {
    head = imageSize(bytes)
  } catch {
    throw new Refusal('unreadable', 'This picture is damaged or not a PNG, JPEG or WebP file. Save it again as one of these.')
  }
  if (Math.max(head.width, head.height) > LONGEST_SIDE || head.width * head.height > MOST_PIXELS) {
    throw new Refusal(
      'too-large',
      `This picture has ${String(head.width)} by ${String(head.height)} pixels, more than can be taken in. Scale it down below ` +
        `20,000 a side.`,
    )
  }
  const orientation = head.orientation ?? 1
  const turned = orientation >= 5
  return {
    bytes,
    orientation,
    size: { width: turned ? head.height : head.width, height: turned ? head.width : head.height },
  }
}

/** Turns and flips the canvas so that a picture taken with the camera held like this stands upright. */
const UPRIGHT: Readonly<Record<number, readonly [number, number, number, number]>> = {
  2: [-1, 0, 0, 1],
  3: [-1, 0, 0, -1],
  4: [1, 0, 0, -1],
  5: [0, 1, 1, 0],
  6: [0, 1, -1, 0],
  7: [0, -1, -1, 0],
  8: [0, -1, 1, 0],
}

/**
 * Draws a picture as large as fits into `box`, never larger than it is.
 * @param ground is seen where the picture is clear; it stays clear when left out
 * @throws Refusal `unreadable` when it cannot be unpacked
 */
export async function drawPicture(picture: PictureFile, box: Size, ground?: string): Promise<Canvas> {
  const image = await loadImage(picture.bytes).catch(() => {
    throw new Refusal('unreadable', 'This picture is damaged and cannot be shown. Save it again and bring that.')
  })
  const scale = Math.min(1, box.width / picture.size.width, box.height / picture.size.height)
  const width = Math.max(1, Math.round(picture.size.width * scale))
  const height = Math.max(1, Math.round(picture.size.height * scale))
  const canvas = createCanvas(width, height)
  const ctx = canvas.getContext('2d')
  if (ground !== undefined) {
    ctx.fillStyle = ground
    ctx.fillRect(0, 0, width, height)
  }
  const [a, b, c, d] = UPRIGHT[picture.orientation] ?? [1, 0, 0, 1]
  const turned = picture.orientation >= 5
  ctx.setTransform(a, b, c, d, width / 2, height / 2)
  const [w, h] = turned ? [height, width] : [width, height]
  ctx.drawImage(image, -w / 2, -h / 2, w, h)
  return canvas
}
