import { readFile } from 'node:fs/promises'
import { Refusal } from '@core/model'
import type { Queries } from '@server/database'
import { assetPath } from '@server/store'
import { versionNow } from './screened-version'
import { screeningOf } from './screenings'
import { slidePicture } from './slide-picture'

/** As wide as pages elsewhere show what a link leads to, in pixels. */
const WIDTH = 1200

/** The first slide of a talk as it is shown now, as a JPEG. @throws Refusal `not-found` when it shows none */
export async function firstSlide(q: Queries, talk: string): Promise<Buffer> {
  const { film, slides } = await screeningOf(q, await versionNow(q, talk))
  const picture = slides[0]?.picture
  if (picture === undefined) throw new Refusal('not-found', 'There is nothing under this address.')
  // Those of files were drawn when they came in.
  if (picture.kind !== 'composed') return await readFile(assetPath(picture.screen))
  return await slidePicture(picture, film.shape, WIDTH)
}
