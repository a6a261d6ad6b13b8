import { readFile } from 'node:fs/promises'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { objectsAt } from '@core/objects'
import type { ObjectScene } from '@core/objects'
import { paintObject, paintPicture } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { stepOf } from '@core/scene'
import type { Picture, Size, Slide } from '@core/model'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import { assetHere } from '@server/store'

const USUAL_QUALITY = 85

/** What is seen of a step: its picture, and what is drawn on its slide. */
export interface SeenStep {
  readonly picture: Picture
  readonly objects: readonly ObjectScene[]
}

/** A slide as it is when all that moves in a step has arrived. @param step counted from 0; left out: its last */
export function stepSeen(slide: Slide, shape: Size, step = slide.steps.length - 1): SeenStep {
  return { picture: stepOf(slide, step).picture, objects: objectsAt(slide, step, Infinity, shape) }
}

/** What a step shows, as a JPEG. @param shape of the deck @param width in pixels @param quality of the JPEG, 1 to 100 */
export async function slidePicture({ picture, objects }: SeenStep, shape: Size, width: number, quality = USUAL_QUALITY): Promise<Buffer> {
  const size = { width, height: Math.round((width * shape.height) / shape.width) }
  const canvas = createCanvas(size.width, size.height)
  const ctx: PaintContext<Drawn> = canvas.getContext('2d')
  if (picture.kind !== 'composed' && objects.length === 0) {
    // Those of files were drawn when they came in.
    const image = await loadImage(await readFile(await assetHere(picture.screen)))
    const drawn = { image, width: image.width, height: image.height }
    paintPicture(ctx, picture, size, { ofStep: () => drawn, ofAsset: () => undefined })
    return await canvas.encode('jpeg', quality)
  }
  const source = new PictureSource(assetHere)
  try {
    const shown = { picture, content: '', text: '' }
    const stage = { x: 0, y: 0, w: 1, h: 1 }
    const shelf = await source.shelfFor(
      { shown, clips: [], objects, ink: [], spot: null, stage, revealProgress: 1, transition: null },
      size,
    )
    paintPicture(ctx, picture, size, shelf)
    for (const object of objects) paintObject(ctx, object, size, shelf)
    return await canvas.encode('jpeg', quality)
  } finally {
    source.close()
  }
}
