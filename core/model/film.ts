import type { Size } from './geometry'
import type { SlideId, StretchId } from './id'
import type { Programme } from './programme'
import type { Slide } from './slide'
import type { Stretch } from './take'

/** A programme with everything it names: all that is needed to say what is on screen at any time. */
export interface Film {
  readonly programme: Programme
  readonly shape: Size
  readonly slides: ReadonlyMap<SlideId, Slide>
  readonly stretches: ReadonlyMap<StretchId, Stretch>
}
