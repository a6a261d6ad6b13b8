import { defineStore } from 'pinia'
import type { Ms } from '@core/model'
import { FLOOR_DB, heard, levelVerdict } from '@core/voice'
import type { LevelBlock } from '@core/voice'
import {
  NO_CAMERA,
  PRACTICE,
  enableVoice,
  fitCamera,
  listDevices,
  openCamera,
  openMic,
  requireRecorder,
  watchCamera,
  watchLevel,
} from '~/capture'
import type { CameraState, DeviceChoice, FittedCamera, Level, OpenTrack } from '~/capture'
import { sentenceOf } from '~/client'
import { doubtsOf, knownLatency, nameOfDevice, usualDevice, withLatency } from '~/devices'
import type { OpenDevices } from '~/devices'
import { usePreferences } from './preferences'

/** The camera and microphone that were chosen, open and watched. */
export const useDevices = defineStore('devices', () => {
  const preferences = usePreferences()
  const cameras = shallowRef<readonly DeviceChoice[]>([])
  const mics = shallowRef<readonly DeviceChoice[]>([])
  const camera = ref('')
  const mic = ref('')
  const stream = shallowRef<MediaStream | null>(null)
  const level = shallowRef<Level>({ peak: FLOOR_DB, rms: FLOOR_DB })
  const blocks = shallowRef<readonly LevelBlock[]>([])
  const seen = shallowRef<CameraState>({ seen: null, dark: false })
  const trouble = ref<string | null>(null)
  /** What became of a device that was used last. */
  const missing = ref<string | null>(null)
  /** Why the level is not shown. */
  const unmeasured = ref<string | null>(null)
  const opening = ref(false)
  /** What the camera is recorded at, once that was tried. */
  const fitted = shallowRef<FittedCamera | null>(null)
  let trial = new AbortController()
  /** Somebody who wants to know of every block of sound. */
  const listeners = new Set<(block: LevelBlock) => void>()
  let voice: (OpenTrack & { readonly loudness: () => number }) | null = null
  let picture: OpenTrack | null = null
  let stops: (() => void)[] = []
  let muted = false
  let watchedSince = 0
  /** A device that ended by itself, and what to do then; told while a take runs. */
  const lost = shallowRef<((what: 'camera' | 'mic') => void) | null>(null)

  const verdict = computed(() => levelVerdict(blocks.value))
  /** The highest level of the last seconds, in dBFS. */
  const held = computed(() => blocks.value.reduce((most, block) => Math.max(most, block.peak), FLOOR_DB))
  const cameraOn = computed(() => (stream.value?.getVideoTracks().length ?? 0) > 0)

  async function list(): Promise<void> {
    cameras.value = await listDevices('camera')
    mics.value = await listDevices('mic')
  }

  /** Tries whether this machine keeps up with the camera. */
  async function fit(): Promise<void> {
    trial.abort()
    trial = new AbortController()
    fitted.value = null
    if (picture === null || voice === null) return
    const { signal } = trial
    const found = await fitCamera(picture.track, voice.track, signal).catch(() => null)
    if (!signal.aborted) fitted.value = found
  }
  /** Ends that trial: a take begins. */
  const endFit = (): void => {
    trial.abort()
  }

  /** How late the devices that are open are known to be, by claps before them. */
  const late = computed(() => knownLatency(preferences.now.claps, cameraOn.value ? camera.value : null, mic.value))
  /** Notes what claps said of the devices that are open; null: forgets it. */
  function setLate(ms: Ms | null): void {
    preferences.set({ claps: withLatency(preferences.now.claps, camera.value, mic.value, ms) })
  }

  function shut(): void {
    trial.abort()
    for (const stop of stops) stop()
    stops = []
    voice?.stop()
    picture?.stop()
    voice = null
    picture = null
  }

  function close(): void {
    shut()
    stream.value = null
    level.value = { peak: FLOOR_DB, rms: FLOOR_DB }
    blocks.value = []
  }

  function hear(now: Level): void {
    level.value = now
    const block = { at: performance.now(), ...now }
    blocks.value = heard(blocks.value, block)
    for (const listener of listeners) listener(block)
  }

  /** Puts what is open together, and watches it. */
  async function gather(): Promise<void> {
    if (voice === null) return
    const { track } = voice
    stream.value = new MediaStream([track, ...(picture === null ? [] : [picture.track])])
    track.enabled = !muted
    track.onended = () => {
      lost.value?.('mic')
    }
    if (picture !== null) {
      const { track: film } = picture
      film.onended = () => {
        lost.value?.('camera')
      }
      watchedSince = performance.now()
      seen.value = { seen: null, dark: false }
      stops.push(
        watchCamera(film, (state) => {
          if (picture?.track === film) seen.value = state
        }),
      )
    }
    // A clone of its own, so that the level is still seen while the voice is muted.
    const watched = track.clone()
    watched.enabled = true
    stops.push(() => {
      watched.stop()
    })
    unmeasured.value = null
    try {
      stops.push(await watchLevel(new MediaStream([watched]), hear))
    } catch (error) {
      // The voice is recorded all the same.
      unmeasured.value = sentenceOf(error)
    }
  }

  /** The device that is chosen; at first the usual one. */
  function chosenOr(what: 'camera' | 'mic', from: readonly DeviceChoice[], now: string): string {
    if (now !== '') return now
    const usual = usualDevice(preferences.now[what], from, PRACTICE)
    missing.value = usual.missing ?? missing.value
    return usual.id
  }

  /** Opens what is chosen; at first what was used last, or the practice devices where there is nothing else. */
  async function open(): Promise<void> {
    if (opening.value) return
    opening.value = true
    trouble.value = null
    close()
    try {
      requireRecorder()
      await list()
      camera.value = chosenOr('camera', cameras.value, camera.value)
      mic.value = chosenOr('mic', mics.value, mic.value)
      const opened = await openMic(mic.value, preferences.now)
      voice = opened
      if (camera.value !== NO_CAMERA) picture = await openCamera(camera.value, opened.loudness)
      await gather()
      // Names of real devices are known only once one was allowed.
      await list()
      void fit()
      preferences.set({
        camera: { id: camera.value, label: nameOfDevice(camera.value, cameras.value) },
        mic: { id: mic.value, label: nameOfDevice(mic.value, mics.value) },
      })
    } catch (error) {
      close()
      trouble.value = sentenceOf(error)
    } finally {
      opening.value = false
    }
  }

  async function choose(what: 'camera' | 'mic', id: string): Promise<void> {
    missing.value = null
    if (what === 'camera') camera.value = id
    else mic.value = id
    await open()
  }

  /** Stops the camera itself, or starts it again. The microphone goes on. @throws Refusal when it does not open */
  async function setCamera(on: boolean): Promise<void> {
    if (voice === null || on === (picture !== null)) return
    if (on && camera.value === NO_CAMERA) camera.value = cameras.value[0]?.id ?? PRACTICE
    const opened = on ? await openCamera(camera.value, voice.loudness) : null
    const before = picture
    picture = opened
    for (const stop of stops) stop()
    stops = []
    await gather()
    before?.stop()
  }

  /** Whether what is open still gives sound, and pictures if it should. */
  const alive = (): boolean => stream.value !== null && stream.value.getTracks().every((track) => track.readyState === 'live')

  /** Whether the voice is kept out of what is recorded. */
  function setMuted(on: boolean): void {
    muted = on
    if (voice !== null) enableVoice(voice.track, !on)
  }

  /** What speaks against starting a take now, in words. @param silently no voice is wanted */
  function doubts(silently: boolean): readonly string[] {
    if (silently) return []
    const open: OpenDevices = {
      mic: { name: nameOfDevice(mic.value, mics.value), live: voice?.track.readyState === 'live', verdict: verdict.value },
      camera:
        picture === null
          ? null
          : {
              name: nameOfDevice(camera.value, cameras.value),
              live: picture.track.readyState === 'live',
              state: seen.value,
              since: watchedSince,
            },
    }
    return doubtsOf(open, performance.now())
  }

  function listen(listener: (block: LevelBlock) => void): () => void {
    listeners.add(listener)
    return () => {
      listeners.delete(listener)
    }
  }

  return {
    cameras,
    mics,
    camera,
    mic,
    stream,
    level,
    held,
    verdict,
    unmeasured,
    cameraOn,
    fitted,
    endFit,
    late,
    setLate,
    trouble,
    missing,
    opening,
    lost,
    open,
    alive,
    choose,
    close,
    setCamera,
    setMuted,
    doubts,
    listen,
  }
})
