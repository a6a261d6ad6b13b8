import type { Picture } from '@core/model'
import type { Drawable } from '@core/paint'
import { assetUrl } from '~/client'

/** Pictures of steps for drawing, loaded once each. @param loaded is called when one more is there */
export function usePictures(talk: () => string, loaded: () => void): (picture: Picture) => Drawable<CanvasImageSource> | undefined {
  const known = new Map<string, Drawable<CanvasImageSource> | null>()
  return (picture) => {
    const found = known.get(picture.screen)
    if (found === undefined) {
      known.set(picture.screen, null)
      const image = new Image()
      image.onload = () => {
        known.set(picture.screen, { image, width: image.naturalWidth, height: image.naturalHeight })
        loaded()
      }
      image.onerror = () => { known.delete(picture.screen) }
      image.src = assetUrl(talk(), picture.screen)
    }
    return found ?? undefined
  }
}
