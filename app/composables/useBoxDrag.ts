import type { Ref } from 'vue'
import { shiftedOnSlide } from '@core/layout'
import type { Rect } from '@core/model'
import { growthBy, shiftBy, useGrab } from './useGrab'

/** A step of size with a key; the least that a box can be, as a fraction of the slide. */
const SIZE_STEP = 0.04
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
  const held = useGrab<{ readonly key: Key; readonly from: Rect; readonly resize: boolean }>(
    stage,
    ({ key: which, from, resize }, by) => {
      draft.value = { key: which, rect: resize ? grown(from, (from.w + by.x) / from.w) : shiftedOnSlide(from, by) }
    },
    () => {
      const moved = draft.value
      draft.value = null
      if (moved !== null) keep(moved.key, moved.rect)
    },
  )

  function key(event: KeyboardEvent, which: Key, rect: Rect): void {
    const [shift, growth] = [shiftBy(event), growthBy(event)]
    if (shift === null && growth === 0) return
    event.preventDefault()
    keep(which, shift === null ? grown(rect, 1 + growth * SIZE_STEP) : shiftedOnSlide(rect, shift))
  }

  return {
    draft,
    moving: (which: Key, from: Rect) => held(() => ({ key: which, from, resize: false })),
    resizing: (which: Key, from: Rect) => held(() => ({ key: which, from, resize: true })),
    key,
  }
}
