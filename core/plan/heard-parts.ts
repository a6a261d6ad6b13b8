import { intoPiece } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import type { Ms, Piece, Span, Stretch } from '@core/model'

/** Parts this near are one, in ms. */
const NEAR: Ms = 60

type Voiced = Piece & { readonly kind: 'recorded', readonly voice: Span }
/** From one time to another, in ms. */
export interface Part { readonly from: Ms, readonly to: Ms }

/** Parts of a voice, given in its stretch's time, as they lie in the talk; what lies outside the piece is left out. */
function inTalk(piece: Voiced, start: Ms, parts: readonly Part[]): readonly Part[] {
  const { voice, rate } = piece
  const time = (at: Ms): Ms => start + intoPiece(at, voice.from, rate)
  return parts.map(({ from, to }) => ({ from: Math.max(from, voice.from), to: Math.min(to, voice.to) }))
    .filter(({ from, to }) => to > from).map(({ from, to }) => ({ from: time(from), to: time(to) }))
}

/** Parts that touch become one. */
function together(parts: readonly Part[]): readonly Part[] {
  const out: { from: Ms, to: Ms }[] = []
  for (const part of [...parts].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last !== undefined && part.from - last.to <= NEAR) last.to = Math.max(last.to, part.to)
    else out.push({ ...part })
  }
  return out
}

/** The pieces of a talk in which a voice is heard, each with when it begins in the talk. */
export const heardPieces = ({ film, starts }: FilmIndex): readonly { readonly piece: Voiced, readonly start: Ms }[] =>
  film.programme.pieces.flatMap((piece, n) => (piece.kind === 'recorded' && piece.voice !== null ? [{ piece: { ...piece, voice: piece.voice }, start: starts[n] ?? 0 }] : []))

/**
 * Parts of the voices as they lie in the talk, in order; those that touch are one, also over the end of a piece.
 * @param of which parts of a stretch's voice, in its own time
 */
export const heardParts = (index: FilmIndex, of: (stretch: Stretch) => readonly Part[]): readonly Part[] =>
  together(heardPieces(index).flatMap(({ piece, start }) => {
    const stretch = index.film.stretches.get(piece.voice.stretch)
    return stretch === undefined ? [] : inTalk(piece, start, of(stretch))
  }))
