import type { ClipPart, VoicePart } from '@core/plan'
import { MUSIC_REACH } from '@core/voice'
import type { Ms } from '@core/model'
import { dressingOf } from '@core/programme'
import type { FaceDressing } from '@core/programme'
import type { FacePart } from './face-parts'

/** Sound of a screening in parts: so many packets of AAC each, of so many samples (ISO/IEC 14496-3), at so many samples a second. */
export const SOUND_PART = { packets: 288, packet: 1024, sampleRate: 48_000 } as const
/** How long a part of it is, in ms: whole. */
export const SOUND_PART_MS: Ms = (SOUND_PART.packets * SOUND_PART.packet * 1000) / SOUND_PART.sampleRate
/** The face in parts: so many pictures each, and pictures a second. They are short, since somebody may wait for the first. */
export const FACE_PART = { frames: 60, frameRate: 30 } as const
export const FACE_PART_MS: Ms = (FACE_PART.frames * 1000) / FACE_PART.frameRate
/** So much before and after a part of the sound is looked at, in ms: an encoder needs what comes before, and a fade what comes after. */
export const SOUND_MARGIN: Ms = 1000
/** As much where there is music, which looks farther round it before it opens. */
const MUSIC_MARGIN: Ms = MUSIC_REACH + 100

/** A part of a screening's sound. */
export interface SoundPart {
  /** Its place among all, from 0. */
  readonly n: number
  /** Packets in it: fewer in the last. */
  readonly packets: number
  /** How much before and after it is looked at. */
  readonly margin: Ms
  /** What is heard from the margin before its beginning until that after its end, at times counted from the former. */
  readonly heard: readonly VoicePart[]
  /** What is heard of clips and music, likewise. */
  readonly clips: readonly ClipPart[]
}

/** A part of a screening's face: what is seen of which camera, at frames of the part; black in between. */
export interface FaceMediaPart {
  readonly n: number
  readonly frames: number
  readonly seen: readonly SeenFace[]
}

/** A camera seen for some frames. */
export interface SeenFace extends FaceDressing {
  readonly frame: number
  readonly frames: number
  readonly stretch: FacePart['stretch']
  /** Where its first frame is in the recording, in ms, and how much of the recording goes by in a ms of the film. */
  readonly from: Ms
  readonly tempo: number
}

/** What is heard between two times, counted from the first. At another tempo it stays whole: where it is begun decides how it sounds. */
function heardBetween<Part extends Omit<VoicePart, 'stretch'>>(part: Part, from: Ms, to: Ms): readonly Part[] {
  const end = part.at + part.length
  if (part.at >= to || end <= from) return []
  if (part.playbackRate.num !== part.playbackRate.den) return [{ ...part, at: part.at - from }]
  const [begins, ends] = [Math.max(part.at, from), Math.min(end, to)]
  return [
    {
      ...part,
      at: begins - from,
      length: ends - begins,
      from: part.from + begins - part.at,
      to: ends === end ? part.to : part.from + ends - part.at,
    },
  ]
}

/** As `heardBetween`, for what is heard besides voices. Music comes and goes by its own time, so it stays whole. */
function besideBetween(part: ClipPart, from: Ms, to: Ms): readonly ClipPart[] {
  const { music } = part
  if (music === undefined) return heardBetween(part, from, to)
  if (part.at >= to || part.at + part.length <= from) return []
  const fades = music.fades.map((fade) => ({ from: fade.from - from, to: fade.to - from }))
  return [{ ...part, at: part.at - from, music: { ...music, fades } }]
}

/** The sound of a film in parts. Each holds all that decides it, and nothing of what is farther away: an edit elsewhere leaves it alone. */
export function soundParts(
  { voice, clips }: { readonly voice: readonly VoicePart[]; readonly clips: readonly ClipPart[] },
  length: Ms,
): readonly SoundPart[] {
  const packets = Math.ceil((length * SOUND_PART.sampleRate) / 1000 / SOUND_PART.packet)
  return Array.from({ length: Math.ceil(packets / SOUND_PART.packets) }, (_, n) => {
    const near = clips.flatMap((part) => besideBetween(part, n * SOUND_PART_MS - MUSIC_MARGIN, (n + 1) * SOUND_PART_MS + MUSIC_MARGIN))
    const margin = near.some(({ music }) => music !== undefined) ? MUSIC_MARGIN : SOUND_MARGIN
    const [from, to] = [n * SOUND_PART_MS - margin, (n + 1) * SOUND_PART_MS + margin]
    return {
      n,
      packets: Math.min(SOUND_PART.packets, packets - n * SOUND_PART.packets),
      margin,
      heard: voice.flatMap((part) => heardBetween(part, from, to)),
      clips: clips.flatMap((part) => besideBetween(part, from, to)),
    }
  })
}

const frameOf = (at: Ms): number => Math.round((at * FACE_PART.frameRate) / 1000)

/** The face of a film in parts; none when it is never seen. */
export function faceMediaParts(faces: readonly FacePart[], length: Ms): readonly FaceMediaPart[] {
  if (faces.length === 0) return []
  const frames = Math.max(1, frameOf(length))
  return Array.from({ length: Math.ceil(frames / FACE_PART.frames) }, (_, n) => {
    const first = n * FACE_PART.frames
    const count = Math.min(FACE_PART.frames, frames - first)
    const seen = faces.flatMap((face): readonly SeenFace[] => {
      const begins = Math.max(first, frameOf(face.at))
      const ends = Math.min(first + count, frameOf(face.at + face.length))
      if (ends <= begins) return []
      const tempo = (face.to - face.from) / face.length
      const at = (begins * 1000) / FACE_PART.frameRate - face.at
      return [
        {
          frame: begins - first,
          frames: ends - begins,
          stretch: face.stretch,
          from: Math.round((face.from + Math.max(0, at) * tempo) * 1000) / 1000,
          tempo: Math.round(tempo * 1e9) / 1e9,
          ...dressingOf(face),
        },
      ]
    })
    return { n, frames: count, seen }
  })
}
