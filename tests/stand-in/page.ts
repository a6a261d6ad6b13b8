import type { StandIn } from './plan'
import type { Told } from './worker'

declare global {
  interface Window {
    /** Told before this script runs: how the devices behave, and the worker's program. */
    readonly standIn: StandIn
    readonly standInWorker: string
    /** When each key was pressed, by the browser, in ms of the page's clock. */
    keysPressed: { readonly key: string; readonly at: number }[]
    /** Has something happen to the microphone, or the camera, that is open. */
    tellDevice: (kind: 'mic' | 'camera', what: Told) => void
    /** When a device ended that was pulled out. */
    endedAt: number
    /** When something was clicked last. */
    clickedAt: number
  }
  /** Chromium's own, not in TypeScript's types. */
  const MediaStreamTrackGenerator: new (init: {
    readonly kind: 'audio' | 'video'
  }) => MediaStreamTrack & { readonly writable: WritableStream<unknown> }
}

const DEVICES = [
  { kind: 'audioinput', deviceId: 'stand-in-mic', label: 'Stand-in microphone', groupId: '' },
  { kind: 'videoinput', deviceId: 'stand-in-camera', label: 'Stand-in camera', groupId: '' },
] as const

const open: Partial<Record<'mic' | 'camera', Worker>> = {}
window.tellDevice = (kind, what) => {
  open[kind]?.postMessage(what)
}

function openTrack(kind: 'mic' | 'camera'): MediaStreamTrack {
  const track = new MediaStreamTrackGenerator({ kind: kind === 'mic' ? 'audio' : 'video' })
  const worker = new Worker(URL.createObjectURL(new Blob([window.standInWorker], { type: 'text/javascript' })))
  open[kind] = worker
  worker.onmessage = () => {
    window.endedAt = performance.now()
  }
  const { writable } = track
  worker.postMessage({ plan: window.standIn, origin: performance.timeOrigin, writable, kind }, [writable])
  return track
}

// The page's devices are these alone. They keep time by the machine's clock, not by the page's sound.
navigator.mediaDevices.enumerateDevices = () => Promise.resolve(DEVICES.map((device) => ({ ...device, toJSON: () => device })))
navigator.mediaDevices.getUserMedia = (wanted) =>
  Promise.resolve(new MediaStream([...(wanted?.audio ? [openTrack('mic')] : []), ...(wanted?.video ? [openTrack('camera')] : [])]))
window.keysPressed = []
window.clickedAt = 0
addEventListener(
  'click',
  (event) => {
    window.clickedAt = event.timeStamp
  },
  { capture: true },
)
addEventListener(
  'keydown',
  (event) => {
    window.keysPressed.push({ key: event.key, at: event.timeStamp })
  },
  { capture: true },
)
