import { useEventListener } from '@vueuse/core'
import { useDressing } from '~/stores/dressing'

/** While it is held, recordings are heard and seen as they are. */
const KEY = 'o'
const isField = (target: EventTarget | null): boolean => target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement

/** Has a key show what was recorded, before and after, for as long as it is held. @returns what begins and ends it by hand */
export function useHeldAsRecorded() {
  const dressing = useDressing()
  const hold = (): void => {
    dressing.asRecorded = true
  }
  const release = (): void => {
    dressing.asRecorded = false
  }
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.key.toLowerCase() === KEY && !event.ctrlKey && !event.metaKey && !event.altKey && !isField(event.target)) hold()
  })
  useEventListener(window, 'keyup', release)
  useEventListener(window, 'blur', release)
  onBeforeUnmount(release)
  return { hold, release }
}
