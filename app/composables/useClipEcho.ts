import { useIntervalFn } from '@vueuse/core'
import { ECHO_RATE, hearsPlayed } from '@core/voice'
import type { EchoSample } from '@core/voice'
import type { ClipScene } from '@core/scene'
import { PlayedLevel } from '~/player'
import { useDevices } from '~/stores/devices'
import { useLectern } from '~/stores/lectern'

/** So many samples are kept. */
const KEPT = 8 * ECHO_RATE

/**
 * Finds out whether the microphone hears the clips that are played, and closes it while they are if that is wished.
 * @param playing the clips that play now
 * @param elementOf what a clip is played from
 */
export function useClipEcho(playing: () => readonly ClipScene[], elementOf: (clip: ClipScene) => HTMLMediaElement | undefined) {
  const lectern = useLectern()
  const devices = useDevices()
  const heard = ref(false)
  /** Whether the microphone is closed while a clip is heard. */
  const closes = ref(false)
  /** It was closed here, and not by the presenter. */
  let closed = false
  let samples: readonly EchoSample[] = []
  let level: PlayedLevel | null = null
  /** Somebody has heard of it and leaves it as it is. */
  let left = false

  const sounding = (): ClipScene | undefined => playing().find(({ playing: on, clip }) => on && clip.media.sound)

  function look(): void {
    const clip = sounding()
    if (closes.value && (clip !== undefined) !== closed && lectern.live) {
      closed = clip !== undefined
      lectern.setMuted(closed, performance.now())
    }
    const element = clip === undefined ? undefined : elementOf(clip)
    if (element === undefined || heard.value || left) {
      samples = []
      return
    }
    level ??= new PlayedLevel()
    const played = level.of(element)
    if (played === null) return
    samples = [...samples.slice(1 - KEPT), { played, heard: devices.level.rms }]
    if (hearsPlayed(samples)) heard.value = true
  }
  useIntervalFn(look, 1000 / ECHO_RATE)
  onBeforeUnmount(() => {
    level?.close()
  })
  return {
    heard,
    closes,
    /** Nothing more is said of it. */
    leave: (): void => {
      heard.value = false
      left = true
    },
  }
}
