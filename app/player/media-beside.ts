import type { Ms } from '@core/model'
import { letGo } from './let-go'

/** How far one may be from where it should be before it is set right, in seconds: while it plays, and while it begins. */
const SLIP = 0.06
const BEGINNING = 0.3
/** How many stay loaded that are not heard. */
const KEPT = 3

/** A sound that is heard beside a film, or moving pictures that are seen beside it. */
export interface BesideMedia {
  /** Tells it from others. */
  readonly key: string
  readonly url: string
  /** Where in it. */
  readonly at: Ms
  /** 0 to 1; 0 is not heard at all. */
  readonly volume: number
}

/** Media that are played along with something that sets the time. */
export class MediaBeside<Element extends HTMLMediaElement> {
  readonly #elements = new Map<string, Element>()
  readonly #make: () => Element
  readonly #arrived: () => void
  readonly #failed: () => void

  /**
   * @param make an element for one more
   * @param arrived is called when one can be heard, or seen
   * @param failed when one cannot be played
   */
  constructor(make: () => Element, arrived: () => void, failed: () => void) {
    this.#make = make
    this.#arrived = arrived
    this.#failed = failed
  }

  /** Has media play, or wait, where they are now; all others stand still. @param rate how fast time goes on */
  follow(media: readonly BesideMedia[], playing: boolean, rate: number): void {
    const here = new Set(media.map(({ key }) => key))
    const others = [...this.#elements].filter(([key]) => !here.has(key))
    for (const [, element] of others) element.pause()
    for (const [key, element] of others.slice(0, -KEPT)) this.#release(key, element)
    for (const one of media) this.#place(one, playing, rate)
  }

  /** Whether one can be heard, or seen, from where it is. */
  isReady = (key: string): boolean => (this.#elements.get(key)?.readyState ?? 0) >= HTMLMediaElement.HAVE_CURRENT_DATA

  /** What plays one; null while it cannot be heard, or seen. */
  readyElement = (key: string): Element | null => (this.isReady(key) ? (this.#elements.get(key) ?? null) : null)

  #place({ key, url, at, volume }: BesideMedia, playing: boolean, rate: number): void {
    const element = this.#elements.get(key) ?? this.#load(key, url)
    element.playbackRate = rate
    element.volume = volume
    const begins = playing && element.paused
    if (begins) void element.play().catch(() => undefined)
    if (!playing) element.pause()
    const most = begins ? BEGINNING : SLIP
    // One that is over stands at its end.
    const place = Math.min(at / 1000, element.duration || Infinity)
    if (!element.seeking && Math.abs(element.currentTime - place) > (playing ? most : 0.001)) element.currentTime = place
  }

  /** Lets go of everything that was loaded. */
  release(): void {
    for (const [key, element] of this.#elements) this.#release(key, element)
  }

  #release(key: string, element: Element): void {
    letGo(element)
    this.#elements.delete(key)
  }

  #load(key: string, url: string): Element {
    const element = this.#make()
    element.preload = 'auto'
    element.src = url
    element.addEventListener('loadeddata', this.#arrived)
    // What stands still is sought, and seen when it is there.
    element.addEventListener('seeked', this.#arrived)
    element.addEventListener('error', () => {
      if (this.#elements.has(key) && element.getAttribute('src') !== null) this.#failed()
    })
    this.#elements.set(key, element)
    return element
  }
}
