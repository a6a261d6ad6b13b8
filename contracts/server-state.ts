import type { Ms } from '@core/model'

/** Queues that workers serve, each on its own. */
export const QUEUE_NAMES = ['takes', 'decks', 'letters', 'films', 'listening', 'ahead'] as const
export type QueueName = (typeof QUEUE_NAMES)[number]

/** What waits in a queue. */
export interface QueueState {
  readonly name: QueueName
  /** Jobs that could be done now and are not. */
  readonly waiting: number
  readonly underWay: number
  /** Jobs that are to be done at a later time. */
  readonly later: number
  /** Jobs that were tried as often as they may. */
  readonly failed: number
  /** How long the one that waits longest does. */
  readonly oldest: Ms
}

/** Films made on a day. */
export interface FilmDay {
  /** YYYY-MM-DD, by the database's clock. */
  readonly day: string
  readonly made: number
  readonly failed: number
  readonly minutes: number
}

/** What could not be done lately. */
export interface Failure {
  readonly at: string
  readonly what: 'film' | 'deck' | 'take' | 'letter'
  /** As whoever asked for it was told. */
  readonly sentence: string
}

/** What operators see of their server: nothing that anybody wrote or recorded. */
export interface ServerState {
  readonly room: { readonly left: number; readonly floor: number; readonly whole: number }
  /** Bytes that are kept, by what they are. */
  readonly held: readonly { readonly what: 'brought' | 'recorded' | 'films' | 'taken along'; readonly bytes: number }[]
  readonly queues: readonly QueueState[]
  /** Workers that gave a sign of life lately. */
  readonly workers: number
  /** Takes that are being recorded. */
  readonly recordings: number
  readonly people: number
  readonly talks: number
  readonly films: readonly FilmDay[]
  readonly failures: readonly Failure[]
}

/** Whether a server can do its work, part by part. */
export interface Readiness {
  readonly ready: boolean
  readonly database: boolean
  /** Whether the schema is the one that this version wants. */
  readonly schema: boolean
  readonly store: boolean
  readonly workers: boolean
}
