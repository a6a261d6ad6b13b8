import type { Ms, SlideId, Stretch } from '@core/model'
import { PEAKS_A_SECOND, meanLoudness, silencesOf } from '@core/voice'
import { showingsOf } from './pieces-of-take'
import { rangesOverlap } from './time-range'
import type { TimeRange } from './time-range'

/** A stretch with what its sound and camera turned out to be. */
export interface HeardStretch extends Stretch {
  readonly peaks: readonly number[]
  /** LUFS; null when it is too quiet to say. */
  readonly loudness: number | null
  /** For how long the camera gave no pictures, in ms. */
  readonly cameraLost: Ms
  /** Whether its sound was placed by measure; null when there is none. */
  readonly timing: 'measured' | 'approximate' | null
}

/** A part of a take, in its own time: pauses left out, and what was said again left out. */
export interface TakePart {
  readonly at: Ms
  readonly length: Ms
}

/** What a presenter has after a take. */
export interface TakeReport {
  readonly length: Ms
  readonly loudness: number | null
  /** How long the voice was louder than can be recorded, in ms. */
  readonly clipped: Ms
  readonly silences: readonly TakePart[]
  readonly muted: readonly TakePart[]
  readonly shown: readonly SlideId[]
  readonly cameraLost: Ms
  readonly stumbles: number
  /** Whether what was said is placed to the moment by measure; null when nothing was said. */
  readonly timing: 'measured' | 'approximate' | null
}

/** A longer silence is one that a listener notices, in ms. */
export const LONG_SILENCE: Ms = 5000
/** A peak as high as this touches full scale. */
const FULL = 255

/** When nothing of the voice was stored in what counts of a stretch, in its own time, in order. */
export function mutedParts(stretch: Pick<Stretch, 'cues' | 'kept'>): readonly TimeRange[] {
  const parts: TimeRange[] = []
  let since: Ms | null = null
  for (const cue of stretch.cues) {
    if (cue.kind !== 'mute' || cue.at >= stretch.kept) continue
    if (cue.on) since ??= cue.at
    else if (since !== null) {
      parts.push({ from: since, to: cue.at })
      since = null
    }
  }
  return since === null ? parts : [...parts, { from: since, to: stretch.kept }]
}

/** Silences of what counts of a stretch, without those that muting made. */
function silentParts(stretch: HeardStretch, muted: readonly TimeRange[]): readonly TimeRange[] {
  if (!stretch.voice) return []
  const kept = stretch.peaks.slice(0, Math.ceil((stretch.kept / 1000) * PEAKS_A_SECOND))
  return silencesOf(kept, LONG_SILENCE)
    .map(({ from, to }) => ({ from, to: Math.min(to, stretch.kept) }))
    .filter((silence) => !muted.some((part) => rangesOverlap(part, silence)))
}

/** Says what a take holds. @param stretches in order */
export function reportOf(stretches: readonly HeardStretch[]): TakeReport {
  let before = 0
  const placed = stretches.map((stretch) => {
    const at = before
    before += stretch.kept
    const later = ({ from, to }: TimeRange): TakePart => ({ at: Math.round(from + at), length: Math.round(to - from) })
    const muted = mutedParts(stretch)
    return { stretch, muted: muted.map(later), silences: silentParts(stretch, muted).map(later) }
  })
  const loudness = meanLoudness(stretches.map((stretch) => ({ loudness: stretch.loudness, length: stretch.kept })))
  const counted = stretches.map((stretch) => stretch.peaks.slice(0, Math.ceil((stretch.kept / 1000) * PEAKS_A_SECOND)))
  return {
    length: before,
    loudness: loudness === null ? null : Math.round(loudness * 10) / 10,
    clipped: counted.reduce((sum, peaks) => sum + peaks.filter((peak) => peak >= FULL).length, 0) * (1000 / PEAKS_A_SECOND),
    silences: placed.flatMap((one) => one.silences),
    muted: placed.flatMap((one) => one.muted),
    shown: [
      ...new Set(stretches.filter((stretch) => stretch.kept > 0).flatMap((stretch) => showingsOf(stretch).map((showing) => showing.slide))),
    ],
    cameraLost: stretches.reduce((sum, stretch) => sum + stretch.cameraLost, 0),
    timing: stretches.some((stretch) => stretch.timing === 'approximate')
      ? 'approximate'
      : (stretches.find((stretch) => stretch.timing !== null)?.timing ?? null),
    stumbles: stretches.reduce(
      (sum, stretch) => sum + stretch.cues.filter((cue) => cue.kind === 'stumble' && cue.at < stretch.kept).length,
      0,
    ),
  }
}
