import { unreachable } from '@core/model'
import type { Cue, Film, Ms, RecordedPiece, VisitId } from '@core/model'
import { intoSpan, pieceStarts, playedLength, sourceAt, visitsOf } from '@core/programme'
import type { TimeRange } from '@core/programme'
import { clipRuns, indexFilm, inkAfterwards, withInkAfterwards } from '@core/scene'
import { speechFree } from '@core/voice'

/** A part of the finished talk in which nobody speaks and nothing is drawn, in programme time. */
export interface Pause {
  readonly from: Ms
  readonly to: Ms
  readonly visit: VisitId
  /** Whether it begins or ends its visit: what can go there is slack, not a pause for effect. */
  readonly edge: 'begin' | 'end' | null
}

/** Loudness outlines by stretch; see `peaksOf`. */
export type Outlines = Readonly<Record<string, readonly number[]>>

/** Nothing shorter is a pause, in ms. */
export const SHORTEST_PAUSE: Ms = 300
/** What happens on the slide is given this much on either side. */
const AROUND: Ms = 200
/** A pause this near to a visit's end is at its end. */
const NEAR: Ms = 60

/** When something happens on the slide by the presenter's hand. */
function busy(cue: Cue): { readonly from: Ms; readonly to: Ms } | null {
  switch (cue.kind) {
    case 'ink':
      return { from: cue.at, to: cue.at + (cue.stroke.points.at(-1)?.dt ?? 0) }
    case 'point':
      return { from: cue.at, to: cue.at + (cue.path.at(-1)?.dt ?? 0) }
    case 'show':
    case 'erase':
    case 'wipe':
    case 'blank':
      return { from: cue.at, to: cue.at }
    // While a clip is played nothing is a pause, whatever started it.
    case 'clip':
    case 'inset':
    case 'mute':
    case 'stumble':
      return null
    default:
      return unreachable(cue)
  }
}

/** What is left of parts when others are taken away. */
function without(parts: readonly TimeRange[], taken: readonly TimeRange[]): readonly TimeRange[] {
  return taken.reduce<readonly TimeRange[]>(
    (left, hole) =>
      left.flatMap((part) =>
        hole.to <= part.from || hole.from >= part.to
          ? [part]
          : [
              { from: part.from, to: hole.from },
              { from: hole.to, to: part.to },
            ].filter(({ from, to }) => to > from),
      ),
    parts,
  )
}

/**
 * Pauses of a piece, in ms from its beginning.
 * @param cues of what it shows, with the ink that was changed and added in Review
 * @param played when its clips are
 */
function pausesIn(
  { show, voice }: RecordedPiece,
  cues: readonly Cue[],
  played: readonly TimeRange[],
  free: (stretch: string) => readonly TimeRange[],
): readonly TimeRange[] {
  const length = playedLength(show)
  const silent =
    voice === null
      ? [{ from: 0, to: length }]
      : // Of a dub the voice lies elsewhere than what is shown.
        free(voice.stretch)
          .map(({ from, to }) => ({
            from: intoSpan(voice, Math.max(from, voice.from)),
            to: Math.min(length, intoSpan(voice, Math.min(to, voice.to))),
          }))
          .filter(({ from, to }) => to > from)
  // The cue that brings a slide up stands at its piece's beginning and is no work of the hand in it.
  const reach = sourceAt({ from: 0, rate: show.rate }, AROUND)
  const holes = cues
    .filter((cue) => cue.at > show.from && cue.at < show.to)
    .flatMap((cue) => busy(cue) ?? [])
    .map(({ from, to }) => ({ from: intoSpan(show, from - reach), to: intoSpan(show, to + reach) }))
  return without(silent, [...holes, ...played])
}

/** Where a talk pauses. @returns in order, none overlapping, none shorter than `SHORTEST_PAUSE` */
export function pausesOf(film: Film, outlines: Outlines): readonly Pause[] {
  const known = new Map<string, readonly TimeRange[]>()
  const free = (stretch: string): readonly TimeRange[] => {
    const found = known.get(stretch) ?? speechFree(outlines[stretch] ?? [], SHORTEST_PAUSE)
    known.set(stretch, found)
    return found
  }
  const ink = inkAfterwards(film.programme)
  const cues = new Map<string, readonly Cue[]>()
  const cuesOf = ({ show }: RecordedPiece): readonly Cue[] => {
    const stretch = film.stretches.get(show.stretch)
    const found = cues.get(show.stretch) ?? (stretch === undefined ? [] : withInkAfterwards(stretch, ink).cues)
    cues.set(show.stretch, found)
    return found
  }
  const starts = pieceStarts(film.programme)
  const index = [...film.slides.values()].some(({ clips }) => clips !== undefined) ? indexFilm(film) : null
  const parts: { from: Ms; to: Ms; visit: VisitId }[] = []
  for (const [n, piece] of film.programme.pieces.entries()) {
    if (piece.kind === 'still' || piece.out !== undefined) continue
    const start = starts[n] ?? 0
    const played = index === null ? [] : clipRuns(index, n)
    for (const part of pausesIn(piece, cuesOf(piece), played, free)) {
      const [from, to] = [Math.ceil(start + part.from), Math.floor(start + part.to)]
      const last = parts.at(-1)
      if (last?.visit === piece.visit && from <= last.to) last.to = Math.max(last.to, to)
      else if (to > from) parts.push({ from, to, visit: piece.visit })
    }
  }
  const visits = new Map(visitsOf(film.programme).map((visit) => [visit.id, visit]))
  return parts
    .filter(({ from, to }) => to - from >= SHORTEST_PAUSE)
    .map((part): Pause => {
      const visit = visits.get(part.visit)
      const ends = visit !== undefined && visit.start + visit.length - part.to <= NEAR
      const begins = visit !== undefined && part.from - visit.start <= NEAR
      const start = begins ? 'begin' : null
      return { ...part, edge: ends ? 'end' : start }
    })
}

/**
 * What to cut so that a pause is only as long as `rest`.
 * @returns null when it is no longer than that
 */
export function tightened({ from, to, edge }: Pause, rest: Ms): TimeRange | null {
  if (to - from <= rest) return null
  switch (edge) {
    // What is kept stands beside the words.
    case 'begin':
      return { from, to: to - rest }
    case 'end':
      return { from: from + rest, to }
    case null:
      return { from: from + Math.round(rest / 2), to: to - (rest - Math.round(rest / 2)) }
  }
}
