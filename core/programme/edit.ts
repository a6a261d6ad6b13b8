import { unreachable } from '@core/model'
import type { Intent, Ms, Piece, Programme, Slide, SlideId } from '@core/model'
import { pieceLength, pieceStarts } from './length'

type Versions = Readonly<Record<SlideId, number>>

/** The versions that a deck's slides have now. */
export const versionsOf = (slides: readonly Slide[]): Versions =>
  Object.fromEntries(slides.map((slide) => [slide.id, slide.version]))

const next = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme => ({
  pieces, slides: { ...programme.slides, ...slides }, revision: programme.revision + 1,
})

/** Adds pieces at the end. */
export const append = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  next(programme, [...programme.pieces, ...pieces], slides)

/** Starts over with these pieces. */
export const replaceAll = (programme: Programme, pieces: readonly Piece[], slides: Versions): Programme =>
  next(programme, pieces, slides)

/** The first `length` ms of a piece, or null when nothing is left of it. */
function headOf(piece: Piece, length: Ms): Piece | null {
  if (length <= 0) return null
  if (length >= pieceLength(piece)) return piece
  if (piece.kind === 'still') return { ...piece, length }
  const source = Math.round((length * piece.rate.num) / piece.rate.den)
  const shorten = <Span extends { readonly from: Ms, readonly to: Ms }>(span: Span): Span =>
    ({ ...span, to: Math.min(span.to, span.from + source) })
  return {
    ...piece,
    show: shorten(piece.show),
    voice: piece.voice && shorten(piece.voice),
    camera: piece.camera && shorten(piece.camera),
  }
}

/**
 * Keeps what comes before `at` and puts `pieces` in place of all that came after.
 * @param at programme time in ms; a piece that it falls inside keeps its head
 */
export function replaceFrom(programme: Programme, at: Ms, pieces: readonly Piece[], slides: Versions): Programme {
  const starts = pieceStarts(programme)
  const kept = programme.pieces.flatMap((piece, index) => {
    const head = headOf(piece, at - (starts[index] ?? 0))
    return head === null ? [] : [head]
  })
  return next(programme, [...kept, ...pieces], slides)
}

/** Removes every piece that shows, plays or films one of these stretches, as when their take is discarded. */
export function withoutStretches(programme: Programme, stretches: ReadonlySet<string>): Programme {
  const names = (piece: Piece): readonly (string | undefined)[] => (piece.kind === 'still'
    ? []
    : [piece.show.stretch, piece.voice?.stretch, piece.camera?.stretch])
  const kept = programme.pieces.filter((piece) => !names(piece).some((id) => id !== undefined && stretches.has(id)))
  return next(programme, kept, {})
}

/** Does with a finished take's pieces what its presenter meant to. */
export function placeTake(programme: Programme, intent: Intent, pieces: readonly Piece[], slides: Versions): Programme {
  switch (intent.kind) {
    case 'replaceAll': return replaceAll(programme, pieces, slides)
    case 'append': return append(programme, pieces, slides)
    case 'replaceFrom': return replaceFrom(programme, intent.at, pieces, slides)
    default: return unreachable(intent)
  }
}
