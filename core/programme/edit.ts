import { unreachable } from '@core/model'
import type { Intent, Ms, Piece, PieceId, Programme, Slide, SlideId, Take, VisitId } from '@core/model'
import { dividedAt } from './cut'
import { dub } from './dub'
import { pieceStarts } from './length'
import { piecesOfTake } from './pieces-of-take'

type Versions = Readonly<Record<SlideId, number>>

/** The versions that a deck's slides have now. */
export const versionsOf = (slides: readonly Slide[]): Versions =>
  Object.fromEntries(slides.map((slide) => [slide.id, slide.version]))

/** The next programme, of these pieces. A seam goes with the piece that it stood behind. */
function next(programme: Programme, pieces: readonly Piece[], slides: Versions): Programme {
  const there = new Set<PieceId | null>([null, ...pieces.map((piece) => piece.id)])
  return { pieces, seams: programme.seams.filter((seam) => there.has(seam.after)), slides: { ...programme.slides, ...slides }, revision: programme.revision + 1 }
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
  return next(programme, [...before, ...pieces, ...after], slides)
}

/** Takes these stretches out, as when their take is discarded: pieces that show one go; those that only play or film one fall silent. */
export function withoutStretches(programme: Programme, stretches: ReadonlySet<string>): Programme {
  const without = <Part extends { readonly stretch: string }>(part: Part | null): Part | null => (part !== null && stretches.has(part.stretch) ? null : part)
  const kept = (pieces: readonly Piece[]): readonly Piece[] => pieces.flatMap((piece): Piece[] => {
    if (piece.kind === 'still') return [piece]
    return stretches.has(piece.show.stretch) ? [] : [{ ...piece, voice: without(piece.voice), camera: without(piece.camera) }]
  })
  const seams = programme.seams.map((seam) => ({ ...seam, pieces: kept(seam.pieces) })).filter((seam) => seam.pieces.length > 0)
  return next({ ...programme, seams }, kept(programme.pieces), {})
}

/** Does with a finished take what its presenter meant to. @param slides the deck as it is now; the versions of those that the take shows are named by the programme */
export function placeTake(programme: Programme, intent: Intent, take: Take, slides: readonly Slide[]): Programme {
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
    case 'retake': return retakeVisit(programme, intent.visit, pieces, versions)
    default: return unreachable(intent)
  }
}
