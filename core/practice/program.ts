import type { PaintContext } from '@core/paint'
import type { Ms, Point, Size } from '@core/model'

/** How long the program goes on before it is as it was at first. */
export const PROGRAM_LENGTH: Ms = 12_000

const [PAPER, INK, BAR, CHOSEN, LINE, HEAD] = ['#FBFAF6', '#1D2B28', '#3C7D90', '#C9622B', '#C9CFC8', '#26443E']
const HOURS = ['0:20', '3:10', '6:35', '9:25', '12:45', '15:30', '18:50', '21:40']
const HEIGHTS = [0.92, 0.55, 0.18, 0.5, 0.95, 0.6, 0.22, 0.58]

/** Where the pointer goes, and when: it rests between. In fractions of the window. */
const WAY: readonly { readonly from: Ms; readonly to: Ms; readonly end: Point }[] = [
  { from: 0, to: 1200, end: { x: 0.22, y: 0.5 } },
  { from: 4500, to: 5700, end: { x: 0.68, y: 0.62 } },
  { from: 9000, to: 10_200, end: { x: 0.9, y: 0.12 } },
]
const START: Point = { x: 0.9, y: 0.12 }

/** Where the pointer is at a time of the program. */
function pointerAt(at: Ms): Point {
  let start = START
  for (const { from, to, end } of WAY) {
    if (at < from) return start
    if (at < to) {
      const share = (at - from) / (to - from)
      return { x: start.x + (end.x - start.x) * share, y: start.y + (end.y - start.y) * share }
    }
    start = end
  }
  return start
}

/** Which of the bars is chosen by then: each is by a click where the pointer comes to rest. */
function chosenAt(at: Ms): number {
  if (at >= 1200 && at < 5700) return 1
  return at >= 5700 && at < 10_200 ? 5 : -1
}

/**
 * Draws the practice window: a small program with a table of tides, in which a pointer moves, clicks and rests, so that showing a window
 * can be tried where there is none.
 * @param at ms since it was opened
 */
export function paintProgram<Image>(ctx: PaintContext<Image>, { width, height }: Size, at: Ms): void {
  const time = at % PROGRAM_LENGTH
  const unit = height / 100
  const box = (x: number, y: number, w: number, h: number, colour: string): void => {
    ctx.fillStyle = colour
    ctx.fillRect(x, y, w, h)
  }
  const write = (text: string, x: number, y: number, size: number, colour: string): void => {
    ctx.fillStyle = colour
    ctx.font = `${String(Math.round(size * unit))}px sans-serif`
    ctx.fillText(text, x, y)
  }
  box(0, 0, width, height, PAPER)
  box(0, 0, width, 10 * unit, HEAD)
  write('Tide table · Kelphaven', 4 * unit, 6.7 * unit, 4.2, PAPER)
  const chosen = chosenAt(time)
  const across = (width - 24 * unit) / HOURS.length
  for (const [n, hour] of HOURS.entries()) {
    const [x, tall] = [12 * unit + n * across, (HEIGHTS[n] ?? 0) * 50 * unit]
    box(x + across * 0.2, 78 * unit - tall, across * 0.6, tall, n === chosen ? CHOSEN : BAR)
    write(hour, x + across * 0.22, 84 * unit, 3.4, INK)
  }
  box(10 * unit, 78 * unit, width - 20 * unit, 0.4 * unit, LINE)
  const hour = HOURS[chosen]
  write(
    hour === undefined ? 'Click a tide to see its height' : `${hour}: ${((HEIGHTS[chosen] ?? 0) * 4.1).toFixed(1)} m`,
    12 * unit,
    19 * unit,
    4,
    INK,
  )
  const { x, y } = pointerAt(time)
  ctx.fillStyle = INK
  ctx.beginPath()
  ctx.moveTo(x * width, y * height)
  ctx.lineTo(x * width, y * height + 6 * unit)
  ctx.lineTo(x * width + 1.6 * unit, y * height + 4.6 * unit)
  ctx.lineTo(x * width + 4.2 * unit, y * height + 4.4 * unit)
  ctx.closePath()
  ctx.fill()
}
