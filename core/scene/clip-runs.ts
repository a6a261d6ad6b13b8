import { intoSpan, pieceLength } from '@core/programme'
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

/** Times into a piece between which clips are played on as they were at the first of them. */
function turnsOf(index: FilmIndex, number: number, length: Ms): readonly Ms[] {
  const found = trackIn(index, number)
  if (found === null) return []
  const { track, span } = found
  const inside = [...track.turns, ...track.clipTurns].map((at) => intoSpan(span, at)).filter((at) => at > 0 && at < length)
  return [...new Set([0, ...inside, length])].sort((a, b) => a - b)
}

/** How much of a clip goes by in a ms of a piece. */
function rateIn(index: FilmIndex, number: number): number {
  const { num, den } = trackIn(index, number)?.span.rate ?? { num: 1, den: 1 }
  return num / den
}

/** What is played of one clip from a turn until the next. */
function runsBetween(clip: Clip, at: Ms, from: Ms, to: Ms, rate: number): readonly ClipRun[] {
  const runs: ClipRun[] = []
  for (let [begin, moment] = [from, at]; begin < to - JUST_AFTER; moment = clip.from) {
    const end = Math.min(to, begin + (clip.to - moment) / rate)
    runs.push({ clip, from: begin, to: end, at: moment })
    begin = end
    if (!clip.loop) break
  }
  return runs
}

const toMicroseconds = (at: Ms): Ms => Math.round(at * 1000) / 1000

/** What is played of the clips of a piece, in order of its beginning. @param number of the piece in the programme */
export function clipRuns(index: FilmIndex, number: number): readonly ClipRun[] {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined || index.film.slides.get(piece.slide)?.clips === undefined) return []
  const length = pieceLength(piece)
  const turns = turnsOf(index, number, length)
  const rate = rateIn(index, number)
  return turns.slice(0, -1).flatMap((from, n) => {
    const playing = sceneIn(index, number, from + JUST_AFTER).clips.filter((one) => one.playing)
    return playing.flatMap(({ clip, at }) => runsBetween(clip, toMicroseconds(at), from, turns[n + 1] ?? length, rate))
  })
}
