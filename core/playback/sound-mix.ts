import { heardPieces, voiceLoudness } from '@core/plan'
import { gainsOf, intoSpan } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import { PEAKS_A_SECOND, duckingOf, fromDb, musicDuckingOf } from '@core/voice'
import type { Ms } from '@core/model'

const STEP: Ms = 1000 / PEAKS_A_SECOND

/** What decides how loud everything is that is heard besides the voices of a film. */
export interface SoundMix {
  /** Of its voices, in LUFS; null: nobody speaks. */
  readonly voice: number | null
  /** The most that a recording is raised by, in dB. */
  readonly most: number
  /** How much softer clips and music are, in dB, by steps of the film; null: nobody speaks. */
  readonly clips: Float32Array | null
  readonly music: Float32Array | null
}

/** The outline of all that is said in a film, in the film's time. */
function outlineOf(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): readonly number[] {
  const outline = new Array<number>(Math.ceil(index.length / STEP)).fill(0)
  const gains = gainsOf(index.film.programme, index.film.stretches)
  for (const { piece, start } of heardPieces(index)) {
    const { voice } = piece
    const own = peaks[voice.stretch] ?? []
    const factor = fromDb(gains.get(voice.stretch) ?? 0)
    for (let n = Math.floor(voice.from / STEP); n * STEP < voice.to; n += 1) {
      const at = Math.floor((start + intoSpan(voice, Math.max(n * STEP, voice.from))) / STEP)
      outline[at] = Math.max(outline[at] ?? 0, (own[n] ?? 0) * factor)
    }
  }
  return outline
}

/**
 * Looks through all that is said in a film, so that what is heard besides can make room for it.
 * @param peaks outlines of voices by stretch; see `peaksOf`
 */
export function soundMix(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): SoundMix {
  const voice = voiceLoudness(index)
  const most = Math.max(0, ...gainsOf(index.film.programme, index.film.stretches).values())
  if (voice === null) return { voice, most, clips: null, music: null }
  const outline = outlineOf(index, peaks)
  return { voice, most, clips: duckingOf(outline, voice), music: musicDuckingOf(outline, voice) }
}

/** How much softer something is at a time of the film, in dB. @param by steps; null: it is as loud as it is */
export const softenedAt = (by: Float32Array | null, at: Ms): number =>
  by?.[Math.min(by.length - 1, Math.max(0, Math.floor(at / STEP)))] ?? 0
