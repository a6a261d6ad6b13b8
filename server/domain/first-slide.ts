import { readFile } from 'node:fs/promises'
import { createCanvas } from '@napi-rs/canvas'
import { paintPicture } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { Refusal } from '@core/model'
import { PictureSource } from '@render/video'
import type { Drawn } from '@render/video'
import type { Queries } from '@server/database'
import { assetPath } from '@server/store'
import { screeningOf, versionNow } from './screenings'

/** As wide as pages elsewhere show what a link leads to, in pixels. */
const WIDTH = 1200
const QUALITY = 85

/** The first slide of a talk as it is shown now, as a JPEG. @throws Refusal `not-found` when it shows none */
export async function firstSlide(q: Queries, talk: string): Promise<Buffer> {
  const { film, slides } = await screeningOf(q, await versionNow(q, talk))
  const picture = slides[0]?.picture
  if (picture === undefined) throw new Refusal('not-found', 'There is nothing under this address.')
  // Those of files were drawn when they came in.
  if (picture.kind !== 'composed') return await readFile(assetPath(picture.screen))
  const size = { width: WIDTH, height: Math.round((WIDTH * film.shape.height) / film.shape.width) }
  const source = new PictureSource(assetPath)
  try {
    const canvas = createCanvas(size.width, size.height)
    const shown = { picture, content: '', text: '' }
    const scene = { shown, ink: [], spot: null, stage: { x: 0, y: 0, w: 1, h: 1 }, revealProgress: 1, transition: null }
    const ctx: PaintContext<Drawn> = canvas.getContext('2d')
    paintPicture(ctx, picture, size, await source.shelfFor(scene, size))
    return await canvas.encode('jpeg', QUALITY)
  } finally {
    source.close()
  }
}
