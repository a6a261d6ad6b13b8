import type { Piece, Span, StillPiece } from '@core/model'
import { goesOnFrom } from './length'

/** Two spans that go on from one another as one; undefined when they do not. */
function joinedSpan(a: Span | null, b: Span | null): Span | null | undefined {
  if (a === null || b === null) return a === b ? null : undefined
  return goesOnFrom(a, b) ? { ...a, to: b.to } : undefined
}

const sameMoment = (a: StillPiece['of'], b: StillPiece['of']): boolean => a?.stretch === b?.stretch && a?.at === b?.at

/** Two parts of one still. */
const goOnStill = (a: StillPiece, b: StillPiece): boolean =>
  a.still === b.still && a.to === b.from && a.step === b.step && sameMoment(a.of, b.of)

/** Two pieces as the one that they were; null when they are not halves of one. */
function joinedPiece(a: Piece, b: Piece): Piece | null {
  if (a.visit !== b.visit || a.out !== b.out) return null
  if (a.kind === 'still' || b.kind === 'still')
    return a.kind === 'still' && b.kind === 'still' && goOnStill(a, b) ? { ...a, to: b.to } : null
  const show = joinedSpan(a.show, b.show)
  const voice = joinedSpan(a.voice, b.voice)
  const camera = joinedSpan(a.camera, b.camera)
  return show === undefined || show === null || voice === undefined || camera === undefined ? null : { ...a, show, voice, camera }
}

/** Puts halves together again that lie next to each other. */
export function joined(pieces: readonly Piece[]): readonly Piece[] {
  const out: Piece[] = []
  for (const piece of pieces) {
    const last = out.at(-1)
    const whole = last === undefined ? null : joinedPiece(last, piece)
    if (whole === null) out.push(piece)
    else out[out.length - 1] = whole
  }
  return out
}
