import { CLAP, PRACTICE, deviceTrouble } from './devices'
import { openClapCamera, openClapMic } from './practice-clap'
import { openPracticeCamera, openPracticeMic } from './practice-devices'

const CAMERA_SIZE = { width: { ideal: 1280 }, height: { ideal: 720 }, frameRate: { ideal: 30 } }

export interface OpenTrack {
  readonly track: MediaStreamTrack
  readonly stop: () => void
}

/** What the browser does to a voice before it is heard here. */
export interface VoiceCare {
  readonly echo: boolean
  readonly noise: boolean
  readonly gain: boolean
}

const only = (stream: MediaStream, kind: 'audio' | 'video'): OpenTrack => {
  const [track] = kind === 'audio' ? stream.getAudioTracks() : stream.getVideoTracks()
  if (track === undefined) throw new DOMException('no track', 'NotFoundError')
  return {
    track,
    stop: () => {
      track.stop()
    },
  }
}
const exactly = (id: string): { exact: string } | undefined => (id === 'default' ? undefined : { exact: id })

/** Opens a microphone. `loudness`: 0 to 1, as it is now, of the practice mic. @throws Refusal saying what to do */
export async function openMic(id: string, care: VoiceCare): Promise<OpenTrack & { readonly loudness: () => number }> {
  if (id === PRACTICE || id === CLAP) {
    const { stream, loudness, stop } = await (id === CLAP ? openClapMic() : openPracticeMic())
    return { ...only(stream, 'audio'), loudness, stop }
  }
  try {
    const audio = { deviceId: exactly(id), echoCancellation: care.echo, noiseSuppression: care.noise, autoGainControl: care.gain }
    return { ...only(await navigator.mediaDevices.getUserMedia({ audio }), 'audio'), loudness: () => 0 }
  } catch (error) {
    throw deviceTrouble(error, 'microphone')
  }
}

/** Opens a camera. @param loudness moves the mouth of the practice camera @throws Refusal saying what to do */
export async function openCamera(id: string, loudness: () => number): Promise<OpenTrack> {
  if (id === PRACTICE || id === CLAP) {
    const { stream, stop } = id === CLAP ? openClapCamera() : openPracticeCamera(loudness)
    return { ...only(stream, 'video'), stop }
  }
  try {
    return only(await navigator.mediaDevices.getUserMedia({ video: { ...CAMERA_SIZE, deviceId: exactly(id) } }), 'video')
  } catch (error) {
    throw deviceTrouble(error, 'camera')
  }
}
