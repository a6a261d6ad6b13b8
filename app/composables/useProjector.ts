import { useEventListener } from '@vueuse/core'
import type { PlayedClip, Point, SlideId, Stroke } from '@core/model'

/** What the window for the audience shows. */
export interface Projected {
  readonly slide: SlideId | null
  readonly step: number
  readonly blank: boolean
  /** Whether a window is shown in the place of the slide. */
  readonly window: boolean
  readonly ink: readonly Stroke[]
  /** Clips that were started; `at` is on the clock of the machine, in ms. */
  readonly clips: readonly PlayedClip[]
  /** Since when what is drawn on the slide moves, likewise; null: it moves no more. */
  readonly moves: number | null
  /** The stroke under way. */
  readonly wet: Stroke | null
  readonly spot: Point | null
}

const [OPENED, CLOSED, THERE] = ['opened', 'closed', 'there?'] as const
const channelOf = (talk: string): string => `aisle-projector:${talk}`

/** Tells a second window what is on screen, and tells it again when one is opened. @param shown asked anew for each telling */
export function useProjecting(talk: string, shown: () => Projected) {
  const channel = new BroadcastChannel(channelOf(talk))
  /** Windows that listen: while there is none, nothing is put together for them, least of all at every move of a pen. */
  let windows = 0
  // Values are sent bare: what is reactive cannot be.
  const tell = (): void => {
    if (windows > 0) channel.postMessage(JSON.stringify(shown()))
  }
  channel.onmessage = (message: MessageEvent<unknown>) => {
    if (message.data === OPENED) windows += 1
    if (message.data === CLOSED) windows = Math.max(0, windows - 1)
    tell()
  }
  // A window that was open before this page asks again when it is asked whether it is there.
  channel.postMessage(THERE)
  onBeforeUnmount(() => {
    channel.close()
  })
  return { tell }
}

/** Hears what the Lectern shows. Null until it was told. */
export function useProjected(talk: string) {
  const shown = shallowRef<Projected | null>(null)
  const channel = new BroadcastChannel(channelOf(talk))
  const open = (): void => {
    channel.postMessage(OPENED)
  }
  const close = (): void => {
    channel.postMessage(CLOSED)
  }
  channel.onmessage = (message: MessageEvent<string>) => {
    if (message.data === THERE) open()
    else if (message.data !== OPENED && message.data !== CLOSED) shown.value = JSON.parse(message.data) as Projected
  }
  onMounted(open)
  useEventListener(window, 'pagehide', close)
  onBeforeUnmount(() => {
    close()
    channel.close()
  })
  return shown
}
