import type { Piece, Ratio, Span } from '@core/model'

const greatestDivisor = (a: number, b: number): number => (b === 0 ? a : greatestDivisor(b, a % b))

/** A ratio in its lowest terms. */
function lowest(num: number, den: number): Ratio {
  const divisor = greatestDivisor(num, den)
  return { num: num / divisor, den: den / divisor }
}

/**
 * A piece shown at another rate. Its voice and face take as long as what it shows: those that were recorded with it go at its rate, those that came
 * from elsewhere are changed by as much as it is.
 */
export function atTempo(piece: Piece, rate: Ratio): Piece {
  if (piece.kind === 'still') return piece
  const { rate: before } = piece.show
  const changed = (span: Span | null): Span | null =>
    span && { ...span, rate: lowest(span.rate.num * rate.num * before.den, span.rate.den * rate.den * before.num) }
  return { ...piece, show: { ...piece.show, rate: lowest(rate.num, rate.den) }, voice: changed(piece.voice), camera: changed(piece.camera) }
}
