import { intoSpan, pieceLength } from '@core/programme'
import { clipLength } from '@core/model'
import type { Clip, Ms } from '@core/model'
import { sceneIn, trackIn } from './scene-at'
import type { FilmIndex } from './scene-at'

/** A clip that is played in a piece without a break, at the piece's own rate. */
export interface ClipRun {
  readonly clip: Clip
  /** ms into the piece. */
  readonly from: Ms
  readonly to: Ms
  /** Which of the clip's moments it begins with. */
  readonly at: Ms
}

/** So much after a turn all that happens at it has happened, in ms. */
const JUST_AFTER: Ms = 1e-6

/** Times into a piece between which clips are played on as they were at the first of them. @param length of the piece */
function turnsOf({ track, span }: NonNullable<ReturnType<typeof trackIn>>, length: Ms): readonly Ms[] {
  const inside = [...track.turns, ...track.clipTurns].map((at) => intoSpan(span, at)).filter((at) => at > 0 && at < length)
  return [...new Set([0, ...inside, length])].sort((a, b) => a - b)
}

/**
 * What is played of one clip from a turn until the next.
 * @param at which of its moments it begins with
 * @param from the turn, in ms into the piece @param to the next one
 * @param rate how much of the clip goes by in a ms of the piece
 */
function runsBetween(clip: Clip, at: Ms, from: Ms, to: Ms, rate: number): readonly ClipRun[] {
  const runs: ClipRun[] = []
  let run = { clip, from, to: Math.min(to, from + (clip.to - at) / rate), at }
  while (run.from < to - JUST_AFTER) {
    runs.push(run)
    if (!clip.loop) break
    run = { clip, from: run.to, to: Math.min(to, run.to + clipLength(clip) / rate), at: clip.from }
  }
  return runs
}

const toMicroseconds = (at: Ms): Ms => Math.round(at * 1000) / 1000

/** What is played of the clips of a piece, in order of its beginning. @param number of the piece in the programme */
export function clipRuns(index: FilmIndex, number: number): readonly ClipRun[] {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined || index.film.slides.get(piece.slide)?.clips === undefined) return []
  const found = trackIn(index, number)
  if (found === null) return []
  const length = pieceLength(piece)
  const turns = turnsOf(found, length)
  const rate = found.span.rate.num / found.span.rate.den
  return turns.slice(0, -1).flatMap((from, n) => {
    const playing = sceneIn(index, number, from + JUST_AFTER).clips.filter((one) => one.playing)
    return playing.flatMap(({ clip, at }) => runsBetween(clip, toMicroseconds(at), from, turns[n + 1] ?? length, rate))
  })
}
