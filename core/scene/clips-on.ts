import { clipLength, clipsOfStep } from '@core/model'
import type { Clip, Ms, PlayedClip, Slide } from '@core/model'

/** A clip as it is at a moment. */
export interface ClipScene {
  readonly clip: Clip
  /** Which of its moments is seen and heard, in its own time. */
  readonly at: Ms
  readonly playing: boolean
}

/** Nearer than this to the next picture of a clip it is that one, as a part of a picture: times went through rates. */
const NEARLY = 1e-3

/** Which of a clip's pictures is seen at a moment of it, counted from 0; its last stays. A sound has none: 0. */
export function pictureOfClip({ media, from, to }: Clip, at: Ms): number {
  if (media.picture === null) return 0
  const { num, den } = media.picture.rate
  const first = (moment: Ms): number => Math.floor((moment * num) / (den * 1000) + NEARLY)
  // The picture that would begin at its end is not played any more.
  const last = Math.max(first(from), Math.ceil((Math.min(to, media.length) * num) / (den * 1000) - NEARLY) - 1)
  return Math.max(0, Math.min(first(at), last))
}

/** How much of a started clip was played by then, as if it had no end. @param at in the time in which it was started */
export const playedOf = ({ place, playing, at: since }: PlayedClip, at: Ms): Ms => (playing ? place + Math.max(0, at - since) : place)

/** A started clip as what begins then has it: its own time counts from there. @param at in the time in which it was started */
export const startedFrom = (clip: PlayedClip, at: Ms): PlayedClip => ({ ...clip, place: playedOf(clip, at), at: 0 })

function clipAt(clip: Clip, started: PlayedClip | undefined, at: Ms): ClipScene {
  if (started === undefined) return { clip, at: clip.from, playing: false }
  const played = playedOf(started, at)
  const length = clipLength(clip)
  if (clip.loop) return { clip, at: clip.from + (played % length), playing: started.playing }
  // One that is over keeps its last picture.
  return played < length ? { clip, at: clip.from + played, playing: started.playing } : { clip, at: clip.to, playing: false }
}

/**
 * The clips on a slide at a moment, those that nobody started at their beginnings; of those recorded from a window only what plays.
 * @param started which of them were, and since when
 * @param at in the time in which they were started
 */
export const clipsOn = (slide: Pick<Slide, 'clips'>, step: number, started: readonly PlayedClip[], at: Ms): readonly ClipScene[] =>
  clipsOfStep(slide, step).flatMap((clip) => {
    const since = started.find((one) => one.clip === clip.id)
    return clip.captured === true && since === undefined ? [] : [clipAt(clip, since, at)]
  })

/**
 * Clips that begin by themselves with a step of a slide, as they are started then; those of steps before are over, or go on and on. On a
 * slide that is held without a recording nothing else starts them.
 */
export const startedByItself = (slide: Pick<Slide, 'clips'>, step: number): readonly PlayedClip[] =>
  clipsOfStep(slide, step)
    .filter((clip) => clip.start === 'step')
    .map((clip) => ({ clip: clip.id, at: 0, place: clip.step === step || clip.loop ? 0 : clipLength(clip), playing: true }))
