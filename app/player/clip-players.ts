import type { Drawable } from '@core/paint'
import { pictureOfClip } from '@core/scene'
import type { ClipScene } from '@core/scene'

/** How far a clip may be from where it should be before it is set right, in seconds: while it plays, and while it begins. */
const SLIP = 0.12
const BEGINNING = 0.4

/** How clips are played along. */
export interface ClipPlay {
  /** Whether the time goes on in which they are. */
  readonly playing: boolean
  readonly rate: number
  /** 0 to 1; 0 is not heard at all. */
  readonly volume: (clip: ClipScene) => number
}

/** The media elements that clips are played from, one for each. */
export class ClipPlayers {
  readonly #elements = new Map<string, HTMLVideoElement>()
  readonly #urlOf: (digest: string) => string
  readonly #arrived: () => void

  /** @param urlOf address of a file by its digest @param arrived is called when a picture that was sought has come */
  constructor(urlOf: (digest: string) => string, arrived: () => void) {
    this.#urlOf = urlOf
    this.#arrived = arrived
  }

  /** Has clips play, or stand, where they are now; all others are silent. */
  follow(scenes: readonly ClipScene[], how: ClipPlay): void {
    const here = new Set(scenes.map(({ clip }) => clip.media.file))
    for (const [file, element] of this.#elements) if (!here.has(file as ClipScene['clip']['media']['file'])) element.pause()
    for (const scene of scenes) this.#place(scene, how)
  }

  #place(scene: ClipScene, { playing, rate, volume }: ClipPlay): void {
    const element = this.#made(scene)
    const on = playing && scene.playing
    element.playbackRate = rate
    const loud = on ? volume(scene) : 0
    element.muted = loud === 0
    element.volume = loud
    const { picture } = scene.clip.media
    // The middle of a picture: at its edge either of two may come.
    const still = picture === null ? scene.at / 1000 : ((pictureOfClip(scene.clip, scene.at) + 0.5) * picture.rate.den) / picture.rate.num
    const time = on ? scene.at / 1000 : still
    const slip = Math.abs(element.currentTime - time)
    const begins = on && element.paused
    if (begins) void element.play().catch(() => undefined)
    if (!on) element.pause()
    const most = begins ? BEGINNING : SLIP
    if (!element.seeking && slip > (on ? most : 0.001)) element.currentTime = time
  }

  /** What is seen of a clip now; undefined while it is not there, or a sound. */
  drawable({ clip }: ClipScene): Drawable<CanvasImageSource> | undefined {
    const element = this.#elements.get(clip.media.file)
    if (element === undefined || element.readyState < HTMLMediaElement.HAVE_CURRENT_DATA || element.videoWidth === 0) return undefined
    return { image: element, width: element.videoWidth, height: element.videoHeight }
  }

  /** What a clip is played from; undefined: nothing yet. */
  elementOf({ clip }: ClipScene): HTMLMediaElement | undefined {
    return this.#elements.get(clip.media.file)
  }

  /** Lets go of everything that was loaded. */
  release(): void {
    for (const element of this.#elements.values()) {
      element.pause()
      element.removeAttribute('src')
    }
    this.#elements.clear()
  }

  #made({ clip: { media } }: ClipScene): HTMLVideoElement {
    const known = this.#elements.get(media.file)
    if (known !== undefined) return known
    const element = document.createElement('video')
    element.preload = 'auto'
    element.playsInline = true
    element.src = this.#urlOf(media.file)
    for (const event of ['seeked', 'loadeddata'] as const) element.addEventListener(event, this.#arrived)
    this.#elements.set(media.file, element)
    return element
  }
}
