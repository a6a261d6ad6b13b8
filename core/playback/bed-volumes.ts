import { bedParts, fadedAt } from '@core/plan'
import type { ClipPart } from '@core/plan'
import type { FilmIndex } from '@core/scene'
import { fromDb } from '@core/voice'
import type { AssetId, Ms } from '@core/model'
import { softenedAt, soundMix } from './sound-mix'
import type { SoundMix } from './sound-mix'

/** Music that is heard at a time of a film. */
export interface HeardBed {
  /** Tells it from others, and from its own next time. */
  readonly key: string
  readonly file: AssetId
  /** Where in its file. */
  readonly at: Ms
  /** 0 to 1 */
  readonly volume: number
  /** Whether nothing is heard of voices meanwhile. */
  readonly instead: boolean
}

/** What is heard of music at a time of a film. */
export type HeardBeds = (at: Ms) => readonly HeardBed[]

const SILENCE: readonly HeardBed[] = []

function heard(part: ClipPart, n: number, at: Ms, { most, music }: SoundMix): HeardBed {
  const instead = part.music?.instead === true
  const ducked = instead ? 0 : softenedAt(music, at)
  const volume = fromDb(part.gain - most + ducked) * fadedAt(part.music?.fades ?? [], at)
  return { key: String(n), file: part.file, at: part.from + at - part.at, volume: Math.min(1, volume), instead }
}

/**
 * The music of a film as it is played beside its recordings: as in its file, but for what would be louder than it is.
 * @param peaks outlines of voices by stretch; see `peaksOf`
 */
export function heardBeds(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): HeardBeds {
  const parts = bedParts(index)
  if (parts.length === 0) return () => SILENCE
  let mix: SoundMix | null = null
  return (at) => {
    mix ??= soundMix(index, peaks)
    const now = mix
    return parts.flatMap((part, n) => (at >= part.at && at < part.at + part.length ? [heard(part, n, at, now)] : []))
  }
}
