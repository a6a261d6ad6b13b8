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
 * Whether the microphone hears the clips that are played: that is listened for until it does; then the presenter has it closed while they
 * are, or leaves it as it is.
 */
export type ClipEcho = 'listening' | 'heard' | 'closing' | 'left'

/**
 * Finds out whether the microphone hears the clips that are played, and closes it while they are if that is wished.
 * @param playing the clips that play now
 * @param elementOf what a clip is played from
 */
export function useClipEcho(playing: () => readonly ClipScene[], elementOf: (clip: ClipScene) => HTMLMediaElement | undefined) {
  const lectern = useLectern()
  const devices = useDevices()
  const echo = ref<ClipEcho>('listening')
  /** It was closed here, and not by the presenter. */
  let closed = false
  let samples: readonly EchoSample[] = []
  let level: PlayedLevel | null = null

  const heardClip = (): ClipScene | undefined => playing().find(({ playing: on, clip }) => on && clip.media.sound)
  const sounds = computed(() => heardClip() !== undefined)

  function listen(): void {
    const clip = heardClip()
    const element = clip === undefined ? undefined : elementOf(clip)
    if (element === undefined) return
    level ??= new PlayedLevel()
    const played = level.of(element)
    if (played === null) return
    samples = [...samples.slice(1 - KEPT), { played, heard: devices.level.rms }]
    if (hearsPlayed(samples)) echo.value = 'heard'
  }
  const listening = useIntervalFn(listen, 1000 / ECHO_RATE, { immediate: false })
  watch(
    () => sounds.value && echo.value === 'listening',
    (now) => {
      samples = []
      if (now) listening.resume()
      else listening.pause()
    },
    { immediate: true },
  )
  watch([sounds, echo, () => lectern.live], () => {
    const close = echo.value === 'closing' && sounds.value
    if (close === closed || !lectern.live) return
    closed = close
    lectern.setMuted(closed, performance.now())
  })
  onBeforeUnmount(() => {
    level?.close()
  })
  return echo
}
