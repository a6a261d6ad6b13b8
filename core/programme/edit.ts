import { unreachable } from '@core/model'
import type { Intent, Ms, Piece, Programme, Slide, SlideId, StillPiece, Stretch, StretchId, Take, VisitId } from '@core/model'
import { cutParts } from './cut'
import { divide } from './divide'
import { hungLike, hungOn } from './dressing'
import { dub } from './dub'
import { visitGoingOn } from './fresh-id'
import { pieceLength, pieceStarts } from './length'
import { piecesOfTake } from './pieces-of-take'
import type { TimeRange } from './time-range'
import { visitsOf } from './visits'
import { framedLike, withPieces } from './with-pieces'

type Versions = Readonly<Record<SlideId, number>>

/** The versions that a deck's slides have now. */
export const versionsOf = (slides: readonly Slide[]): Versions => Object.fromEntries(slides.map((slide) => [slide.id, slide.version]))

/** The next programme, of these pieces. */
const next = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  withPieces({ ...programme, slides: { ...programme.slides, ...slides } }, pieces)

/** Adds pieces at the end. */
export const append = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  next(programme, [...programme.pieces, ...pieces], slides)

/** Starts over with these pieces. */
const replaceAll = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme => next(programme, pieces, slides)

/**
 * Keeps what comes before `at` and puts `pieces` in place of all that came after.
 * @param at programme time in ms; a piece that it falls inside keeps its head
 */
export function replaceFrom(programme: Programme, at: Ms, pieces: readonly Piece[], slides: Versions): Programme {
  const {
    pieces: divided,
    places: [place = 0],
  } = divide(programme, [at])
  return next(programme, [...(at <= 0 ? [] : divided.slice(0, place)), ...pieces], slides)
}

/** Puts pieces in place of one visit. Where that visit is gone, they go to the end, so that nothing recorded is lost. */
export function retakeVisit(programme: Programme, visit: VisitId, pieces: readonly Piece[], slides: Versions): Programme {
  const at = programme.pieces.findIndex((piece) => piece.visit === visit)
  if (at < 0) return append(programme, pieces, slides)
  const before = programme.pieces.slice(0, at)
  const after = programme.pieces.slice(at).filter((piece) => piece.visit !== visit)
  // The face stays where it was put, and so does what lies over it.
  const framing = programme.framings[visit]
  const [first] = pieces
  if (first === undefined) return next(programme, [...before, ...after], slides)
  const framings = framing === undefined ? programme.framings : { ...programme.framings, [first.visit]: framing }
  return next(hungOn({ ...programme, framings }, visit, first.visit), [...before, ...pieces, ...after], slides)
}

/**
 * Puts pieces in place of a part of one visit; what comes first of them on the visit's slide belongs to it. Where that visit is
 * gone, they go to the end, so that nothing recorded is lost.
 * @param from ms into the visit @param to later than `from`
 */
export function retakeRange(programme: Programme, id: VisitId, from: Ms, to: Ms, pieces: readonly Piece[], slides: Versions): Programme {
  const visit = visitsOf(programme).find((one) => one.id === id)
  if (visit === undefined) return append(programme, pieces, slides)
  const [begin, end] = [visit.start + Math.min(from, visit.length), visit.start + Math.min(to, visit.length)]
  const {
    pieces: divided,
    places: [place = 0, behind = 0],
  } = divide(programme, [begin, end])
  const first = begin >= end ? behind : place
  // What was cut just behind the part stays where it is.
  let after = behind
  while (after > first && divided[after - 1]?.out !== undefined) after -= 1
  const elsewhere = pieces.findIndex((piece) => piece.slide !== visit.slide)
  const own = pieces.map((piece, n): Piece => (elsewhere < 0 || n < elsewhere ? { ...piece, visit: id } : piece))
  const rest = divided.slice(after)
  const going = rest[0]
  if (elsewhere < 0 || going?.visit !== id) return next(programme, [...divided.slice(0, first), ...own, ...rest], slides)
  // What comes after another slide is a showing of its own, framed as it was.
  const name = visitGoingOn(programme, going)
  const renamed = rest.map((piece): Piece => (piece.visit === id ? { ...piece, visit: name } : piece))
  return next(framedLike(programme, id, name), [...divided.slice(0, first), ...own, ...renamed], slides)
}

const withoutMoment = ({ of: _, ...piece }: StillPiece): Piece => piece

/** Takes these stretches out, as when their take is discarded: pieces that show one go; those that only play or film one fall silent. */
export function withoutStretches(programme: Programme, stretches: ReadonlySet<string>): Programme {
  const without = <Part extends { readonly stretch: string }>(part: Part | null): Part | null =>
    part !== null && stretches.has(part.stretch) ? null : part
  return withPieces(
    programme,
    programme.pieces.flatMap((piece): Piece[] => {
      if (piece.kind === 'still') return [piece.of !== undefined && stretches.has(piece.of.stretch) ? withoutMoment(piece) : piece]
      return stretches.has(piece.show.stretch) ? [] : [{ ...piece, voice: without(piece.voice), camera: without(piece.camera) }]
    }),
  )
}

/** Silence that is left before the first word and after the last of a part that was said again, in ms. */
const LEFT_BEFORE: Ms = 150
const LEFT_AFTER: Ms = 250
/** Less than this is not worth a cut, in ms. */
const WORTH: Ms = 200

/** Parts of a stretch that surely hold no speech, in its own time. */
export type SpeechFree = (stretch: StretchId) => readonly TimeRange[]

/**
 * Cuts what is silent before the first word and after the last of a part that was said again, so that it joins what is around it; the
 * seams open again.
 */
function trimmedRange(programme: Programme, stretches: readonly Stretch[], free: SpeechFree): Programme {
  const counted = stretches.filter((stretch) => stretch.kept > 0)
  const [first, last] = [counted[0], counted.at(-1)]
  const starts = pieceStarts(programme)
  const own = programme.pieces
    .map((piece, n) => ({ piece, start: starts[n] ?? 0 }))
    .filter(({ piece }) => piece.kind === 'recorded' && counted.some(({ id }) => id === piece.show.stretch))
  const [begin, end] = [own[0], own.at(-1)]
  if (first === undefined || last === undefined || begin === undefined || end === undefined) return programme
  const head = free(first.id).find(({ from }) => from === 0)
  const tail = free(last.id).findLast(({ to }) => to >= last.kept - WORTH)
  const until = end.start + pieceLength(end.piece)
  const silent = tail === undefined ? 0 : Math.min(pieceLength(end.piece) - WORTH, last.kept - tail.from - LEFT_AFTER)
  const before =
    head === undefined || head === tail ? 0 : Math.min(pieceLength(begin.piece) - WORTH, Math.min(head.to, first.kept) - LEFT_BEFORE)
  const parts = [
    ...(before > WORTH ? [{ from: begin.start, to: begin.start + before }] : []),
    ...(silent > WORTH && until - silent >= begin.start + Math.max(0, before) ? [{ from: until - silent, to: until }] : []),
  ]
  return parts.length === 0 ? programme : cutParts(programme, parts)
}

/** Whether anything of a take counts. One of which nothing does changes nothing: its presenter went back to its beginning and stopped. */
const counts = (take: Pick<Take, 'stretches'>): boolean => take.stretches.some((stretch) => stretch.kept > 0)

/**
 * Applies a finished take to the programme, by its intent. A take of which nothing counts leaves the programme as it is.
 * @param slides the deck as it is now; the versions of those that the take shows are named by the programme
 * @param free parts of a stretch that surely hold no speech
 */
export function placeTake(
  programme: Programme,
  intent: Intent,
  take: Take,
  slides: readonly Slide[],
  free: SpeechFree = () => [],
): Programme {
  if (!counts(take)) return programme
  if (intent.kind === 'dub') {
    return dub(
      programme,
      intent.at,
      take.stretches.map(({ id, kept, camera }) => ({ id, length: kept, camera })),
    )
  }
  const pieces = piecesOfTake(take)
  const shown = new Set(pieces.map((piece) => piece.slide))
  const versions = versionsOf(slides.filter((slide) => shown.has(slide.id)))
  switch (intent.kind) {
    case 'replaceAll':
      return hungLike(replaceAll(programme, pieces, versions), programme)
    case 'append':
      return append(programme, pieces, versions)
    case 'replaceFrom':
      return hungLike(replaceFrom(programme, intent.at, pieces, versions), programme)
    case 'range': {
      const placed = retakeRange(programme, intent.visit, intent.from, intent.to, pieces, versions)
      return trimmedRange(placed, take.stretches, free)
    }
    case 'retake':
      return retakeVisit(programme, intent.visit, pieces, versions)
    default:
      return unreachable(intent)
  }
}
