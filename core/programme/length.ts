import { AS_RECORDED, sameRatio } from '@core/model'
import type { Ms, Piece, Programme, Span } from '@core/model'

/** Times that are nearer than this are the same: what is left of a time that went through a rate and back, in ms. */
const GRAIN = 1e-6

/** Whether a time is at another one or after it. */
export const notBefore = (time: Ms, other: Ms): boolean => time > other - GRAIN

/** A time that went through a rate, set on the whole millisecond that it came from where there is one. */
const settled = (time: number): number => {
  const whole = Math.round(time)
  return Math.abs(time - whole) < GRAIN ? whole : time
}

/** A place in a recording or still that is played at a rate. */
type Played = Pick<Span, 'from' | 'rate'>

/**
 * How long after a span's beginning a moment of its recording is shown or heard.
 * @param at of the recording, in ms
 * @returns ms of the talk, exact; negative for what lies before the span
 */
export const intoSpan = ({ from, rate }: Played, at: Ms): Ms => settled(((at - from) * rate.den) / rate.num)

/**
 * Which moment of its recording a span has reached. Of what `intoSpan` gives for a whole moment, that moment: errors of the arithmetic
 * are some 1e-9 ms in talks of a day, and all that is nearer to a whole millisecond than 1e-6 is taken for it.
 * @param into ms of the talk since the span began
 * @returns ms of the recording
 */
export const sourceAt = ({ from, rate }: Played, into: Ms): Ms => settled(from + (into * rate.num) / rate.den)

/** Whether a span goes on where another one ends, in the same recording and at the same rate. */
export const goesOnFrom = (before: Omit<Span, 'from'>, span: Span): boolean =>
  before.stretch === span.stretch && before.to === span.from && sameRatio(before.rate, span.rate)

/** How long it takes to play a span, in ms of the talk, exact. */
export const playedLength = ({ from, to, rate }: Pick<Span, 'from' | 'to' | 'rate'>): Ms => settled(((to - from) * rate.den) / rate.num)

/** What a piece shows, of its recording or still, in that one's own time. */
export const shownSpan = (piece: Piece): Pick<Span, 'from' | 'to' | 'rate'> =>
  piece.kind === 'still' ? { from: piece.from, to: piece.to, rate: AS_RECORDED } : piece.show

/** How long a piece would be if it were played, whether it is or was cut; ms of the talk, exact. */
export const wholeLength = (piece: Piece): Ms => playedLength(shownSpan(piece))

/** How much of the finished talk a piece takes, in ms, exact: nothing of it once it was cut. */
export const pieceLength = (piece: Piece): Ms => (piece.out === undefined ? wholeLength(piece) : 0)

/**
 * When each piece starts; one more entry than there are pieces, the last being the programme's length. A piece that was cut starts
 * where the next one does.
 */
export function pieceStarts({ pieces }: Pick<Programme, 'pieces'>): readonly Ms[] {
  const starts: Ms[] = [0]
  for (const piece of pieces) starts.push(settled((starts.at(-1) ?? 0) + pieceLength(piece)))
  return starts
}

/** Length of the whole programme, in ms. */
export const programmeLength = (programme: Pick<Programme, 'pieces'>): Ms => pieceStarts(programme).at(-1) ?? 0

/** The pieces that are played, in order. */
export const playedPieces = ({ pieces }: Pick<Programme, 'pieces'>): readonly Piece[] => pieces.filter((piece) => piece.out === undefined)
