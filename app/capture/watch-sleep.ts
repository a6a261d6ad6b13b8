/** How often a page looks at its clocks, in ms, and what it takes for sleep: a longer gap on either of them. */
const BEAT = 500
const ASLEEP = 10_000

/**
 * Notices that the machine was asleep: the page's clock, which may stand still in sleep, or the clock on the wall has jumped.
 * @param tell is given when it was last awake, on the page's clock, and for how long it was not, in ms
 * @returns what ends it
 */
export function watchSleep(tell: (awake: number, asleep: number) => void): () => void {
  let page = performance.now()
  let wall = Date.now()
  const timer = setInterval(() => {
    const [awake, gone] = [page, Math.max(performance.now() - page, Date.now() - wall)]
    page = performance.now()
    wall = Date.now()
    if (gone > ASLEEP) tell(awake, gone)
  }, BEAT)
  return () => {
    clearInterval(timer)
  }
}
