import { roomOf } from '@core/voice'
import type { LevelBlock, Room } from '@core/voice'
import { recordingType } from '~/capture'
import { useDevices } from '~/stores/devices'

/** How long the test lasts, and how long the room is listened to, in ms. */
const TEST = 10_000
const LISTEN = 3000
/** The moment in which a presenter who has just pressed a button falls silent. */
const SETTLE = 500

/** The room check's two tests: ten seconds that are played back, and three of silence that say how noisy the room is. */
export function useRoomTest() {
  const devices = useDevices()
  const testing = ref<'test' | 'room' | null>(null)
  /** 0 to 1. */
  const progress = ref(0)
  const played = shallowRef<string | null>(null)
  const room = shallowRef<Room | null>(null)
  let timer: ReturnType<typeof setInterval> | undefined
  let cancel: (() => void) | null = null

  function run(what: 'test' | 'room', length: number, done: () => void): void {
    const began = performance.now()
    testing.value = what
    progress.value = 0
    timer = setInterval(() => {
      progress.value = Math.min(1, (performance.now() - began) / length)
      if (progress.value < 1) return
      clearInterval(timer)
      testing.value = null
      cancel = null
      done()
    }, 100)
  }

  function forget(): void {
    if (played.value !== null) URL.revokeObjectURL(played.value)
    played.value = null
  }

  function record(): void {
    const { stream } = devices
    if (stream === null || testing.value !== null) return
    forget()
    const type = recordingType(devices.cameraOn)
    const parts: Blob[] = []
    const recorder = new MediaRecorder(stream, { mimeType: type })
    recorder.ondataavailable = (event) => {
      parts.push(event.data)
    }
    let wanted = true
    recorder.onstop = () => {
      if (wanted) played.value = URL.createObjectURL(new Blob(parts, { type }))
    }
    recorder.start()
    cancel = () => {
      wanted = false
      recorder.stop()
    }
    run('test', TEST, () => {
      recorder.stop()
    })
  }

  function listen(): void {
    if (devices.stream === null || testing.value !== null) return
    const blocks: LevelBlock[] = []
    const began = performance.now()
    const unsubscribe = devices.listen((block) => {
      if (block.at - began > SETTLE) blocks.push(block)
    })
    cancel = unsubscribe
    run('room', SETTLE + LISTEN, () => {
      unsubscribe()
      room.value = roomOf(blocks)
    })
  }

  /** Stops whatever is under way, and forgets what was recorded. */
  function reset(): void {
    clearInterval(timer)
    cancel?.()
    cancel = null
    testing.value = null
    room.value = null
    forget()
  }
  watch(() => devices.stream, reset)
  onBeforeUnmount(reset)

  return { testing, progress, played, room, record, listen, reset }
}
