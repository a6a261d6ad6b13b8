import { AS_RECORDED } from '@core/model'
import type { AssetId, Ms, Ratio } from '@core/model'
import { heardLoudness } from '@core/programme'
import { clipRuns, trackIn } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import type { Fade } from './fade'

/** A part of the sound that comes from a clip: `from` to `to` of it, heard from `at` of the film on. */
export interface ClipPart {
  readonly at: Ms
  readonly length: Ms
  readonly file: AssetId
  readonly from: Ms
  readonly to: Ms
  readonly playbackRate: Ratio
  /** How much louder it is played than it is, in dB. */
  readonly gain: number
  /** How loud the voices are that it makes room for, in LUFS; null: nobody speaks. */
  readonly voice: number | null
  /** Of music: how it comes and goes, in the film's time, and whether it is heard in place of voices. */
  readonly music?: { readonly fades: readonly Fade[]; readonly instead: boolean }
}

/** How loud speech is taken to be where nobody speaks, in LUFS. */
export const USUAL_SPEECH = -20

/** What a clip that is as loud as speech would be raised by, in dB. */
export const clipGain = (loudness: number | null, gain: number, voice: number | null): number =>
  loudness === null ? gain : Math.round(((voice ?? USUAL_SPEECH) - loudness + gain) * 10) / 10

/** How loud the voices of a film are together, in LUFS; null: there are none, or nobody knows. */
export const voiceLoudness = ({ film }: FilmIndex): number | null => heardLoudness(film.programme, film.stretches)

/** What is heard of the clips of a film, in order of its beginning. */
export function clipParts(index: FilmIndex): readonly ClipPart[] {
  const voice = voiceLoudness(index)
  const parts = index.film.programme.pieces.flatMap((piece, number): readonly ClipPart[] => {
    if (piece.out !== undefined) return []
    const playbackRate = trackIn(index, number)?.span.rate ?? AS_RECORDED
    const start = index.starts[number] ?? 0
    return clipRuns(index, number)
      .filter(({ clip }) => clip.media.sound)
      .map(({ clip: { media, gain }, from, to, at }) => ({
        at: start + from,
        length: to - from,
        file: media.file,
        from: at,
        to: at + ((to - from) * playbackRate.num) / playbackRate.den,
        playbackRate,
        gain: clipGain(media.loudness, gain, voice),
        voice,
      }))
  })
  return parts.sort((a, b) => a.at - b.at)
}
