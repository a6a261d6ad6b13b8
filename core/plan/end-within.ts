import type { FilmIndex } from '@core/scene'
import { silencesOf } from '@core/voice'
import type { Ms } from '@core/model'
import { heardParts } from './heard-parts'

/** A pause in which a part may end, at least, and how much of it is kept, in ms. */
const PAUSE: Ms = 300
const KEPT: Ms = 400
/** So much of a limit is left unused, at most, for the sake of a pause. */
const UNUSED = 0.2

/**
 * Where a part of a talk ends best so that it keeps to a limit: in the last pause before its time is up, so that nobody is cut off in
 * the middle of a word; when there is none for a long time, just when it is up.
 * @param from where the part begins, in ms of the talk
 * @param limit longest that the part may be, in ms, more than 0
 * @param outlines of voices by stretch; see `peaksOf`
 * @returns ms of the talk
 */
export function endWithin(index: FilmIndex, from: Ms, limit: Ms, outlines: Readonly<Record<string, readonly number[]>>): Ms {
  const latest = Math.min(index.length, from + limit)
  const pauses = heardParts(index, (stretch) => silencesOf(outlines[stretch.id] ?? [], PAUSE))
  const ends = pauses
    .map((pause) => Math.round(Math.min(pause.from + KEPT, pause.to, latest)))
    .filter((end, n) => (pauses[n]?.from ?? latest) < latest && end > latest - limit * UNUSED && end > from)
  return ends.length === 0 ? latest : Math.max(...ends)
}
