import { useIntervalFn } from '@vueuse/core'
import type { Ms } from '@core/model'
import { minutesLeft } from '~/capture'

/** Room for fewer minutes than this is told. */
const LITTLE_ROOM = 30
/** How often it is looked for, in ms. */
const LOOK = 5000

/**
 * What is known of how safe a take is: what is on the server, what is on this machine alone, and what room is left here.
 * @param perSecond bytes that a second takes; null when nothing is being recorded
 */
export function takeSafety(perSecond: () => number | null) {
  const unsent = ref(false)
  /** Until when of the talk it is safe, and how much of it is on this machine alone, in ms. */
  const safe = ref<{ readonly to: Ms; readonly waiting: Ms }>({ to: 0, waiting: 0 })
  /** Minutes that this machine still has room for; null while that is no matter. */
  const roomFor = ref<number | null>(null)

  function note(waits: boolean, to: Ms, waiting: Ms): void {
    unsent.value = waits
    safe.value = { to, waiting }
  }

  async function lookForRoom(): Promise<void> {
    const bytes = perSecond()
    const minutes = bytes === null ? null : await minutesLeft(bytes)
    roomFor.value = minutes === null || minutes > LITTLE_ROOM ? null : Math.floor(minutes)
  }

  const looking = useIntervalFn(lookForRoom, LOOK, { immediate: false, immediateCallback: true })
  return { known: { unsent, safe, roomFor }, note, startLooking: looking.resume, stopLooking: looking.pause }
}
