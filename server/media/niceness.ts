import { settings } from '@server/settings'

/** How far work that nobody waits for at a desk lets everything else on the machine go first, 0 to 19. */
const NICENESS = {
  /** Who records or watches is not to wait for a file of somebody's. */
  film: 19,
  listening: 19,
  backdrop: 5,
} as const

/** Niceness of a kind of work, as the operator wants it: on a machine that does nothing else it has nobody to let go first. */
export const nicenessOf = (work: keyof typeof NICENESS): number => (settings().yields ? NICENESS[work] : 0)
