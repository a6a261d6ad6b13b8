import { sameRatio } from '@core/model'
import type { Piece, Ratio, Span } from '@core/model'

const greatestDivisor = (a: number, b: number): number => (b === 0 ? a : greatestDivisor(b, a % b))

/** A ratio in its lowest terms. */
function lowest(num: number, den: number): Ratio {
  const divisor = greatestDivisor(num, den)
  return { num: num / divisor, den: den / divisor }
}

/**
 * A piece shown at another rate. Its voice and face take as long as what it shows: those that were recorded with it go at its rate,
 * those that came from elsewhere are changed by as much as it is.
 */
export function atTempo(piece: Piece, rate: Ratio): Piece {
  if (piece.kind === 'still') return piece
  const { rate: before } = piece.show
  const wanted = lowest(rate.num, rate.den)
  const changed = ({ stretch, from, to, rate: own }: Span): Span => ({
    stretch,
    from,
    to,
    rate: sameRatio(own, before) ? wanted : lowest(own.num * rate.num * before.den, own.den * rate.den * before.num),
  })
  const show = changed(piece.show)
  // Parts of one recording are often one value; they stay that.
  const like = (span: Span | null): Span | null => (span === piece.show ? show : span && changed(span))
  return { ...piece, show, voice: like(piece.voice), camera: like(piece.camera) }
}
