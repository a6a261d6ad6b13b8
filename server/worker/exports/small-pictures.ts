import { SMALL_PICTURES } from '@core/bundle'
import { picturesOver } from '@core/programme'
import type { AssetId, Film, Picture, Slide, Step } from '@core/model'
import { asId } from '@core/model'
import { filmOnItsWay } from '@contracts'
import type { ViewersFilm } from '@contracts'
import { slidePicture } from '@server/domain'
import { assetPath } from '@server/store'
import type { ZipEntry } from './zip-folder'

/** What steps show, each once. */
interface PicturesOf {
  readonly pictures: readonly Picture[]
  readonly nameOf: (picture: Picture) => string
}

function picturesOf(film: Film): PicturesOf {
  const names = new Map<string, { readonly name: string; readonly picture: Picture }>()
  for (const { steps } of film.slides.values())
    for (const { picture } of steps) {
      const key = JSON.stringify(picture)
      if (!names.has(key)) names.set(key, { name: `p${String(names.size + 1)}`, picture })
    }
  return {
    pictures: [...names.values()].map(({ picture }) => picture),
    nameOf: (picture) => names.get(JSON.stringify(picture))?.name ?? '',
  }
}

/** First pictures of clips, which stand still in a folder of pictures and voice. */
const postersOf = (film: Film): readonly AssetId[] =>
  [...film.slides.values()].flatMap(({ clips }) => (clips ?? []).flatMap(({ media }) => media.picture?.poster ?? []))

/** The film with a picture of its own for every step. */
function withPictures(film: Film, { nameOf }: PicturesOf): ViewersFilm {
  const { shape } = film
  const toStep = ({ picture, ...step }: Step): Step => {
    const name = asId<'asset'>(nameOf(picture))
    return { ...step, picture: { kind: 'image', source: name, size: shape, ground: '#FFFFFF', screen: name, thumb: name } }
  }
  const slides = [...film.slides].map(([id, slide]): readonly [typeof id, Slide] => [
    id,
    // Words stand in the page once, in its programme.
    { ...slide, composition: null, viewerNotes: '', description: '', steps: slide.steps.map((step) => ({ ...toStep(step), text: '' })) },
  ])
  return filmOnItsWay({ ...film, slides: new Map(slides) })
}

/** Slides as pictures, as good as there is room for, with the film that shows them. */
export interface SmallPictures {
  readonly drawn: ViewersFilm
  readonly entries: readonly ZipEntry[]
  /** Width of the pictures in pixels. */
  readonly width: number
  readonly bytes: number
}

/**
 * Draws every step that is shown as a picture.
 * @param most bytes for all of them; passed only when even the smallest take more
 * @param reached is told how much of it is done, 0 to 1
 */
export async function smallPictures(film: Film, most: number, reached: (share: number) => void): Promise<SmallPictures> {
  const found = picturesOf(film)
  const posters = [...new Set([...postersOf(film), ...picturesOver(film.programme)])].map((poster): ZipEntry => ({
    name: `pictures/${poster}.jpg`,
    path: assetPath(poster),
  }))
  const drawn = withPictures(film, found)
  let made: SmallPictures | null = null
  for (const [n, { width, quality }] of SMALL_PICTURES.entries()) {
    const entries: ZipEntry[] = []
    let bytes = 0
    for (const [done, picture] of found.pictures.entries()) {
      const jpeg = await slidePicture({ picture, objects: [] }, film.shape, width, quality)
      bytes += jpeg.length
      if (bytes > most && n < SMALL_PICTURES.length - 1) break
      entries.push({ name: `pictures/${found.nameOf(picture)}.jpg`, bytes: jpeg })
      reached((done + 1) / found.pictures.length)
    }
    made = { drawn, entries: [...entries, ...posters], width, bytes }
    if (entries.length === found.pictures.length) break
  }
  if (made === null) throw new Error('there are no ways to make pictures')
  return made
}
