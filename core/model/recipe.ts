import type { Ms } from './time'

export const LINES = [480, 720, 1080, 2160] as const
/** Height of the video in pixels. */
export type Lines = (typeof LINES)[number]

export const QUALITIES = ['small', 'good', 'fine'] as const
export type Quality = (typeof QUALITIES)[number]

/** What is done when the film is longer than the limit: `hold` refuses, `warn` says so and goes ahead. */
export type LimitRule =
  | { readonly kind: 'none' }
  | { readonly kind: 'warn' | 'hold', readonly limit: Ms }

/** What file is wanted. */
export interface Recipe {
  readonly lines: Lines
  readonly quality: Quality
  /** Without its ending. */
  readonly name: string
  readonly limit: LimitRule
}

/** Frames in a second of every delivery. */
export const FRAME_RATE = 30
