import { tick } from './tick'

/** Counts whole seconds down with a tick each, then goes on. */
export function countDown() {
  const count = ref(0)
  let timer: ReturnType<typeof setInterval> | undefined

  function stop(): void {
    clearInterval(timer)
    count.value = 0
  }

  /** @param seconds 0 goes on at once */
  function start(seconds: number, then: () => void): void {
    stop()
    count.value = seconds
    if (seconds <= 0) {
      then()
      return
    }
    tick()
    timer = setInterval(() => {
      count.value -= 1
      if (count.value > 0) {
        tick()
        return
      }
      stop()
      then()
    }, 1000)
  }

  return { count, start, stop }
}
