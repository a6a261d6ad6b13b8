import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Size } from '@core/model'

/** A picture as PNG, as large as a camera's: it fills all of it, and what is too much of it is cut off on both sides. */
export async function behindPicture(path: string, { width, height }: Size): Promise<Buffer> {
  const picture = await loadImage(path)
  const canvas = createCanvas(width, height)
  const share = Math.max(width / picture.width, height / picture.height)
  const [w, h] = [picture.width * share, picture.height * share]
  canvas.getContext('2d').drawImage(picture, (width - w) / 2, (height - h) / 2, w, h)
  return await canvas.encode('png')
}
