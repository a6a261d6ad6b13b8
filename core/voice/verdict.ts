import type { Ms } from '@core/model'

/** A microphone's level over a twentieth of a second, in dBFS. */
export interface LevelBlock {
  readonly at: Ms
  readonly peak: number
  readonly rms: number
}

export type LevelVerdict = 'waiting' | 'nothing' | 'quiet' | 'good' | 'clipping'

/** Time that a level is judged by, in ms. */
const JUDGED: Ms = 3000
const NOTHING = -58
const QUIET = -30
const CLIPPING = -0.5

/** Length of a block, in ms. */
const BLOCK: Ms = 50

/**
 * The blocks that a level is judged by once another is heard: `JUDGED` ms of sound, however long they took to come. A machine that has
 * much to do loses some.
 */
export const heard = (blocks: readonly LevelBlock[], block: LevelBlock): readonly LevelBlock[] => [
  ...blocks.slice(1 - JUDGED / BLOCK),
  block,
]

/** What a level means, by its loudest moments of the last seconds. Nothing is called nothing before it was listened to for that long. */
export function levelVerdict(blocks: readonly LevelBlock[]): LevelVerdict {
  const peak = blocks.reduce((most, block) => Math.max(most, block.peak), -Infinity)
  if (peak >= CLIPPING) return 'clipping'
  if (peak >= QUIET) return 'good'
  if (blocks.length * BLOCK < JUDGED * 0.8) return 'waiting'
  return peak < NOTHING ? 'nothing' : 'quiet'
}

export type RoomVerdict = 'still' | 'usual' | 'noisy' | 'loud'

/** A room that was listened to while nobody spoke. */
export interface Room {
  /** dBFS, the mean level of its quieter three quarters: a cough or a chair does not count. */
  readonly level: number
  readonly verdict: RoomVerdict
}

const mean = (levels: readonly number[]): number =>
  10 * Math.log10(levels.reduce((sum, level) => sum + 10 ** (level / 10), 0) / Math.max(1, levels.length))

/** Up to which level a room is how noisy, in dBFS; any other is loud. */
const ROOMS: readonly { readonly below: number; readonly verdict: RoomVerdict }[] = [
  { below: -60, verdict: 'still' },
  { below: -48, verdict: 'usual' },
  { below: -38, verdict: 'noisy' },
]

/** How noisy a room is. @param blocks of a few seconds in which nobody spoke */
export function roomOf(blocks: readonly LevelBlock[]): Room {
  const levels = blocks.map((block) => block.rms).sort((a, b) => a - b)
  const level = levels.length === 0 ? -Infinity : mean(levels.slice(0, Math.max(1, Math.ceil(levels.length * 0.75))))
  return { level, verdict: ROOMS.find(({ below }) => level < below)?.verdict ?? 'loud' }
}
