import type { Ms } from '@core/model'
import type { ShownText, WrittenText } from '@core/words'

/** A stretch that is to be listened to. */
export interface ListenOrder {
  /** File of its voice: samples of 48 kHz, mono, 16 bits, from its beginning. */
  readonly voice: string
  readonly peaks: readonly number[]
  readonly length: Ms
  /** What may be read from: notes, of the slides that are shown and of others. */
  readonly texts: readonly WrittenText[]
  /** What may be said besides, as sounds: words on slides, names, terms. */
  readonly besides: readonly (readonly string[])[]
  readonly shown: readonly ShownText[]
}

export interface ListenOptions {
  /** The most that one program may take, in ms. */
  readonly time: number
  /** How much others are let go first, 0 to 19. */
  readonly niceness: number
  readonly signal?: AbortSignal | undefined
}
