import { createCanvas } from '@napi-rs/canvas'
import type { Canvas, Image } from '@napi-rs/canvas'
import { SIGNATURE } from '@core/match'

/** A small picture of a slide for comparing, as `SIGNATURE` says: each square the mean of what is in it. */
export function slideSignature(picture: Canvas | Image): readonly number[] {
  const { across, down } = SIGNATURE
  // Eight times as large first, of which means are taken: drawing it as small as that at once leaves out what lies between.
  const large = createCanvas(across * 8, down * 8)
  const ctx = large.getContext('2d')
  ctx.fillStyle = '#FFFFFF'
  ctx.fillRect(0, 0, large.width, large.height)
  ctx.drawImage(picture, 0, 0, picture.width, picture.height, 0, 0, large.width, large.height)
  const { data } = ctx.getImageData(0, 0, large.width, large.height)
  const sums = new Float64Array(across * down * 3)
  for (let y = 0; y < large.height; y += 1)
    for (let x = 0; x < large.width; x += 1) {
      const [to, from] = [((y >> 3) * across + (x >> 3)) * 3, (y * large.width + x) * 4]
      for (let channel = 0; channel < 3; channel += 1) sums[to + channel] = (sums[to + channel] ?? 0) + (data[from + channel] ?? 0)
    }
  return Array.from(sums, (sum) => Math.round(sum / 64))
}
