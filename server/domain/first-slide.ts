import { readFile } from 'node:fs/promises'
import { Refusal } from '@core/model'
import { slideOf } from '@core/scene'
import type { Queries } from '@server/database'
import { assetHere } from '@server/store'
import { versionNow } from './screened-version'
import { screeningOf } from './screenings'
import { slidePicture, stepSeen } from './slide-picture'

/** As wide as pages elsewhere show what a link leads to, in pixels. */
const WIDTH = 1200

/** The first slide of a talk as it is shown now, as a JPEG. @throws Refusal `not-found` when it shows none */
export async function firstSlide(q: Queries, talk: string): Promise<Buffer> {
  const { film, slides } = await screeningOf(q, await versionNow(q, talk))
  const [first] = slides
  if (first === undefined) throw new Refusal('not-found', 'There is nothing under this address.')
  const seen = stepSeen(slideOf(film, first.id), film.shape)
  // Those of files were drawn when they came in.
  if (seen.picture.kind !== 'composed' && seen.objects.length === 0) return await readFile(await assetHere(seen.picture.screen))
  return await slidePicture(seen, film.shape, WIDTH)
}
