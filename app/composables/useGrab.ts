import type { Ref } from 'vue'
import type { Point } from '@core/model'

/**
 * Takes hold of something on a picture, and follows the hand until that lets go.
 * @param stage the picture
 * @param moved hears how far the hand has come since, in fractions of the picture
 * @param left hears that the hand lets go
 */
export function useGrab<Held>(stage: Ref<HTMLElement | null>, moved: (held: Held, by: Point) => void, left: () => void) {
  let grab: { readonly from: Point; readonly held: Held } | null = null

  const place = (event: PointerEvent): Point => {
    const box = stage.value?.getBoundingClientRect()
    return box === undefined ? { x: 0, y: 0 } : { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }

  function down(event: PointerEvent, take: () => Held): void {
    event.stopPropagation()
    if (event.button !== 0 || !(event.currentTarget instanceof HTMLElement)) return
    event.preventDefault()
    event.currentTarget.setPointerCapture(event.pointerId)
    event.currentTarget.focus()
    grab = { from: place(event), held: take() }
  }

  function move(event: PointerEvent): void {
    if (grab === null) return
    const { x, y } = place(event)
    moved(grab.held, { x: x - grab.from.x, y: y - grab.from.y })
  }

  function up(): void {
    if (grab === null) return
    grab = null
    left()
  }

  /** Listeners of what can be held. @param take says what is, once it is */
  return (take: () => Held) => ({
    pointerdown: (event: PointerEvent): void => {
      down(event, take)
    },
    pointermove: move,
    pointerup: up,
    pointercancel: up,
  })
}

/** A step with an arrow key, and a large one, as fractions of the picture. */
const STEP = 0.01
const LARGE_STEP = 0.05

const WAYS: Readonly<Record<string, Point>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
}

/** How far a key moves what can be held, in fractions of the picture; null: not at all. */
export function shiftBy({ key, shiftKey }: KeyboardEvent): Point | null {
  const way = WAYS[key]
  const step = shiftKey ? LARGE_STEP : STEP
  return way === undefined ? null : { x: way.x * step, y: way.y * step }
}

const GROWTHS: Readonly<Record<string, 1 | -1>> = { '+': 1, '=': 1, '-': -1 }

/** Whether a key makes what can be held larger (1) or smaller (-1). */
export const growthBy = ({ key }: KeyboardEvent): 1 | 0 | -1 => GROWTHS[key] ?? 0
