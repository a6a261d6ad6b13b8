import type { SlideId, StrokeId } from './id'
import type { Ms } from './time'

/** `dt`: ms since the stroke began; `x`, `y`: fractions of the slide; `p`: pressure, 0 to 1. */
export interface InkPoint {
  readonly dt: Ms
  readonly x: number
  readonly y: number
  readonly p: number
}

export const INK_COLOURS = ['night', 'brick', 'moss', 'marigold', 'plum', 'shell'] as const
export type InkColour = (typeof INK_COLOURS)[number]

export const INK_WIDTH_NAMES = ['fine', 'broad'] as const
export type InkWidth = (typeof INK_WIDTH_NAMES)[number]
/** Widths as fractions of the slide's height. */
export const INK_WIDTHS: Readonly<Record<InkWidth, number>> = { fine: 0.006, broad: 0.014 }

export const INK_TOOLS = ['pen', 'marker', 'label'] as const
/** `marker` is broad and lets what it lies on be read through it. `label` is typed words. */
export type InkTool = (typeof INK_TOOLS)[number]

/** Signs of the longest label. */
export const LONGEST_LABEL = 120

/** A marker's line is this many times a pen's of the same width. */
export const MARKER_BREADTH = 3.2

export interface Stroke {
  readonly id: StrokeId
  /** Absent: a pen. */
  readonly tool?: InkTool
  /** What a label says; its only point is its left edge, half way up. */
  readonly text?: string
  /** Drawn with straight edges and sharp corners: what was drawn by hand was taken for a line, arrow, box or ellipse. */
  readonly clean?: boolean
  readonly slide: SlideId
  readonly colour: InkColour
  readonly width: InkWidth
  /** Whether `p` was felt by a pen, or is only assumed. */
  readonly pressure: boolean
  /** In time order; at least one. */
  readonly points: readonly InkPoint[]
}
