import type { Drawable } from '@core/paint'
import { pictureOfClip } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { AssetId, Clip, ClipId } from '@core/model'
import { letGo } from './let-go'

/** How far a clip may be from where it should be before it is set right, in seconds: while it plays, and while it begins. */
const SLIP = 0.12
const BEGINNING = 0.4
/** How many clips stay loaded that are not on screen. */
const KEPT = 6

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
  readonly #elements = new Map<ClipId, HTMLVideoElement>()
  readonly #urlOf: (digest: string) => string
  readonly #arrived: () => void

  /** @param urlOf address of a file by its digest @param arrived is called when a picture that was sought has come */
  constructor(urlOf: (digest: string) => string, arrived: () => void) {
    this.#urlOf = urlOf
    this.#arrived = arrived
  }

  /** Has clips play, or stand, where they are now; all others are silent. */
  follow(scenes: readonly ClipScene[], how: ClipPlay): void {
    const here = new Set(scenes.map(({ clip }) => clip.id))
    const others = [...this.#elements].filter(([id]) => !here.has(id))
    for (const [, element] of others) element.pause()
    for (const [id, element] of others.slice(0, -KEPT)) this.#release(id, element)
    for (const scene of scenes) this.#place(scene, how)
  }

  #place(scene: ClipScene, { playing, rate, volume }: ClipPlay): void {
    const element = this.#made(scene.clip)
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
    const element = this.#elements.get(clip.id)
    if (element === undefined || element.readyState < HTMLMediaElement.HAVE_CURRENT_DATA || element.videoWidth === 0) return undefined
    return { image: element, width: element.videoWidth, height: element.videoHeight }
  }

  /** What a clip is played from; undefined: nothing yet. */
  elementOf({ clip }: ClipScene): HTMLMediaElement | undefined {
    return this.#elements.get(clip.id)
  }

  /** Lets go of everything that was loaded. */
  release(): void {
    for (const [id, element] of this.#elements) this.#release(id, element)
  }

  #release(id: ClipId, element: HTMLVideoElement): void {
    letGo(element)
    this.#elements.delete(id)
  }

  #made({ id, media }: Clip): HTMLVideoElement {
    const element = this.#elements.get(id) ?? this.#loaded(media.file)
    // The one used last is let go last.
    this.#elements.delete(id)
    this.#elements.set(id, element)
    return element
  }

  #loaded(file: AssetId): HTMLVideoElement {
    const element = document.createElement('video')
    element.preload = 'auto'
    element.playsInline = true
    element.src = this.#urlOf(file)
    for (const event of ['seeked', 'loadeddata'] as const) element.addEventListener(event, this.#arrived)
    return element
  }
}
