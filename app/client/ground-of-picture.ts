import { lightnessOf } from '@core/camera'
import type { Theme } from '@core/model'

/** Darker than this, of 255, a picture's ground wants light letters. */
const DARK = 115
/** The picture is looked at so small. */
const LOOK = { width: 24, height: 14 }

/** The theme whose letters are read on a picture. @param url of the picture */
export async function themeOnPicture(url: string): Promise<Theme> {
  const image = new Image()
  image.src = url
  await image.decode()
  const canvas = new OffscreenCanvas(LOOK.width, LOOK.height)
  const ctx = canvas.getContext('2d', { willReadFrequently: true })
  if (ctx === null) return 'paper'
  ctx.drawImage(image, 0, 0, LOOK.width, LOOK.height)
  const { data } = ctx.getImageData(0, 0, LOOK.width, LOOK.height)
  let sum = 0
  for (let at = 0; at < data.length; at += 4) sum += lightnessOf(data[at] ?? 0, data[at + 1] ?? 0, data[at + 2] ?? 0)
  return sum / (data.length / 4) < DARK ? 'harbour' : 'paper'
}
