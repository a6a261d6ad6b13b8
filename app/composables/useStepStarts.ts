import { useTimeoutFn } from '@vueuse/core'
import { useLectern } from '~/stores/lectern'

/** While a take or a run-through is on, has steps begin that begin by themselves. */
export function useStepStarts(): void {
  const lectern = useLectern()
  const wait = ref(0)
  /** When the step is due, on the page's clock. */
  let due: number | null = null
  const { start, stop } = useTimeoutFn(
    () => {
      if (due !== null) lectern.forward(due)
    },
    wait,
    { immediate: false },
  )
  watch(
    () => [lectern.phase, lectern.slide, lectern.step] as const,
    ([phase]) => {
      stop()
      const now = performance.now()
      due = phase === 'recording' || phase === 'rehearsing' ? lectern.nextBegins(now) : null
      if (due === null) return
      wait.value = Math.max(0, due - now)
      start()
    },
    // Once the step that has come has begun to move.
    { flush: 'post', immediate: true },
  )
}
