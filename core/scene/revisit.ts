import type { Cue, Film, Ms, Piece, Ratio, Snapshot, Stretch, Stroke } from '@core/model'
import { unreachable } from '@core/model'
import { intoSpan, pieceLength, piecesOfVisit, shownSpan } from '@core/programme'
import type { Visit } from '@core/programme'
import { groundOf, heldStretch, inkAfterwards, withInkAfterwards } from './ink-afterwards'
import { indexFilm, sceneIn, stretchOf } from './scene-at'
import { snapshotAt } from './snapshot'

/** What a new recording of a visit shows: how it opens, and what happens in it. */
export interface Revisit {
  readonly opening: Snapshot
  readonly cues: readonly Cue[]
}

/** Drawn as it was, in the time of the talk. */
function atRate(stroke: Stroke, { num, den }: Ratio): Stroke {
  if (num === den) return stroke
  return { ...stroke, points: stroke.points.map((point) => ({ ...point, dt: Math.round((point.dt * den) / num) })) }
}

/** A cue of what is seen, at its time in the talk; null for what is only heard, or said about it. */
function placed(cue: Cue, at: Ms, rate: Ratio): Cue | null {
  switch (cue.kind) {
    case 'ink':
      return { ...cue, at, stroke: atRate(cue.stroke, rate) }
    case 'point':
      return { ...cue, at, path: cue.path.map((point) => ({ ...point, dt: Math.round((point.dt * rate.den) / rate.num) })) }
    case 'show':
    case 'erase':
    case 'wipe':
    case 'blank':
    case 'inset':
    case 'clip':
      return { ...cue, at }
    case 'mute':
    case 'stumble':
      return null
    default:
      return unreachable(cue)
  }
}

/** Cues that turn what is on screen into something else at once: where a part was cut, all that happened in it has happened. */
function turning(from: Snapshot, to: Snapshot, at: Ms): readonly Cue[] {
  const had = new Set(from.ink.map((stroke) => stroke.id))
  const has = new Set(to.ink.map((stroke) => stroke.id))
  return [
    ...(from.slide === to.slide && from.step === to.step ? [] : [{ kind: 'show' as const, at, slide: to.slide, step: to.step }]),
    ...(from.blank === to.blank ? [] : [{ kind: 'blank' as const, at, on: to.blank }]),
    ...(from.inset === to.inset ? [] : [{ kind: 'inset' as const, at, on: to.inset }]),
    ...from.ink.filter(({ id }) => !has.has(id)).map(({ id }) => ({ kind: 'erase' as const, at, stroke: id })),
    ...to.ink
      .filter(({ id }) => !had.has(id))
      .map((stroke) => ({ kind: 'ink' as const, at, stroke: { ...stroke, points: stroke.points.map((point) => ({ ...point, dt: 0 })) } })),
  ]
}

/**
 * All that a visit shows, as a stretch of its own would hold it: steps and ink at their times, with what happened in parts that were
 * cut and what was drawn in Review. For a voice that comes from elsewhere, such as a file.
 * @param length of the new stretch, in ms: what would come later is there by its end
 * @returns null when nothing of the visit is played
 */
export function revisited(film: Film, visit: Visit, length: Ms): Revisit | null {
  const ink = inkAfterwards(film.programme)
  const index = indexFilm(film)
  const seen = (piece: Piece): Stretch =>
    withInkAfterwards(piece.kind === 'still' ? heldStretch(piece) : stretchOf(film, piece.show.stretch), ink, groundOf(piece))
  const heldAs = (number: number): Snapshot => {
    const scene = sceneIn(index, number, 0)
    return { slide: scene.slide, step: scene.step, blank: scene.shown === null, inset: true, ink: scene.ink.map(({ stroke }) => stroke) }
  }
  const parts = piecesOfVisit(film.programme, visit).map((piece) => {
    const number = film.programme.pieces.indexOf(piece)
    const stretch = seen(piece)
    const opening = piece.kind === 'still' ? heldAs(number) : snapshotAt(stretch, piece.show.from)
    // What lies there from other recordings of the visit.
    const carried = index.carried.get(number)?.map(({ stroke }) => stroke) ?? []
    const known = new Set(opening.ink.map(({ id }) => id))
    return { piece, stretch, opening: { ...opening, ink: [...carried.filter(({ id }) => !known.has(id)), ...opening.ink] } }
  })
  const [first] = parts
  if (first === undefined) return null
  let on: Snapshot = first.opening
  let start = 0
  const cues: Cue[] = []
  for (const { piece, stretch, opening } of parts) {
    const from = Math.min(length, Math.round(start))
    cues.push(...turning(on, opening, from))
    const span = shownSpan(piece)
    const inside = stretch.cues.filter((cue) => cue.at > span.from && cue.at < span.to)
    for (const cue of inside) {
      const own = placed(cue, Math.min(length, Math.round(start + intoSpan(span, cue.at))), span.rate)
      if (own !== null) cues.push(own)
    }
    on = snapshotAt({ opening, cues: inside }, span.to)
    start += pieceLength(piece)
  }
  return { opening: first.opening, cues }
}
