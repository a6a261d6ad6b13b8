import type { Ms } from '@core/model'
import { minutesLeft } from '~/capture'

/** Room for fewer minutes than this is told. */
const LITTLE_ROOM = 30

/** What is known of how safe a take is: what is on the server, what is on this machine alone, and what room is left here. */
export function takeSafety() {
  const unsent = ref(false)
  /** Until when of the talk it is safe, and how much of it is on this machine alone, in ms. */
  const safe = ref<{ readonly to: Ms; readonly waiting: Ms }>({ to: 0, waiting: 0 })
  /** Minutes that this machine still has room for; null while that is no matter. */
  const roomFor = ref<number | null>(null)

  function note(waits: boolean, to: Ms, waiting: Ms): void {
    unsent.value = waits
    safe.value = { to, waiting }
  }

  /** @param perSecond bytes that a second takes; null when nothing is being recorded */
  async function lookForRoom(perSecond: number | null): Promise<void> {
    const minutes = perSecond === null ? null : await minutesLeft(perSecond)
    roomFor.value = minutes === null || minutes > LITTLE_ROOM ? null : Math.floor(minutes)
  }

  return { unsent, safe, roomFor, note, lookForRoom }
}
