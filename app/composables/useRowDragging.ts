import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine'
import { draggable, dropTargetForElements, monitorForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter'
import { autoScrollForElements } from '@atlaskit/pragmatic-drag-and-drop-auto-scroll/element'
import type { Directive } from 'vue'
import type { SlideId } from '@core/model'

interface RowDrag {
  readonly id: SlideId
  readonly movable: boolean
}

/** Where a dragged row would go: before or after another. */
export interface DropMark {
  readonly id: SlideId
  readonly after: boolean
}

const KIND = 'run sheet row'

/**
 * Rows that are dragged by their handle and dropped between others.
 * @param moved is told what was dropped where
 */
export function useRowDragging(moved: (id: SlideId, mark: DropMark) => void) {
  const mark = ref<DropMark | null>(null)
  const ends = new WeakMap<HTMLElement, () => void>()
  const below = (element: Element, y: number): boolean => {
    const box = element.getBoundingClientRect()
    return y > box.top + box.height / 2
  }

  function bind(element: HTMLElement, { id, movable }: RowDrag): void {
    ends.get(element)?.()
    const handle = element.querySelector('.handle')
    if (!movable || handle === null) return
    ends.set(
      element,
      combine(
        draggable({ element, dragHandle: handle, getInitialData: () => ({ kind: KIND, id }) }),
        dropTargetForElements({
          element,
          canDrop: ({ source }) => source.data['kind'] === KIND,
          getData: ({ input, element: target }) => ({ id, after: below(target, input.clientY) }),
          onDrag: ({ self }) => {
            mark.value = { id, after: self.data['after'] === true }
          },
          onDragLeave: () => {
            mark.value = null
          },
        }),
      ),
    )
  }

  /** Makes a row draggable: `v-row-drag="{ id, movable }"`. */
  const vRowDrag: Directive<HTMLElement, RowDrag> = {
    mounted: (element, { value }) => {
      bind(element, value)
    },
    updated: (element, { value, oldValue }) => {
      if (value.id !== oldValue?.id || value.movable !== oldValue.movable) bind(element, value)
    },
    beforeUnmount: (element) => {
      ends.get(element)?.()
    },
  }

  const stop = monitorForElements({
    canMonitor: ({ source }) => source.data['kind'] === KIND,
    onDrop: ({ source, location }) => {
      mark.value = null
      const target = location.current.dropTargets[0]?.data
      if (target === undefined || target['id'] === source.data['id']) return
      moved(source.data['id'] as SlideId, { id: target['id'] as SlideId, after: target['after'] === true })
    },
  })
  onBeforeUnmount(stop)

  /** Lets a list scroll by itself while a row is held near its edge. @returns what ends it */
  const scrolls = (element: HTMLElement): (() => void) => autoScrollForElements({ element })

  return { mark, vRowDrag, scrolls }
}
