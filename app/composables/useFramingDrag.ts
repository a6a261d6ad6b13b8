import { dequal } from 'dequal'
import type { Ref } from 'vue'
import { faceRect, onSlide, resized, shiftedOnSlide, sizeOfInset } from '@core/layout'
import type { Framing, Size } from '@core/model'
import { rectStyle } from '~/styles/rect-style'
import { growthBy, shiftBy, useGrab } from './useGrab'

/** A step of size with a key, as a fraction of the slide's height. */
const SIZE_STEP = 0.02

/**
 * Moves and resizes a framing by hand or by keys on a picture of the slide.
 * @param stage the picture
 * @param framing as it is kept
 * @param keep is told the new framing when the hand lets go
 */
export function useFramingDrag(stage: Ref<HTMLElement | null>, framing: Ref<Framing>, shape: Ref<Size>, keep: (framing: Framing) => void) {
  /** While it is moved: as it will be. */
  const draft = shallowRef<Framing | null>(null)
  const held = useGrab<{ readonly from: Framing; readonly resize: boolean }>(
    stage,
    ({ from, resize }, by) => {
      const grown = Math.max(0.2, (from.rect.h + by.y) / from.rect.h)
      const next = resize ? resized(from, from.outline, sizeOfInset(from, shape.value) * grown, shape.value) : from
      const rect = resize ? onSlide({ ...next.rect, x: from.rect.x, y: from.rect.y }) : shiftedOnSlide(from.rect, by)
      draft.value = { ...next, rect }
    },
    () => {
      const next = draft.value
      draft.value = null
      if (next !== null && !dequal(next.rect, framing.value.rect)) keep(next)
    },
  )
  const take = (resize: boolean) => () => {
    draft.value = framing.value
    return { from: framing.value, resize }
  }

  function key(event: KeyboardEvent): void {
    const now = framing.value
    const [shift, growth] = [shiftBy(event), growthBy(event)]
    if (shift === null && growth === 0) return
    event.preventDefault()
    keep(
      shift === null
        ? resized(now, now.outline, sizeOfInset(now, shape.value) + growth * SIZE_STEP, shape.value)
        : { ...now, rect: shiftedOnSlide(now.rect, shift) },
    )
  }

  const shown = computed(() => draft.value ?? framing.value)
  const style = computed(() => rectStyle(faceRect(shown.value)))
  return { draft, shown, style, moving: held(take(false)), resizing: held(take(true)), key }
}
