import { faceRect } from '@core/layout'
import { unreachable } from '@core/model'
import type { Ms, Quality } from '@core/model'
import type { RenderPlan } from './render-plan'
import type { Segment } from './segment'

/** What a delivery is likely to cost. */
export interface Estimate {
  readonly bytes: number
  readonly time: Ms
}

/** How fast this machine has been, against the one the figures below were measured on; 1 until it is known. */
export interface MachineRecord {
  readonly slowness: number
}

/** Bits a pixel of the inset and frame, and of a still page each time it is stored, by quality. Measured on the demo talk. */
const BITS: Readonly<Record<Quality, { readonly moving: number, readonly page: number }>> = {
  small: { moving: 0.03, page: 0.13 },
  good: { moving: 0.06, page: 0.2 },
  fine: { moving: 0.12, page: 0.32 },
}
const VOICE_BITS_A_SECOND = 132_000
/** A page is stored whole once for every so many seconds. */
const GROUP_SECONDS = 4
/** Milliseconds to make a second of moving film of one megapixel, or a still group; a fixed part for a segment and a delivery. */
const MOVING_COST = 165
const STILL_COST = 200
/** A frame drawn whole, for each megapixel. */
const DRAWN_COST = 22
const SEGMENT_COST = 140
const DELIVERY_COST = 900

/** What making a segment is likely to cost, in ms on the machine the figures were measured on. */
export function costOfSegment(segment: Segment, plan: RenderPlan): Ms {
  const megapixels = (plan.size.width * plan.size.height) / 1e6
  const seconds = segment.frames / plan.rate
  switch (segment.kind) {
    case 'still': return SEGMENT_COST + STILL_COST * megapixels
    case 'moving': return SEGMENT_COST + MOVING_COST * megapixels * seconds
    case 'drawn': return SEGMENT_COST + DRAWN_COST * megapixels * segment.frames
    default: return unreachable(segment.kind)
  }
}

function bitsOfSegment(segment: Segment, plan: RenderPlan): number {
  const pixels = plan.size.width * plan.size.height
  const seconds = segment.frames / plan.rate
  const { page, moving } = BITS[plan.quality]
  const groups = Math.max(1, seconds / GROUP_SECONDS)
  const rect = segment.inset === null ? undefined : faceRect(segment.inset.framing)
  const inset = rect === undefined ? 0 : rect.w * rect.h * pixels
  return groups * pixels * page + segment.frames * inset * moving
}

/** Rough size and time of a delivery before it is made. */
export function estimate(plan: RenderPlan, machine: MachineRecord = { slowness: 1 }): Estimate {
  const sum = (of: (segment: Segment, plan: RenderPlan) => number): number =>
    plan.segments.reduce((total, segment) => total + of(segment, plan), 0)
  const sound = (plan.length / 1000) * VOICE_BITS_A_SECOND
  return {
    bytes: Math.round((sum(bitsOfSegment) + sound) / 8),
    time: Math.round((DELIVERY_COST + sum(costOfSegment)) * machine.slowness),
  }
}
