import type { Ms } from './time'

export const DELIVERY_STATES = ['queued', 'making', 'checking', 'done', 'failed', 'cancelled'] as const
export type DeliveryState = (typeof DELIVERY_STATES)[number]

/** What was measured in the finished file. */
export interface DeliveryFacts {
  readonly bytes: number
  /** The longest of container, picture and sound. */
  readonly length: Ms
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly frameRate: number
  readonly videoCodec: string
  readonly audioCodec: string
  /** Integrated loudness in LUFS; null when there is no sound to speak of. */
  readonly loudness: number | null
  /** dBTP */
  readonly truePeak: number | null
  readonly madeIn: Ms
  /** How many of its frames had to be encoded; the others had been made before. */
  readonly encoded: number
}
