import type { Ref } from 'vue'
import { onSlide } from '@core/layout'
import type { Rect } from '@core/model'

/** A step with an arrow key, and a large one, as fractions of the slide; the least that a box can be. */
const STEP = 0.01
const LARGE_STEP = 0.05
const LEAST = 0.05

/** A box that keeps its shape, as large as fits on the slide where it begins. @param by how much larger */
function grown({ x, y, w, h }: Rect, by: number): Rect {
  const factor = Math.max(LEAST / Math.min(w, h), Math.min(by, (1 - x) / w, (1 - y) / h))
  return { x, y, w: w * factor, h: h * factor }
}

/**
 * Moves boxes on a picture of a slide, and makes them larger or smaller in their own shape, by hand or by keys.
 * @param stage the picture
 * @param keep is told which box is elsewhere, and where, when the hand lets go
 */
export function useBoxDrag<Key>(stage: Ref<HTMLElement | null>, keep: (key: Key, rect: Rect) => void) {
  /** The box that is moved, as it will be. */
  const draft = shallowRef<{ readonly key: Key; readonly rect: Rect } | null>(null)
  let grab: { readonly x: number; readonly y: number; readonly from: Rect; readonly key: Key; readonly resize: boolean } | null = null

  const place = (event: PointerEvent): { x: number; y: number } => {
    const box = stage.value?.getBoundingClientRect()
    return box === undefined ? { x: 0, y: 0 } : { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }

  function down(event: PointerEvent, key: Key, from: Rect, resize: boolean): void {
    if (event.button !== 0) return
    event.preventDefault()
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    ;(event.currentTarget as HTMLElement).focus()
    grab = { ...place(event), from, key, resize }
  }

  function move(event: PointerEvent): void {
    if (grab === null) return
    const { x, y } = place(event)
    const { from, key } = grab
    const rect = grab.resize
      ? grown(from, (from.w + x - grab.x) / from.w)
      : onSlide({ ...from, x: from.x + x - grab.x, y: from.y + y - grab.y })
    draft.value = { key, rect }
  }

  function up(): void {
    const moved = draft.value
    grab = null
    draft.value = null
    if (moved !== null) keep(moved.key, moved.rect)
  }

  function key(event: KeyboardEvent, which: Key, rect: Rect): void {
    const step = event.shiftKey ? LARGE_STEP : STEP
    const moves: Readonly<Record<string, Rect>> = {
      ArrowLeft: onSlide({ ...rect, x: rect.x - step }),
      ArrowRight: onSlide({ ...rect, x: rect.x + step }),
      ArrowUp: onSlide({ ...rect, y: rect.y - step }),
      ArrowDown: onSlide({ ...rect, y: rect.y + step }),
      '+': grown(rect, 1 + STEP * 4),
      '=': grown(rect, 1 + STEP * 4),
      '-': grown(rect, 1 - STEP * 4),
    }
    const next = moves[event.key]
    if (next === undefined) return
    event.preventDefault()
    keep(which, next)
  }

  return { draft, down, move, up, key }
}
