import { faceRect } from '@core/layout'
import { GOP_FRAMES } from './frame-grid'
import { isVideo, unreachable } from '@core/model'
import type { Format, Ms, Quality } from '@core/model'
import type { RenderPlan } from './render-plan'
import type { Segment, SegmentKind } from './segment'

/** What a delivery is likely to cost. */
export interface Estimate {
  readonly bytes: number
  readonly time: Ms
}

/** How fast this machine has been with files of one format, against the one the figures below were measured on; null until it is known. */
export interface MachineRecord {
  readonly slowness: number | null
}

/** What some of a talk's own pictures took when they were made on trial, against what was reckoned for them. */
export interface Probe {
  /** By kind; those that the talk has none of are missing. */
  readonly bits: Readonly<Partial<Record<SegmentKind, number>>>
  /** Null when all of them were there already. */
  readonly time: number | null
}
/** Before anything was tried. */
const UNTRIED: Probe = { bits: {}, time: null }

/** How far an estimate may be off, as a part of what comes: with a probe, and with the figures below alone. */
export const STATED_ERROR = { tried: { size: 0.25, time: 0.3 }, untried: { size: 1, time: 1 } } as const

/** Bits a pixel of the inset and frame, and of a still page each time it is stored, by quality. Measured on the demo talk. */
const BITS: Readonly<Record<Quality, { readonly moving: number; readonly page: number }>> = {
  small: { moving: 0.03, page: 0.13 },
  good: { moving: 0.06, page: 0.2 },
  fine: { moving: 0.12, page: 0.32 },
}
const VOICE_BITS_A_SECOND: Readonly<Record<Format, number>> = { mp4: 132_000, m4a: 132_000, webm: 70_000, mp3: 129_000, wav: 768_000 }
/** A size is found by making the pictures about so often. */
const TRIES_FOR_SIZE = 2
/** Pictures as fine as is of any use take about so much of what good ones take. */
const FINEST = 4
/** Of a size to stay under this much is used, about. */
const OF_SIZE = 0.95
/**
 * Milliseconds of the whole machine, fitted to 206 parts of the demo talk in nine recipes. Of a still picture, made with others, and of
 * a megapixel of it; of a part in which ink grows on a page, and of a megapixel of each frame in which it does; of a part with a face,
 * of a megapixel of each of its frames by how many of its rows move, of the face in a frame, and of a megapixel of a frame in which ink
 * grows besides; of a part that is drawn whole with the face in it, and of a megapixel of its frames.
 */
const COST = {
  still: 35,
  stillArea: 30,
  inked: 200,
  inkedFrame: 2.2,
  faced: 183,
  rows: 6.3,
  face: 0.97,
  facedInk: 7.2,
  drawn: 366,
  drawnFrame: 18,
} as const
/** Rows above and below a face that are encoded with it, as a part of the picture. */
const AROUND = 0.09
/** What there is to be done before, and putting a file together and looking at it: of pictures, and of sound alone. */
const AROUND_COST = { pictures: { before: 580, after: 320 }, sound: { before: 200, after: 200 } } as const
/** Milliseconds that a second of voice takes one processor. Beside pictures the other goes on with those. */
const VOICE_COST: Readonly<Record<Format, number>> = { mp4: 18, m4a: 18, webm: 18, mp3: 19, wav: 9 }
const PROCESSORS = 2

/** Which part of a picture's rows is encoded in every frame. Where they cannot be encoded apart from the others, all are. */
function rowsThatMove({ inset }: Pick<Segment, 'inset'>, { format, bits, size, frame }: RenderPlan): number {
  if (inset === null) return 0
  const rows = (faceRect(inset.framing)?.h ?? 1) + AROUND
  return format !== 'mp4' || bits.kind === 'rate' || frame.width !== size.width || frame.height !== size.height ? 1 : Math.min(1, rows)
}

/** What making a segment is likely to cost, in ms on the machine the figures were measured on. */
export function costOfSegment(segment: Segment, plan: RenderPlan): Ms {
  const megapixels = (plan.size.width * plan.size.height) / 1e6
  const inked = (segment.busy / 1000) * plan.fps * megapixels
  switch (segment.kind) {
    case 'still':
      return COST.still + COST.stillArea * megapixels
    case 'moving':
      return segment.inset === null
        ? COST.inked + COST.inkedFrame * inked
        : COST.faced + segment.frames * (COST.rows * rowsThatMove(segment, plan) * megapixels + COST.face) + COST.facedInk * inked
    case 'drawn':
      return COST.drawn + COST.drawnFrame * megapixels * segment.frames
    default:
      return unreachable(segment.kind)
  }
}

/** What a segment's pictures are likely to take, in bits. */
export function bitsOfSegment(segment: Segment, plan: RenderPlan): number {
  const pixels = plan.size.width * plan.size.height
  const { page, moving } = BITS[plan.quality]
  // A page is stored whole once for every group.
  const groups = Math.max(1, segment.frames / GOP_FRAMES)
  const rect = segment.inset === null ? undefined : faceRect(segment.inset.framing)
  const inset = rect === undefined ? 0 : rect.w * rect.h * pixels
  return groups * pixels * page + segment.frames * inset * moving
}

/** How long one processor is likely to be at the voice. */
const timeOfVoice = ({ length, format }: Pick<RenderPlan, 'length' | 'format'>): Ms => (length / 1000) * VOICE_COST[format]

/** What the voice is likely to cost, as `costOfSegment` says it of pictures. */
export const costOfVoice = (plan: Pick<RenderPlan, 'length' | 'format'>): Ms => timeOfVoice(plan) / (isVideo(plan.format) ? PROCESSORS : 1)

const costAround = ({ format }: Pick<RenderPlan, 'format'>): { readonly before: Ms; readonly after: Ms } =>
  AROUND_COST[isVideo(format) ? 'pictures' : 'sound']

/** What a delivery takes on the machine the figures were measured on. */
function reckonedTime(plan: RenderPlan): Ms {
  const pictures = plan.segments.reduce((sum, segment) => sum + costOfSegment(segment, plan), 0)
  const { before, after } = costAround(plan)
  // Where there is little to draw, all waits for the voice, which one processor makes.
  return before + after + Math.max(timeOfVoice(plan), costOfVoice(plan) + pictures * (plan.bits.kind === 'size' ? TRIES_FOR_SIZE : 1))
}

/** What of the time that was reckoned for a delivery comes after its pictures and its voice. @param time of all of it */
export const timeAfterPictures = (plan: RenderPlan, time: Ms): Ms => (time * costAround(plan).after) / reckonedTime(plan)

/**
 * Size and time of a delivery before it is made.
 * @param probe of the talk's own pictures made as this plan has them
 */
export function estimate(plan: RenderPlan, machine: MachineRecord = { slowness: null }, probe: Probe = UNTRIED): Estimate {
  const sum = (of: (segment: Segment) => number): number => plan.segments.reduce((total, segment) => total + of(segment), 0)
  const { format, bits } = plan
  const seconds = plan.length / 1000
  const pictures = sum((segment) => bitsOfSegment(segment, plan) * (probe.bits[segment.kind] ?? 1))
  const free = pictures + seconds * VOICE_BITS_A_SECOND[format]
  const bounded = bits.kind === 'rate' ? Math.min(free, seconds * (bits.most * 1000 + VOICE_BITS_A_SECOND[format])) : free
  // What the last files took says it all together; without any, what the trial took is all that is known of this machine.
  const slowness = machine.slowness ?? probe.time ?? 1
  return {
    bytes: Math.round(
      bits.kind === 'size' && isVideo(format)
        ? Math.min(bits.most * OF_SIZE, (pictures * FINEST + seconds * VOICE_BITS_A_SECOND[format]) / 8)
        : bounded / 8,
    ),
    time: Math.round(reckonedTime(plan) * slowness),
  }
}
