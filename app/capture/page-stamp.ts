/** A stamp that is later than this by the reader's own clock was not made by it, in ms. */
const SURELY_AHEAD = 5

/**
 * When a block was captured, on the page's clock. Blocks that are read in a worker are stamped on the page's clock as long as they
 * were taken before the stream had been handed over, and on the worker's own from then on. A worker is younger than its page: what
 * would lie in its future is on the page's clock.
 * @param stamp of the block, in ms
 * @param now the worker's clock
 * @param younger how much later than the page's the worker's clock began, in ms
 */
export const pageStamp = (stamp: number, now: number, younger: number): number => (stamp > now + SURELY_AHEAD ? stamp : stamp + younger)
