import { loadImage } from '@napi-rs/canvas'
import type { MatchSlide } from '@core/match'
import type { Size, Slide, SlideId } from '@core/model'
import { slideSignature } from '@render/deck'
import { slidePicture } from '@server/domain'
import { assetHere } from '@server/store'

/** Width of a slide that is drawn to be compared, in pixels. */
const WIDTH = 320

const wordsIn = (text: string): readonly string[] => text.split(/\s+/).filter((word) => word !== '')

/** What of slides is compared with those of another deck: the words and the look of each as it is in the end. */
export async function comparedSlides(slides: readonly Slide[], shape: Size): Promise<ReadonlyMap<SlideId, MatchSlide>> {
  const found = new Map<SlideId, MatchSlide>()
  for (const { id, title, steps } of slides) {
    const last = steps.at(-1)
    if (last === undefined) continue
    const { picture } = last
    // Its small picture was made here when it came in.
    const image = await loadImage(
      picture.kind === 'composed' ? await slidePicture({ picture, objects: [] }, shape, WIDTH) : await assetHere(picture.thumb),
    )
    found.set(id, { words: wordsIn(last.text), title, picture: slideSignature(image) })
  }
  return found
}
