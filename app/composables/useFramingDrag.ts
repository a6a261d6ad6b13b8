import { dequal } from 'dequal'
import type { Ref } from 'vue'
import { faceRect, onSlide, resized, sizeOfInset } from '@core/layout'
import type { Framing, Size } from '@core/model'
import { rectStyle } from '~/styles/rect-style'

/** A step with an arrow key, and a large one, as fractions of the slide. */
const STEP = 0.01
const LARGE_STEP = 0.05
const SIZE_STEP = 0.02
const SIZED_BY: Readonly<Record<string, number>> = { '+': SIZE_STEP, '=': SIZE_STEP, '-': -SIZE_STEP }

/**
 * Moves and resizes a framing by hand or by keys on a picture of the slide.
 * @param stage the picture
 * @param framing as it is kept
 * @param keep is told the new framing when the hand lets go
 */
export function useFramingDrag(stage: Ref<HTMLElement | null>, framing: Ref<Framing>, shape: Ref<Size>, keep: (framing: Framing) => void) {
  /** While it is moved: as it will be. */
  const draft = shallowRef<Framing | null>(null)
  let grab: { readonly x: number; readonly y: number; readonly from: Framing; readonly resize: boolean } | null = null

  const place = (event: PointerEvent): { x: number; y: number } => {
    const box = stage.value?.getBoundingClientRect()
    return box === undefined ? { x: 0, y: 0 } : { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }

  function down(event: PointerEvent, resize: boolean): void {
    if (event.button !== 0) return
    event.preventDefault()
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    ;(event.currentTarget as HTMLElement).focus()
    grab = { ...place(event), from: framing.value, resize }
    draft.value = framing.value
  }

  function move(event: PointerEvent): void {
    if (grab === null) return
    const { x, y } = place(event)
    const { from } = grab
    if (grab.resize) {
      const grown = (from.rect.h + (y - grab.y)) / from.rect.h
      const next = resized(from, from.outline, sizeOfInset(from, shape.value) * Math.max(0.2, grown), shape.value)
      draft.value = { ...next, rect: onSlide({ ...next.rect, x: from.rect.x, y: from.rect.y }) }
    } else {
      draft.value = { ...from, rect: onSlide({ ...from.rect, x: from.rect.x + x - grab.x, y: from.rect.y + y - grab.y }) }
    }
  }

  function up(): void {
    if (grab === null) return
    grab = null
    const next = draft.value
    draft.value = null
    if (next !== null && !dequal(next.rect, framing.value.rect)) keep(next)
  }

  function key(event: KeyboardEvent): void {
    const now = framing.value
    const step = event.shiftKey ? LARGE_STEP : STEP
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    }
    const shift = by[event.key]
    const size = SIZED_BY[event.key] ?? 0
    if (shift === undefined && size === 0) return
    event.preventDefault()
    keep(
      shift === undefined
        ? resized(now, now.outline, sizeOfInset(now, shape.value) + size, shape.value)
        : { ...now, rect: onSlide({ ...now.rect, x: now.rect.x + shift[0], y: now.rect.y + shift[1] }) },
    )
  }

  const shown = computed(() => draft.value ?? framing.value)
  const style = computed(() => rectStyle(faceRect(shown.value)))
  return { draft, shown, style, down, move, up, key }
}
