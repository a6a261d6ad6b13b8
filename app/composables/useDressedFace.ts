import type { InsetScene } from '@core/scene'
import type { Drawable } from '@core/paint'
import { BACKDROP_RATE } from '@core/model'
import type { Ms } from '@core/model'
import { backdropUrl } from '~/client'
import { LitPicture, MediaBeside } from '~/player'
import { useBackdrops } from '~/stores/backdrops'
import { useDressing } from '~/stores/dressing'

/** A player shows the picture that began last, the file the nearest. In ms. */
const HALF_A_PICTURE: Ms = 500 / BACKDROP_RATE

/** Where a recording is while its camera is seen. */
export interface CameraMoment {
  readonly media: HTMLVideoElement
  readonly at: Ms
  readonly playing: boolean
}

/** Shows cameras with their light and their backdrops; as filmed until what is to be seen is there. */
export function useDressedFace(arrived: () => void) {
  const backdrops = useBackdrops()
  const dressing = useDressing()
  const films = new MediaBeside(
    () => {
      const film = document.createElement('video')
      film.muted = true
      film.playsInline = true
      return film
    },
    arrived,
    () => {
      backdrops.trouble = 'The face cannot be shown with its backdrop here, so it is seen as filmed. In the file it is there.'
    },
  )
  let lit: LitPicture | null = null

  /** The film that is seen in place of a recording; null: that is seen itself. */
  function filmOf({ stretch, backdrop }: InsetScene, { media, at, playing }: CameraMoment): HTMLVideoElement | null {
    if (backdrop === undefined || !backdrops.isThere(stretch, backdrop)) return null
    const url = backdropUrl(stretch, backdrop)
    films.follow([{ key: url, url, at: at + HALF_A_PICTURE, volume: 0 }], playing, media.playbackRate)
    return dressing.asRecorded ? null : films.readyElement(url)
  }

  /** What of a camera is to be drawn; null while nothing of it is there. @param moment null: nothing is played of it */
  function pictureOf(inset: InsetScene | null, moment: CameraMoment | null): Drawable<CanvasImageSource> | null {
    if (inset?.backdrop === undefined || moment === null) films.follow([], false, 1)
    if (inset === null || moment === null) return null
    const seen = filmOf(inset, moment) ?? moment.media
    if (seen.readyState < HTMLMediaElement.HAVE_CURRENT_DATA || seen.videoWidth === 0) return null
    const picture = { image: seen, width: seen.videoWidth, height: seen.videoHeight }
    return inset.light === undefined || dressing.asRecorded ? picture : (lit ??= new LitPicture()).of(picture, inset.light)
  }

  watch([() => backdrops.films, () => dressing.asRecorded], arrived)
  onBeforeUnmount(() => {
    films.release()
    lit?.release()
  })
  return { pictureOf }
}
