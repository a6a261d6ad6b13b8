import { faceRect } from '@core/layout'
import { intoSpan, pieceStarts, shownSpan } from '@core/programme'
import { LAST_MOMENT, sceneAt } from '@core/scene'
import type { FilmIndex, Scene } from '@core/scene'
import type { Cue, Framing, Ms, PathPoint, Piece, Ratio, Rect, Stroke, StrokeId, VisitId } from '@core/model'

/** How far apart a film is looked at for what is shown, in ms; a change between is then found to the millisecond. */
const LOOK = 20

/** A stroke that is drawn while a slide is shown, and stays. */
export interface NarratedStroke {
  /** ms after the slide appears. */
  readonly at: Ms
  readonly stroke: Stroke
}

/** What of a showing of a slide goes onto a slide of an office deck. */
export interface NarratedVisit {
  readonly start: Ms
  readonly length: Ms
  /** When each state of the slide is shown first, in ms after it appears, with a time of the film at which it is there. */
  readonly states: readonly { readonly at: Ms; readonly time: Ms }[]
  /** Ink that lies on the slide when it appears, and stays. */
  readonly lying: ReadonlySet<StrokeId>
  readonly drawn: readonly NarratedStroke[]
  readonly pointer: readonly { readonly at: Ms; readonly path: readonly PathPoint[] }[]
  /** How the face is shown, and where; null: it is not. */
  readonly face: { readonly framing: Framing; readonly rect: Rect } | null
  /** Whether something that was drawn is gone before the showing ends. */
  readonly rubbedOut: boolean
}

const stateOf = (scene: Scene | null): string => (scene === null ? '' : `${String(scene.step)} ${String(scene.shown === null)}`)

/** When what is shown of a slide changes, from one time of a film to another. */
function changesBetween(index: FilmIndex, from: Ms, to: Ms): readonly Ms[] {
  const changes: Ms[] = []
  let before = stateOf(sceneAt(index, from))
  for (let at = from; at < to; at += LOOK) {
    const next = Math.min(at + LOOK, to - LAST_MOMENT)
    const after = stateOf(sceneAt(index, next))
    if (after === before) continue
    let [low, high] = [at, next]
    while (high - low > 1) {
      const middle = (low + high) / 2
      if (stateOf(sceneAt(index, middle)) === before) low = middle
      else high = middle
    }
    changes.push(high)
    before = after
  }
  return changes
}

/** What happens in a piece, with when that is in the film. */
function cuesIn({ film }: FilmIndex, piece: Piece, start: Ms): readonly PlayedCue[] {
  if (piece.kind === 'still') return []
  const { from, to, rate } = shownSpan(piece)
  const cues = film.stretches.get(piece.show.stretch)?.cues ?? []
  return cues.filter(({ at }) => at >= from && at < to).map((cue) => ({ at: start + intoSpan({ from, rate }, cue.at), cue, rate }))
}

const inTempo = <Point extends { readonly dt: Ms }>(points: readonly Point[], { num, den }: Ratio): readonly Point[] =>
  points.map((point) => ({ ...point, dt: Math.round((point.dt * den) / num) }))

/** A cue of a showing, with when it is in the film, and the tempo at which it is played. */
interface PlayedCue {
  readonly at: Ms
  readonly cue: Cue
  readonly rate: Ratio
}

/** Strokes on a slide at a time of a film. */
const strokesAt = (index: FilmIndex, time: Ms): ReadonlySet<StrokeId> =>
  new Set((sceneAt(index, time)?.ink ?? []).map(({ stroke }) => stroke.id))

/** What is drawn while a slide is shown and stays, and whether something of it, or of what lay there, does not. */
function inkOf(
  cues: readonly PlayedCue[],
  start: Ms,
  lying: ReadonlySet<StrokeId>,
  stays: ReadonlySet<StrokeId>,
): Pick<NarratedVisit, 'drawn' | 'rubbedOut'> {
  const drawn = new Map<StrokeId, NarratedStroke>()
  let rubbedOut = [...lying].some((stroke) => !stays.has(stroke))
  for (const { at, cue, rate } of cues) {
    if (cue.kind !== 'ink' || lying.has(cue.stroke.id)) continue
    if (!stays.has(cue.stroke.id)) rubbedOut = true
    else if (!drawn.has(cue.stroke.id))
      drawn.set(cue.stroke.id, { at: Math.round(at - start), stroke: { ...cue.stroke, points: inTempo(cue.stroke.points, rate) } })
  }
  return { drawn: [...drawn.values()], rubbedOut }
}

/** How the face is seen in most of a showing. */
function faceIn(index: FilmIndex, start: Ms, length: Ms): NarratedVisit['face'] {
  const times = [start + length / 2, start, start + length - LAST_MOMENT]
  const framing = times.map((time) => sceneAt(index, time)?.inset?.framing).find((one) => one !== undefined)
  return framing === undefined ? null : { framing, rect: faceRect(framing) }
}

/**
 * What of each showing of a slide goes onto a slide of an office deck.
 * @param index of a film whose pieces are recordings of their own (`filmForViewers`)
 */
export function narratedVisits(
  index: FilmIndex,
  visits: readonly { readonly id: VisitId; readonly start: Ms; readonly length: Ms }[],
): readonly NarratedVisit[] {
  const { pieces } = index.film.programme
  const starts = pieceStarts(index.film.programme)
  return visits.map(({ id, start, length }) => {
    const end = start + length
    const [atFirst, stays] = [strokesAt(index, start), strokesAt(index, end - LAST_MOMENT)]
    const cues = pieces.flatMap((piece, n) => (piece.visit === id && piece.out === undefined ? cuesIn(index, piece, starts[n] ?? 0) : []))
    return {
      start,
      length,
      states: [{ at: 0, time: start }, ...changesBetween(index, start, end).map((time) => ({ at: Math.round(time - start), time }))],
      lying: new Set([...atFirst].filter((stroke) => stays.has(stroke))),
      ...inkOf(cues, start, atFirst, stays),
      pointer: cues.flatMap(({ at, cue, rate }) =>
        cue.kind === 'point' ? [{ at: Math.round(at - start), path: inTempo(cue.path, rate) }] : [],
      ),
      face: faceIn(index, start, length),
    }
  })
}
