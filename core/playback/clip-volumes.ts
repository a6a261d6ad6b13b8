import { clipGain } from '@core/plan'
import type { ClipScene, FilmIndex } from '@core/scene'
import { fromDb } from '@core/voice'
import type { Ms } from '@core/model'
import { softenedAt, soundMix } from './sound-mix'
import type { SoundMix } from './sound-mix'

/** How loud a clip is played at a time of a film, 0 to 1. */
export type ClipVolume = (clip: ClipScene, at: Ms) => number

/**
 * How loud the clips of a film are played beside its recordings, of which none is louder than it was recorded: as in its file, but for what
 * would be louder than it is. What is said is looked through when the first of them is heard: most films have none.
 * @param peaks outlines of voices by stretch; see `peaksOf`
 */
export function clipVolumes(index: FilmIndex, peaks: Readonly<Record<string, readonly number[]>>): ClipVolume {
  let mix: SoundMix | null = null
  return ({ clip }, at) => {
    if (!clip.media.sound) return 0
    mix ??= soundMix(index, peaks)
    const { voice, most, clips } = mix
    return Math.min(1, fromDb(clipGain(clip.media.loudness, clip.gain, voice) - most + softenedAt(clips, at)))
  }
}
