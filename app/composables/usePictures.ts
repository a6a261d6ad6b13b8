import { FACES } from '@core/compose'
import type { Drawable, PictureShelf } from '@core/paint'

let fonts: Promise<unknown> | null = null

/** Loads the fonts that slides made here are set in; canvases do not ask for them by themselves. */
const loadFonts = (): Promise<unknown> =>
  (fonts ??= Promise.all([
    ...['400', '600', 'italic 400', 'italic 600'].map((style) => document.fonts.load(`${style} 20px "${FACES.read}"`)),
    document.fonts.load(`600 20px "${FACES.display}"`),
    document.fonts.load(`400 20px "${FACES.code}"`),
    document.fonts.load(`700 20px "${FACES.code}"`),
  ]))

/**
 * Pictures for drawing, loaded once each.
 * @param urlOf address of a file by its digest
 * @param loaded is called when one more is there
 * @param small takes the small pictures of steps, for lists
 */
export function usePictures(urlOf: (digest: string) => string, loaded: () => void, small = false): PictureShelf<CanvasImageSource> {
  const known = new Map<string, Drawable<CanvasImageSource> | null>()
  if (import.meta.client) void loadFonts().then(loaded, () => undefined)
  const get = (digest: string): Drawable<CanvasImageSource> | undefined => {
    const found = known.get(digest)
    if (found === undefined) {
      known.set(digest, null)
      const image = new Image()
      image.onload = () => {
        known.set(digest, { image, width: image.naturalWidth, height: image.naturalHeight })
        loaded()
      }
      image.onerror = () => {
        known.delete(digest)
      }
      image.src = urlOf(digest)
    }
    return found ?? undefined
  }
  return { ofStep: (picture) => get(small ? picture.thumb : picture.screen), ofAsset: get }
}
