/** What runs in a page of Firefox before its own scripts. */
export {}

declare global {
  interface Window {
    /** Clicks that were given to the practice microphone so far. */
    clicksGiven: number
    /** When the first click was given, as the others' beat has it, and when arrow keys were pressed, in ms of the page's clock. */
    notedTimes: () => { readonly first: number, readonly keys: readonly number[] }
    /** Where the middle is of the first element of a selector that says something and is not disabled. @param bare nothing lies over it */
    placeOf: (selector: string, says: string, bare: boolean) => { readonly x: number, readonly y: number } | null
  }
}

const EVERY = 2000
const keys: number[] = []
let first = Infinity
let turn = 0
window.clicksGiven = 0

/** Notes when the practice click is heard. A page sees the time of sound move in steps, late by up to one of them: the soonest of all clicks tells their beat. */
const start = Object.getOwnPropertyDescriptor(AudioBufferSourceNode.prototype, 'start')?.value as (this: AudioBufferSourceNode, when?: number) => void
AudioBufferSourceNode.prototype.start = function begin(this: AudioBufferSourceNode, when = 0) {
  const { context } = this
  let next = when
  // A device that is opened again begins its clicks anew; those of the one before do not count any more.
  turn += 1
  const mine = turn
  first = Infinity
  window.clicksGiven = 0
  setInterval(() => {
    if (mine !== turn || context.currentTime < next) return
    first = Math.min(first, performance.now() - (context.currentTime - next) * 1000 - window.clicksGiven * EVERY)
    window.clicksGiven += 1
    next += EVERY / 1000
  }, 1)
  start.call(this, when)
}
addEventListener('keydown', (event) => { if (event.key.startsWith('Arrow')) keys.push(event.timeStamp) }, { capture: true })
window.notedTimes = () => ({ first, keys })

window.placeOf = (selector, says, bare) => {
  const pattern = new RegExp(says)
  const saying = Array.from(document.querySelectorAll(selector))
    .filter((one) => !one.matches(':disabled') && (pattern.test(one.textContent ?? '') || pattern.test(one.getAttribute('aria-label') ?? '')))
  for (const one of saying) {
    one.scrollIntoView({ block: 'nearest' })
    const box = one.getBoundingClientRect()
    const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
    if (box.width > 0 && (!bare || one.contains(document.elementFromPoint(middle.x, middle.y)))) return middle
  }
  return null
}
