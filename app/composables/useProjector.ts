import type { Point, SlideId, Stroke } from '@core/model'

/** What the window for the audience shows. */
export interface Projected {
  readonly slide: SlideId | null
  readonly step: number
  readonly blank: boolean
  readonly ink: readonly Stroke[]
  /** The stroke under way. */
  readonly wet: Stroke | null
  readonly spot: Point | null
}

const channelOf = (talk: string): string => `aisle-projector:${talk}`

/** Tells a second window what is on screen, and tells it again when one is opened. @param shown asked anew for each telling */
export function useProjecting(talk: string, shown: () => Projected) {
  const channel = new BroadcastChannel(channelOf(talk))
  // Values are sent bare: what is reactive cannot be.
  const tell = (): void => { channel.postMessage(JSON.stringify(shown())) }
  channel.onmessage = tell
  onBeforeUnmount(() => { channel.close() })
  return { tell }
}

/** Hears what the Lectern shows. Null until it was told. */
export function useProjected(talk: string) {
  const shown = shallowRef<Projected | null>(null)
  const channel = new BroadcastChannel(channelOf(talk))
  channel.onmessage = (message: MessageEvent<string>) => { shown.value = JSON.parse(message.data) as Projected }
  onMounted(() => { channel.postMessage('opened') })
  onBeforeUnmount(() => { channel.close() })
  return shown
}
