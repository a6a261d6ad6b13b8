import { unreachable } from '@core/model'
import type { AssetId, Picture, Slide } from '@core/model'

function assetsOf(picture: Picture): readonly AssetId[] {
  switch (picture.kind) {
    case 'page':
    case 'image':
      return [picture.source, picture.screen, picture.thumb]
    case 'composed':
      return picture.composition.pictures.map((one) => one.asset)
    default:
      return unreachable(picture)
  }
}

/** Files of a slide's clips. */
export const assetsOfClips = ({ clips = [] }: Pick<Slide, 'clips'>): readonly AssetId[] =>
  clips.flatMap(({ media }) => [media.file, ...(media.picture === null ? [] : [media.picture.poster])])

/** Files of pictures that are drawn on a slide. */
export const assetsOfDrawing = ({ drawing }: Pick<Slide, 'drawing'>): readonly AssetId[] =>
  drawing?.objects.flatMap(({ form }) => (form.kind === 'picture' ? [form.asset] : [])) ?? []

/** Every file of the media store that slides need to be shown, each once. */
export const assetsOfSlides = (slides: readonly Pick<Slide, 'steps' | 'composition' | 'clips' | 'drawing'>[]): readonly AssetId[] => [
  ...new Set(
    slides.flatMap((slide) => [
      ...slide.steps.flatMap((step) => assetsOf(step.picture)),
      ...(slide.composition?.pictures.map((one) => one.asset) ?? []),
      ...assetsOfClips(slide),
      ...assetsOfDrawing(slide),
    ]),
  ),
]
