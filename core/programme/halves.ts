import type { Ms, Piece, Span } from '@core/model'
import { pieceLength, sourceAt } from './length'

/** How much of what is recorded plays in `length` ms of the talk. */
const sourceOf = (piece: Piece & { kind: 'recorded' }, length: Ms): Ms => Math.round(sourceAt(length, 0, piece.rate))

/** The first `length` ms of a piece, or null when nothing is left of it. */
export function headOf(piece: Piece, length: Ms): Piece | null {
  if (length <= 0) return null
  if (length >= pieceLength(piece)) return piece
  if (piece.kind === 'still') return { ...piece, length }
  const source = sourceOf(piece, length)
  const shorten = (span: Span): Span => ({ ...span, to: Math.min(span.to, span.from + source) })
  return { ...piece, show: shorten(piece.show), voice: piece.voice && shorten(piece.voice), camera: piece.camera && shorten(piece.camera) }
}

/** What is left of a piece without its first `length` ms, or null when nothing is. */
export function tailOf(piece: Piece, length: Ms): Piece | null {
  if (length <= 0) return piece
  if (length >= pieceLength(piece)) return null
  if (piece.kind === 'still') return { ...piece, length: piece.length - length }
  const source = sourceOf(piece, length)
  const behead = (span: Span): Span => ({ ...span, from: Math.min(span.to, span.from + source) })
  return { ...piece, show: behead(piece.show), voice: piece.voice && behead(piece.voice), camera: piece.camera && behead(piece.camera) }
}
