import type { Ms } from '@core/model'

/** What a listener makes of a live level: whether somebody speaks, and what the room is like. */
export interface Hearing {
  /** dBFS, followed slowly upwards and quickly downwards; null before anything was heard. */
  readonly room: number | null
  readonly speaking: boolean
  /** When speaking began or ended last. */
  readonly since: Ms
  /** When speech was last loud enough. */
  readonly loud: Ms
}

export const NOTHING_HEARD: Hearing = { room: null, speaking: false, since: 0, loud: -Infinity }

/** Speech is this much above the room, dB, and never below `LEAST`, dBFS. */
const ABOVE = 7
const LEAST = -50
/** Gaps between syllables are no longer than this, in ms. */
const HOLD: Ms = 240
/** How fast the room is followed, dB for each block: a little up, at once down. */
const RISE = 0.15

/** What a listener makes of the next block. @param rms of a twentieth of a second, dBFS; @param at ms, on any clock */
export function listened(before: Hearing, rms: number, at: Ms): Hearing {
  // What is heard first is taken for the room: nobody begins in the middle of a word.
  const known = before.room ?? rms
  const room = Math.max(-90, rms < known ? (rms + known) / 2 : Math.min(known + RISE, rms))
  const loud = rms > Math.max(LEAST, known + ABOVE) ? at : before.loud
  const speaking = at - loud <= HOLD
  return { room, loud, speaking, since: speaking === before.speaking ? before.since : at }
}
