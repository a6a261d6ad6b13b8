import type { Ms } from './time'

export const DELIVERY_STATES = ['queued', 'paused', 'making', 'checking', 'done', 'failed', 'cancelled'] as const
export type DeliveryState = (typeof DELIVERY_STATES)[number]

/** States in which a file is being made, or will be by itself. */
export const UNDER_WAY = ['queued', 'making', 'checking'] as const satisfies readonly DeliveryState[]
/** States from which a file may still come: what it is made of must stay. */
export const UNFINISHED = ['paused', ...UNDER_WAY] as const satisfies readonly DeliveryState[]

/** Whether a file is being made, or will be by itself. */
export const isUnderWay = (state: DeliveryState): boolean => UNDER_WAY.some((one) => one === state)

/** What was measured in the finished file. */
export interface DeliveryFacts {
  readonly bytes: number
  /** The longest of container, picture and sound. */
  readonly length: Ms
  /** Of the picture; 0 and nothing in a file of sound. */
  readonly width: number
  readonly height: number
  readonly frames: number
  readonly frameRate: number
  readonly videoCodec: string
  readonly audioCodec: string
  /** Whether what is said can be read in it; absent of those made before that was noted. */
  readonly captions?: boolean
  /** Integrated loudness in LUFS; null when there is no sound to speak of. */
  readonly loudness: number | null
  /** dBTP */
  readonly truePeak: number | null
  readonly madeIn: Ms
  /** How many of its frames had to be encoded; the others had been made before. */
  readonly encoded: number
}
