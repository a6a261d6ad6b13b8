import { deviceLatencyOf, likelyFrame, seenLate } from '@core/voice'
import { watchClaps } from '~/capture'
import type { Clap, ClapFrame } from '~/capture'
import { sentenceOf } from '~/client'
import { useDevices } from '~/stores/devices'

/** Pictures shown of a clap: some before the one in which it is most likely seen, and some after. */
const BEFORE = 3
const AFTER = 2

/** Claps before camera and microphone, and what they say of how late the two are. */
export function useClaps() {
  const devices = useDevices()
  const listening = ref(false)
  const claps = shallowRef<readonly { readonly clap: Clap; readonly chosen: number }[]>([])
  const trouble = ref<string | null>(null)
  let end: (() => void) | null = null

  const last = computed(() => claps.value.at(-1) ?? null)
  /** Pictures of the last clap, each with its place among all of them. */
  const strip = computed<readonly (ClapFrame & { readonly n: number })[]>(() => {
    const { clap, chosen } = last.value ?? { clap: null, chosen: 0 }
    const from = Math.max(0, chosen - BEFORE)
    return clap === null ? [] : clap.frames.map((frame, n) => ({ ...frame, n })).slice(from, from + BEFORE + 1 + AFTER)
  })
  const late = computed(() =>
    claps.value.length === 0 ? null : deviceLatencyOf(claps.value.map(({ clap, chosen }) => seenLate(clap.heard, clap.frames, chosen))),
  )

  function stop(): void {
    end?.()
    end = null
    listening.value = false
  }

  function start(): void {
    stop()
    trouble.value = null
    const [camera] = devices.stream?.getVideoTracks() ?? []
    const [mic] = devices.stream?.getAudioTracks() ?? []
    if (camera === undefined || mic === undefined) return
    try {
      end = watchClaps(camera, mic, (clap) => {
        const chosen = likelyFrame(clap.heard, clap.frames)
        if (chosen < 0) trouble.value = 'A clap was heard, but not seen. Clap once, with your hands before your face.'
        else {
          claps.value = [...claps.value, { clap, chosen }]
          trouble.value = null
        }
      })
      listening.value = true
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }

  /** Says in which picture of the last clap the hands have met. */
  function choose(n: number): void {
    claps.value = claps.value.map((one, index) => (index === claps.value.length - 1 ? { ...one, chosen: n } : one))
  }

  /** Has takes with these devices put right by what the claps say. */
  function keep(): void {
    const found = late.value
    if (found !== null) devices.setLate(found.camera - found.mic)
    reset()
  }

  function reset(): void {
    stop()
    claps.value = []
    trouble.value = null
  }
  watch(() => devices.stream, reset)
  onBeforeUnmount(reset)

  return { listening, claps, strip, last, late, trouble, start, choose, keep, reset }
}
