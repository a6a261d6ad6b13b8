import { defineStore } from 'pinia'
import { FLOOR_DB } from '@core/voice'
import { NO_CAMERA, PRACTICE, deviceTrouble, listDevices, openPracticeCamera, openPracticeMic, watchLevel } from '~/capture'
import type { DeviceChoice, Level } from '~/capture'
import { sentenceOf } from '~/client'

const MEMORY = 'aisle-devices'
const CAMERA_SIZE = { width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: 30 } }

const remembered = (): { camera: string, mic: string } | null => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(MEMORY) ?? 'null')
    if (typeof kept !== 'object' || kept === null || !('camera' in kept) || !('mic' in kept)) return null
    return { camera: String(kept.camera), mic: String(kept.mic) }
  } catch {
    return null
  }
}

/** The camera and microphone that were chosen, open and watched. */
export const useDevices = defineStore('devices', () => {
  const cameras = shallowRef<readonly DeviceChoice[]>([])
  const mics = shallowRef<readonly DeviceChoice[]>([])
  const camera = ref('')
  const mic = ref('')
  const stream = shallowRef<MediaStream | null>(null)
  const level = ref<Level>({ peak: FLOOR_DB, rms: FLOOR_DB })
  /** The highest level of the last seconds, in dBFS. */
  const held = ref(FLOOR_DB)
  const trouble = ref<string | null>(null)
  const opening = ref(false)
  let stops: (() => void)[] = []
  let heldSince = 0
  let muted = false

  async function list(): Promise<void> {
    cameras.value = await listDevices('camera')
    mics.value = await listDevices('mic')
  }

  function close(): void {
    for (const stop of stops) stop()
    stops = []
    stream.value = null
    level.value = { peak: FLOOR_DB, rms: FLOOR_DB }
    held.value = FLOOR_DB
  }

  async function openMic(): Promise<{ readonly tracks: readonly MediaStreamTrack[], readonly loudness: () => number }> {
    if (mic.value === PRACTICE) {
      const practice = await openPracticeMic()
      stops.push(practice.stop)
      return { tracks: practice.stream.getAudioTracks(), loudness: practice.loudness }
    }
    try {
      const opened = await navigator.mediaDevices.getUserMedia({ audio: { deviceId: mic.value === 'default' ? undefined : { exact: mic.value } } })
      stops.push(() => { for (const track of opened.getTracks()) track.stop() })
      return { tracks: opened.getAudioTracks(), loudness: () => 0 }
    } catch (error) {
      throw deviceTrouble(error, 'microphone')
    }
  }

  async function openCamera(loudness: () => number): Promise<readonly MediaStreamTrack[]> {
    if (camera.value === NO_CAMERA) return []
    if (camera.value === PRACTICE) {
      const practice = openPracticeCamera(loudness)
      stops.push(practice.stop)
      return practice.stream.getVideoTracks()
    }
    try {
      const opened = await navigator.mediaDevices.getUserMedia({ video: { ...CAMERA_SIZE, deviceId: camera.value === 'default' ? undefined : { exact: camera.value } } })
      stops.push(() => { for (const track of opened.getTracks()) track.stop() })
      return opened.getVideoTracks()
    } catch (error) {
      throw deviceTrouble(error, 'camera')
    }
  }

  function hear(now: Level): void {
    level.value = now
    if (now.peak >= held.value || performance.now() - heldSince > 1500) {
      held.value = now.peak
      heldSince = performance.now()
    }
  }

  /** Opens what is chosen; at first what was used last, or the practice devices where there is nothing else. */
  async function open(): Promise<void> {
    if (opening.value) return
    opening.value = true
    trouble.value = null
    close()
    try {
      await list()
      const last = remembered()
      const pick = (wanted: string | undefined, from: readonly DeviceChoice[], now: string): string =>
        now !== '' ? now : from.find((device) => device.id === wanted)?.id ?? from[0]?.id ?? PRACTICE
      camera.value = pick(last?.camera, cameras.value, camera.value)
      mic.value = pick(last?.mic, mics.value, mic.value)
      const voice = await openMic()
      const picture = await openCamera(voice.loudness)
      stream.value = new MediaStream([...voice.tracks, ...picture])
      for (const track of voice.tracks) track.enabled = !muted
      // A clone of its own, so that the level is still seen while the voice is muted.
      const watched = voice.tracks.map((track) => track.clone())
      stops.push(await watchLevel(new MediaStream(watched), hear), () => { for (const track of watched) track.stop() })
      localStorage.setItem(MEMORY, JSON.stringify({ camera: camera.value, mic: mic.value }))
      await list()
    } catch (error) {
      close()
      trouble.value = sentenceOf(error)
    } finally {
      opening.value = false
    }
  }

  async function choose(what: 'camera' | 'mic', id: string): Promise<void> {
    if (what === 'camera') camera.value = id
    else mic.value = id
    await open()
  }

  /** Whether the voice is kept out of what is recorded. */
  function setMuted(on: boolean): void {
    muted = on
    for (const track of stream.value?.getAudioTracks() ?? []) track.enabled = !on
  }

  return { cameras, mics, camera, mic, stream, level, held, trouble, opening, open, choose, close, setMuted }
})
