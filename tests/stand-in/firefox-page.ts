/** What runs in a page of Firefox before its own scripts. */
export {}

declare global {
  interface Window {
    /** Clicks that were given to the practice microphone so far. */
    clicksGiven: number
    /**
     * How long after the first click each arrow key was pressed, and by how much the sound's clock fell behind the page's from the
     * first to the last, in ms.
     */
    notedKeys: () => { readonly pressed: readonly number[]; readonly fellBehind: number }
    /** Where the middle is of the first element of a selector that says something and is not disabled. @param bare nothing lies over it */
    placeOf: (selector: string, says: string, bare: boolean) => { readonly x: number; readonly y: number } | null
  }
}

const EVERY = 2000
/**
 * How long the soonest sight of the sound's clock is remembered, in ms: the clock stands still now and then when the machine is short
 * of time.
 */
const REMEMBERED = 3000
const keys: { readonly at: number; readonly offset: number }[] = []
/** What was seen of the sound's clock: when, and by how much the page's clock is ahead of it, in ms. */
let sights: readonly { readonly at: number; readonly offset: number }[] = []
let watching: ReturnType<typeof setInterval> | undefined
window.clicksGiven = 0

/**
 * Follows the practice click. A page sees the time of sound move in steps, late by more or less: the soonest it saw it lately says how
 * the two clocks stand.
 */
const start = Object.getOwnPropertyDescriptor(AudioBufferSourceNode.prototype, 'start')?.value as (
  this: AudioBufferSourceNode,
  when?: number,
) => void
AudioBufferSourceNode.prototype.start = function begin(this: AudioBufferSourceNode, when = 0) {
  const { context } = this
  // A device that is opened again begins its clicks anew; those of the one before do not count any more.
  clearInterval(watching)
  sights = []
  watching = setInterval(() => {
    const now = performance.now()
    const since = (context.currentTime - when) * 1000
    const offset = now - since
    sights = [...sights.filter((one) => one.offset < offset && one.at > now - REMEMBERED), { at: now, offset }]
    window.clicksGiven = Math.max(0, Math.floor(since / EVERY) + 1)
  }, 1)
  start.call(this, when)
}
addEventListener(
  'keydown',
  (event) => {
    if (event.key.startsWith('Arrow')) keys.push({ at: event.timeStamp, offset: sights[0]?.offset ?? NaN })
  },
  { capture: true },
)
window.notedKeys = () => {
  const offsets = keys.map(({ offset }) => offset)
  return { pressed: keys.map(({ at, offset }) => at - offset), fellBehind: Math.max(...offsets) - Math.min(...offsets) }
}

window.placeOf = (selector, says, bare) => {
  const pattern = new RegExp(says)
  const saying = Array.from(document.querySelectorAll(selector)).filter(
    (one) => !one.matches(':disabled') && (pattern.test(one.textContent ?? '') || pattern.test(one.getAttribute('aria-label') ?? '')),
  )
  for (const one of saying) {
    one.scrollIntoView({ block: 'nearest' })
    const box = one.getBoundingClientRect()
    const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    if (box.width > 0 && (!bare || one.contains(document.elementFromPoint(middle.x, middle.y)))) return middle
  }
  return null
}
