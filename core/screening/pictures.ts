import { unreachable } from '@core/model'
import { assetsOfClips, assetsOfDrawing } from '@core/deck'
import type { AssetId, Picture, Slide } from '@core/model'

/** Files of the media store that those who watch need for a picture: of a page its pictures, never the document that it came from. */
function assetsOf(picture: Picture): readonly AssetId[] {
  switch (picture.kind) {
    case 'page':
    case 'image':
      return [picture.screen, picture.thumb]
    case 'composed':
      return picture.composition.pictures.map(({ asset }) => asset)
    default:
      return unreachable(picture)
  }
}

/** Every file that may be sent to those who watch slides, each once. */
export const assetsForViewers = (slides: Iterable<Pick<Slide, 'steps' | 'clips' | 'drawing'>>): ReadonlySet<AssetId> =>
  new Set(
    [...slides].flatMap((slide) => [
      ...slide.steps.flatMap(({ picture }) => assetsOf(picture)),
      ...assetsOfClips(slide),
      ...assetsOfDrawing(slide),
    ]),
  )
