import { Refusal, asId } from '@core/model'
import type { Ms, Piece, PieceId, Programme, Seam } from '@core/model'
import { headOf, tailOf } from './halves'
import { pieceLength, pieceStarts, programmeLength } from './length'

/** The second half of a piece, under an id of its own. */
const tailNamed = (piece: Piece, into: Ms): Piece | null => {
  const tail = tailOf(piece, into)
  return tail === null || into <= 0 ? tail : { ...tail, id: asId(`${piece.id}+${String(into)}`) }
}

/**
 * Divides a piece where a time falls inside it, so that the time lies between two pieces. Nothing else changes: what is
 * seen and heard stays the same.
 * @param at programme time in ms
 */
export function dividedAt(programme: Programme, at: Ms): Programme {
  const starts = pieceStarts(programme)
  const n = programme.pieces.findIndex((piece, index) => at > (starts[index] ?? 0) && at < (starts[index] ?? 0) + pieceLength(piece))
  const piece = programme.pieces[n]
  if (piece === undefined) return programme
  const into = at - (starts[n] ?? 0)
  const [head, tail] = [headOf(piece, into), tailNamed(piece, into)]
  if (head === null || tail === null) return programme
  return {
    ...programme,
    pieces: [...programme.pieces.slice(0, n), head, tail, ...programme.pieces.slice(n + 1)],
    // What stood behind the whole piece stands behind its second half.
    seams: programme.seams.map((seam) => (seam.after === piece.id ? { ...seam, after: tail.id } : seam)),
  }
}

/** Index of the first piece that begins at a time or later. */
const indexAt = (programme: Programme, at: Ms): number => {
  const starts = pieceStarts(programme)
  const n = programme.pieces.findIndex((_, index) => (starts[index] ?? 0) >= at)
  return n < 0 ? programme.pieces.length : n
}

/**
 * Takes a part out. It closes into a seam, which keeps what went and can be opened again.
 * @param from programme time in ms
 * @param to later than `from`
 * @throws Refusal `malformed` when nothing lies between the two, `conflict` when nothing would be left
 */
export function cut(programme: Programme, from: Ms, to: Ms): Programme {
  const [begin, end] = [Math.max(0, from), Math.min(to, programmeLength(programme))]
  if (end <= begin) throw new Refusal('malformed', 'Nothing lies between these two times.')
  if (begin === 0 && end === programmeLength(programme)) throw new Refusal('conflict', 'This would cut everything. Discard the take instead; that can be undone too.')
  const divided = dividedAt(dividedAt(programme, begin), end)
  const [first, last] = [indexAt(divided, begin), indexAt(divided, end)]
  const gone = divided.pieces.slice(first, last)
  const inside = new Set<PieceId | null>(gone.map((piece) => piece.id))
  const after = divided.pieces[first - 1]?.id ?? null
  const seam: Seam = {
    id: asId(`${String(gone[0]?.id)}~${String(end - begin)}`), after, pieces: gone,
    seams: divided.seams.filter((one) => inside.has(one.after)),
  }
  return {
    ...divided,
    pieces: [...divided.pieces.slice(0, first), ...divided.pieces.slice(last)],
    seams: [...divided.seams.filter((one) => !inside.has(one.after)), seam],
    revision: programme.revision + 1,
  }
}

/** How much went at a seam, in ms. */
export const seamLength = (seam: Seam): Ms => seam.pieces.reduce((sum, piece) => sum + pieceLength(piece), 0)

/** Where seams lie in the finished talk, in order. */
export function seamsOf(programme: Programme): readonly { readonly seam: Seam, readonly at: Ms }[] {
  const starts = pieceStarts(programme)
  const ends = new Map<PieceId | null, Ms>([[null, 0], ...programme.pieces.map((piece, n) => [piece.id, starts[n + 1] ?? 0] as const)])
  return programme.seams.map((seam) => ({ seam, at: ends.get(seam.after) ?? 0 })).sort((a, b) => a.at - b.at)
}

/** Pieces that continue each other exactly become one again. */
function joined(pieces: readonly Piece[], seams: readonly Seam[]): Pick<Programme, 'pieces' | 'seams'> {
  const out: Piece[] = []
  const renamed = new Map<PieceId, PieceId>()
  const behind = new Set(seams.map((seam) => seam.after))
  for (const piece of pieces) {
    const last = out.at(-1)
    if (last !== undefined && !behind.has(last.id) && piece.id.startsWith(`${last.id}+`)) {
      const whole = joinedPiece(last, piece)
      if (whole !== null) {
        out[out.length - 1] = whole
        renamed.set(piece.id, last.id)
        continue
      }
    }
    out.push(piece)
  }
  return { pieces: out, seams: seams.map((seam) => (seam.after !== null && renamed.has(seam.after) ? { ...seam, after: renamed.get(seam.after) ?? null } : seam)) }
}

function joinedPiece(a: Piece, b: Piece): Piece | null {
  if (a.visit !== b.visit) return null
  if (a.kind === 'still' && b.kind === 'still') return a.step === b.step && JSON.stringify(a.of) === JSON.stringify(b.of) ? { ...a, length: a.length + b.length } : null
  if (a.kind === 'still' || b.kind === 'still') return null
  if (a.rate.num !== b.rate.num || a.rate.den !== b.rate.den) return null
  const parts = (['show', 'voice', 'camera'] as const).map((part) => [a[part], b[part]] as const)
  const follow = parts.every(([x, y]) => (x === null || y === null ? x === y : x.stretch === y.stretch && x.to === y.from))
  if (!follow) return null
  return { ...a, show: { ...a.show, to: b.show.to }, voice: a.voice && b.voice && { ...a.voice, to: b.voice.to }, camera: a.camera && b.camera && { ...a.camera, to: b.camera.to } }
}

/**
 * Opens a seam: what was cut there is back, as it was.
 * @throws Refusal `not-found` when it is gone
 */
export function reopen(programme: Programme, id: Seam['id']): Programme {
  const seam = programme.seams.find((one) => one.id === id)
  if (seam === undefined) throw new Refusal('not-found', 'This cut is not there any more.')
  const at = seam.after === null ? 0 : programme.pieces.findIndex((piece) => piece.id === seam.after) + 1
  const pieces = [...programme.pieces.slice(0, at), ...seam.pieces, ...programme.pieces.slice(at)]
  const last = seam.pieces.at(-1)?.id ?? null
  // Seams at one place are in the order of what they hold: those that come later now stand behind what came back.
  const own = programme.seams.indexOf(seam)
  const others = programme.seams.filter((one) => one !== seam)
    .map((one) => (one.after === seam.after && programme.seams.indexOf(one) > own ? { ...one, after: last } : one))
  return { ...programme, ...joined(pieces, [...others, ...seam.seams]), revision: programme.revision + 1 }
}
