import { readFile } from 'node:fs/promises'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { paintPicture } from '@core/paint'
import type { PaintContext } from '@core/paint'
import type { Picture, Size } from '@core/model'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import { assetPath } from '@server/store'

const USUAL_QUALITY = 85

/** What a step shows, as a JPEG. @param shape of the deck @param width in pixels @param quality of the JPEG, 1 to 100 */
export async function slidePicture(picture: Picture, shape: Size, width: number, quality = USUAL_QUALITY): Promise<Buffer> {
  const size = { width, height: Math.round((width * shape.height) / shape.width) }
  const canvas = createCanvas(size.width, size.height)
  const ctx: PaintContext<Drawn> = canvas.getContext('2d')
  if (picture.kind !== 'composed') {
    // Those of files were drawn when they came in.
    const image = await loadImage(await readFile(assetPath(picture.screen)))
    const drawn = { image, width: image.width, height: image.height }
    paintPicture(ctx, picture, size, { ofStep: () => drawn, ofAsset: () => undefined })
    return await canvas.encode('jpeg', quality)
  }
  const source = new PictureSource(assetPath)
  try {
    const shown = { picture, content: '', text: '' }
    const scene = { shown, clips: [], ink: [], spot: null, stage: { x: 0, y: 0, w: 1, h: 1 }, revealProgress: 1, transition: null }
    paintPicture(ctx, picture, size, await source.shelfFor(scene, size))
    return await canvas.encode('jpeg', quality)
  } finally {
    source.close()
  }
}
