import { clipGain, heardPieces, voiceLoudness } from '@core/plan'
import { gainsOf, intoSpan } from '@core/programme'
import type { ClipScene, FilmIndex } from '@core/scene'
import { PEAKS_A_SECOND, duckingOf, fromDb } from '@core/voice'
import type { Ms } from '@core/model'

const STEP: Ms = 1000 / PEAKS_A_SECOND

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

/** How loud a clip is played at a time of a film, 0 to 1. */
export type ClipVolume = (clip: ClipScene, at: Ms) => number

/** What decides how loud all clips of a film are. */
interface ClipMix {
  /** Of its voices, in LUFS; null: nobody speaks. */
  readonly voice: number | null
  /** The most that a recording is raised by, in dB. */
  readonly most: number
  /** How much softer clips are, in dB, by steps of the film; null: nobody speaks. */
  readonly ducking: Float32Array | null
}

function mixOf(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): ClipMix {
  const voice = voiceLoudness(index)
  const most = Math.max(0, ...gainsOf(index.film.programme, index.film.stretches).values())
  return { voice, most, ducking: voice === null ? null : duckingOf(outlineOf(index, peaks), voice) }
}

/**
 * How loud the clips of a film are played beside its recordings, of which none is louder than it was recorded: as in its file, but for what
 * would be louder than it is. What is said is looked through when the first of them is heard: most films have none.
 * @param peaks outlines of voices by stretch; see `peaksOf`
 */
export function clipVolumes(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): ClipVolume {
  let mix: ClipMix | null = null
  return ({ clip }, at) => {
    if (!clip.media.sound) return 0
    mix ??= mixOf(index, peaks)
    const { voice, most, ducking } = mix
    const ducked = ducking?.[Math.min(ducking.length - 1, Math.max(0, Math.floor(at / STEP)))] ?? 0
    return Math.min(1, fromDb(clipGain(clip.media.loudness, clip.gain, voice) - most + ducked))
  }
}
