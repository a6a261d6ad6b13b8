import type { Ms, Picture, SlideId } from '@core/model'

/** What is shown next at the Lectern, and of which slide it is. */
export interface Coming {
  readonly slide: SlideId
  readonly talkId: string
  readonly picture: Picture
  /** What it is, in a word or two. */
  readonly say: string
}

/** A slide's share of the aisle. */
export interface TimelineBlock {
  readonly id: string
  readonly title: string
  readonly number: number
  readonly length: Ms
  /** `changed`: recorded, and its slide looks otherwise since. */
  readonly state: 'planned' | 'rehearsed' | 'recorded' | 'changed'
}

/** A slab, or several that are too narrow to be drawn apart, with its place in px. */
export interface Drawn {
  readonly timelineBlocks: readonly TimelineBlock[]
  readonly x: number
  readonly width: number
  readonly from: Ms
  readonly to: Ms
  readonly state: TimelineBlock['state'] | 'mixed'
}

/** Narrowest slab that can still be hit, in px. */
const NARROWEST = 12

/**
 * Lays blocks along a scale, neighbours that would be too narrow together.
 * @param scale from ms to px
 */
export function layBlocks(timelineBlocks: readonly TimelineBlock[], scale: (at: Ms) => number): readonly Drawn[] {
  const drawn: Drawn[] = []
  let at = 0
  for (const slab of timelineBlocks) {
    const to = at + slab.length
    const last = drawn.at(-1)
    if (last !== undefined && (last.width < NARROWEST || scale(to) - scale(at) < NARROWEST / 2)) {
      drawn[drawn.length - 1] = {
        ...last,
        timelineBlocks: [...last.timelineBlocks, slab],
        to,
        width: scale(to) - last.x,
        state: last.state === slab.state ? last.state : 'mixed',
      }
    } else {
      drawn.push({ timelineBlocks: [slab], x: scale(at), width: scale(to) - scale(at), from: at, to, state: slab.state })
    }
    at = to
  }
  return drawn
}
