import { asId, unreachable } from '@core/model'
import type { Intent, Ms, Piece, PieceId, Programme, Slide, SlideId, Stretch, StretchId, Take, VisitId } from '@core/model'
import { cut, dividedAt } from './cut'
import { dub } from './dub'
import { pieceLength, pieceStarts } from './length'
import { piecesOfTake } from './pieces-of-take'
import { visitsOf } from './visits'

type Versions = Readonly<Record<SlideId, number>>

/** The versions that a deck's slides have now. */
export const versionsOf = (slides: readonly Slide[]): Versions =>
  Object.fromEntries(slides.map((slide) => [slide.id, slide.version]))

/** The next programme, of these pieces. A seam goes with the piece that it stood behind. */
function next(programme: Programme, pieces: readonly Piece[], slides: Versions): Programme {
  const there = new Set<PieceId | null>([null, ...pieces.map((piece) => piece.id)])
  return { ...programme, pieces, seams: programme.seams.filter((seam) => there.has(seam.after)), slides: { ...programme.slides, ...slides }, revision: programme.revision + 1 }
}

/** Adds pieces at the end. */
export const append = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  next(programme, [...programme.pieces, ...pieces], slides)

/** Starts over with these pieces. */
export const replaceAll = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  next({ ...programme, seams: [] }, pieces, slides)

/**
 * Keeps what comes before `at` and puts `pieces` in place of all that came after.
 * @param at programme time in ms; a piece that it falls inside keeps its head
 */
export function replaceFrom(programme: Programme, at: Ms, pieces: readonly Piece[], slides: Versions): Programme {
  const divided = dividedAt(programme, at)
  const starts = pieceStarts(divided)
  const kept = divided.pieces.filter((_, index) => (starts[index] ?? 0) < at)
  return next(divided, [...kept, ...pieces], slides)
}

/** Puts pieces in place of one visit. Where that visit is gone, they go to the end, so that nothing recorded is lost. */
export function retakeVisit(programme: Programme, visit: VisitId, pieces: readonly Piece[], slides: Versions): Programme {
  const at = programme.pieces.findIndex((piece) => piece.visit === visit)
  if (at < 0) return append(programme, pieces, slides)
  const before = programme.pieces.slice(0, at)
  const after = programme.pieces.slice(at).filter((piece, n, rest) => piece.visit !== visit || rest.slice(0, n).some((one) => one.visit !== visit))
  // The face stays where it was put.
  const framing = programme.framings[visit]
  const [first] = pieces
  const framings = framing === undefined || first === undefined ? programme.framings : { ...programme.framings, [first.visit]: framing }
  return next({ ...programme, framings }, [...before, ...pieces, ...after], slides)
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
  const divided = dividedAt(dividedAt(programme, begin), end)
  const starts = pieceStarts(divided)
  const first = starts.findIndex((start) => start >= begin)
  const after = starts.findIndex((start) => start >= end)
  const elsewhere = pieces.findIndex((piece) => piece.slide !== visit.slide)
  const own = pieces.map((piece, n): Piece => (elsewhere < 0 || n < elsewhere ? { ...piece, visit: id } : piece))
  // What comes after another slide is a showing of its own.
  const rest = divided.pieces.slice(after).map((piece, n, all): Piece => {
    const still = all.slice(0, n).every((one) => one.visit === id)
    return elsewhere >= 0 && still && piece.visit === id ? { ...piece, visit: asId(`${id}+${String(to)}`) } : piece
  })
  return next(divided, [...divided.pieces.slice(0, first), ...own, ...rest], slides)
}

const withoutMoment = ({ of: _, ...piece }: Piece & { kind: 'still' }): Piece => piece

/** Takes these stretches out, as when their take is discarded: pieces that show one go; those that only play or film one fall silent. */
export function withoutStretches(programme: Programme, stretches: ReadonlySet<string>): Programme {
  const without = <Part extends { readonly stretch: string }>(part: Part | null): Part | null => (part !== null && stretches.has(part.stretch) ? null : part)
  const kept = (pieces: readonly Piece[]): readonly Piece[] => pieces.flatMap((piece): Piece[] => {
    if (piece.kind === 'still') return [piece.of !== undefined && stretches.has(piece.of.stretch) ? withoutMoment(piece) : piece]
    return stretches.has(piece.show.stretch) ? [] : [{ ...piece, voice: without(piece.voice), camera: without(piece.camera) }]
  })
  const seams = programme.seams.map((seam) => ({ ...seam, pieces: kept(seam.pieces) })).filter((seam) => seam.pieces.length > 0)
  return next({ ...programme, seams }, kept(programme.pieces), {})
}

/** Silence that is left before the first word and after the last of a part that was said again, in ms. */
const LEFT_BEFORE: Ms = 150
const LEFT_AFTER: Ms = 250
/** Less than this is not worth a cut, in ms. */
const WORTH: Ms = 200

/** Cuts what is silent before the first word and after the last, so that the part joins what is around it; the seams open again. */
function trimmedRange(programme: Programme, stretches: readonly Stretch[], free: (stretch: StretchId) => readonly { readonly from: Ms, readonly to: Ms }[]): Programme {
  const [first, last] = [stretches[0], stretches.at(-1)]
  const starts = pieceStarts(programme)
  const own = programme.pieces.map((piece, n) => ({ piece, start: starts[n] ?? 0 })).filter(({ piece }) => piece.kind === 'recorded' && stretches.some(({ id }) => id === piece.show.stretch))
  const [begin, end] = [own[0], own.at(-1)]
  if (first === undefined || last === undefined || begin === undefined || end === undefined) return programme
  const head = free(first.id).find(({ from }) => from === 0)
  const tail = free(last.id).findLast(({ to }) => to >= last.kept - WORTH)
  const from = end.start + pieceLength(end.piece)
  const silent = tail === undefined ? 0 : Math.min(pieceLength(end.piece) - WORTH, last.kept - tail.from - LEFT_AFTER)
  let now = programme
  if (silent > WORTH) now = cut(now, from - silent, from)
  const before = head === undefined ? 0 : Math.min(pieceLength(begin.piece) - WORTH, head.to - LEFT_BEFORE)
  return before > WORTH && head !== tail ? cut(now, begin.start, begin.start + before) : now
}

/** Does with a finished take what its presenter meant to. @param slides the deck as it is now; the versions of those that the take shows are named by the programme @param free parts of a stretch that surely hold no speech */
export function placeTake(programme: Programme, intent: Intent, take: Take, slides: readonly Slide[], free: (stretch: StretchId) => readonly { readonly from: Ms, readonly to: Ms }[] = () => []): Programme {
  if (intent.kind === 'dub') {
    return dub(programme, intent.at, take.stretches.map(({ id, kept, camera }) => ({ id, length: kept, camera })))
  }
  const pieces = piecesOfTake(take)
  const shown = new Set(pieces.map((piece) => piece.slide))
  const versions = versionsOf(slides.filter((slide) => shown.has(slide.id)))
  switch (intent.kind) {
    case 'replaceAll': return replaceAll(programme, pieces, versions)
    case 'append': return append(programme, pieces, versions)
    case 'replaceFrom': return replaceFrom(programme, intent.at, pieces, versions)
    case 'range': return { ...trimmedRange(retakeRange(programme, intent.visit, intent.from, intent.to, pieces, versions), take.stretches, free), revision: programme.revision + 1 }
    case 'retake': return retakeVisit(programme, intent.visit, pieces, versions)
    default: return unreachable(intent)
  }
}
