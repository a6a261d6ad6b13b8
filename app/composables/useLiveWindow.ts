import { asId } from '@core/model'
import type { Clip, ClipId, Size } from '@core/model'
import type { Drawable, PictureShelf } from '@core/paint'
import type { ClipScene } from '@core/scene'
import { watchFrames } from '~/capture'

/** Id of what is shown of a window while it is live. */
const LIVE: ClipId = asId('live')

/** The window as a clip that fills its slide: what is recorded of it will be one. */
const liveClip = ({ width, height }: Size): Clip => ({
  id: LIVE,
  name: '',
  media: {
    file: asId(''),
    length: 1,
    picture: { size: { width, height }, rate: { num: 1, den: 1 }, poster: asId('') },
    sound: false,
    loudness: null,
  },
  box: { x: 0, y: 0, w: 1, h: 1 },
  step: 0,
  start: 'click',
  from: 0,
  to: 1,
  loop: false,
  gain: 0,
  captured: true,
})

/**
 * The window that is shown at the Lectern, as it is now.
 * @param picture of the one that is held; null: none is. Of one that was closed while it is shown, what it looked like last stays
 * @param shown whether it is
 * @param came is called when another picture of it has come
 */
export function useLiveWindow(picture: () => MediaStreamTrack | null, shown: () => boolean, came: () => void) {
  let watched: ReturnType<typeof watchFrames> | null = null
  watch(
    picture,
    (track) => {
      if (track === null) return
      watched?.stop()
      watched = watchFrames(track, () => {
        if (shown()) came()
      })
    },
    { immediate: true },
  )
  onBeforeUnmount(() => watched?.stop())
  /** What it looks like now; null before its first picture. */
  const drawable = (): Drawable<CanvasImageSource> | null => {
    const video = watched?.video
    return video === undefined || video.videoWidth === 0 ? null : { image: video, width: video.videoWidth, height: video.videoHeight }
  }
  return {
    /** It, or nothing while none is shown. */
    live: (): readonly ClipScene[] => {
      const now = shown() ? drawable() : null
      return now === null ? [] : [{ clip: liveClip(now), at: 0, playing: true }]
    },
    /** A shelf that has it too. */
    withLive: <Shelf extends PictureShelf<CanvasImageSource>>(shelf: Shelf): Shelf => ({
      ...shelf,
      ofClip: (clip: ClipScene): Drawable<CanvasImageSource> | undefined =>
        clip.clip.id === LIVE ? (drawable() ?? undefined) : shelf.ofClip?.(clip),
    }),
  }
}
