import type { Ms } from '@core/model'

/** A media element, and the recording that it holds. */
export interface Slot {
  readonly media: HTMLVideoElement
  stretch: string
}

/** What a page hears of its media. */
interface SlotEvents {
  /** A picture that was sought has come. */
  readonly arrived: () => void
  readonly failed: () => void
}

/** The media elements that recordings are played from: one for what is heard, and one that is got ready meanwhile. */
export class MediaSlots {
  readonly #slots: Slot[] = []
  readonly #urlOf: (stretch: string) => string
  readonly #events: SlotEvents

  constructor(urlOf: (stretch: string) => string, events: SlotEvents) {
    this.#urlOf = urlOf
    this.#events = events
  }

  /** One that holds a recording and stands nearest to a time of it, or is made to hold it. */
  nearest(stretch: string, at: Ms, playing: Slot | null): Slot {
    const time = at / 1000
    const [nearest] = this.#slots
      .filter((slot) => slot.stretch === stretch)
      .sort((a, b) => Math.abs(a.media.currentTime - time) - Math.abs(b.media.currentTime - time))
    return nearest ?? this.#load(stretch, playing)
  }

  /** One that holds a recording and is not the one that plays. */
  beside(stretch: string, playing: Slot | null): Slot {
    return this.#slots.find((slot) => slot.stretch === stretch && slot !== playing) ?? this.#load(stretch, playing)
  }

  /** Lets go of everything that was loaded. */
  release(): void {
    for (const slot of this.#slots) {
      slot.stretch = ''
      slot.media.removeAttribute('src')
    }
  }

  #load(stretch: string, playing: Slot | null): Slot {
    const slot = this.#slots.find((one) => one !== playing) ?? this.#add()
    slot.stretch = stretch
    slot.media.src = this.#urlOf(stretch)
    return slot
  }

  #add(): Slot {
    const media = document.createElement('video')
    media.preload = 'auto'
    media.playsInline = true
    const slot: Slot = { media, stretch: '' }
    for (const event of ['seeked', 'loadeddata'] as const) media.addEventListener(event, this.#events.arrived)
    media.addEventListener('error', () => {
      if (slot.stretch !== '') this.#events.failed()
    })
    this.#slots.push(slot)
    return slot
  }
}
