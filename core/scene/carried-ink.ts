import type { Film, Piece, Stretch, StretchId } from '@core/model'
import { shownSpan } from '@core/programme'
import { goneAt, groundKey, groundOf } from './ink-afterwards'
import type { InkAfterwards } from './ink-afterwards'
import type { LyingStroke } from './track'

/** Added ink that has been begun in a visit, with what it was drawn over. */
interface Begun {
  readonly ground: string
  readonly lying: LyingStroke
}

/** Recordings whose ink a piece shows by itself. */
const shownByItself = (piece: Piece): ReadonlySet<string> =>
  new Set([
    groundKey(groundOf(piece)),
    ...(piece.kind === 'still' && piece.of !== undefined ? [groundKey({ kind: 'stretch', id: piece.of.stretch })] : []),
  ])

/** Strokes that a piece's recording opened with. */
const openedWith = (stretch: Stretch | undefined): ReadonlySet<string> => new Set(stretch?.opening.ink.map((stroke) => stroke.id))

/** Ink that was added over what a piece shows, and lies on its slide at the piece's end. */
function begunIn(piece: Piece, stretch: Stretch | undefined, ink: InkAfterwards): readonly Begun[] {
  const ground = groundKey(groundOf(piece))
  const { to } = shownSpan(piece)
  return (ink.added.get(ground) ?? [])
    .filter(
      ({ at, stroke }) =>
        at < to &&
        stroke.slide === piece.slide &&
        ink.edits.get(stroke.id)?.hidden !== true &&
        goneAt(stretch?.cues ?? [], stroke, at) >= to,
    )
    .map(({ stroke }) => ({ ground, lying: { stroke, from: -Infinity, whole: -Infinity, until: Infinity } }))
}

/**
 * What was added over one recording and lies on its slide where the visit goes on in another: ink stays until it is wiped. It is there
 * from the moment at which it was drawn on, in the order in which the visit is played, and nowhere twice.
 * @param stretches as they are seen
 * @returns for each piece, by its place, strokes in the piece's own time; none for most
 */
export function carriedInk(
  { programme }: Pick<Film, 'programme'>,
  stretches: ReadonlyMap<StretchId, Stretch>,
  ink: InkAfterwards,
): ReadonlyMap<number, readonly LyingStroke[]> {
  const carried = new Map<number, readonly LyingStroke[]>()
  if (ink.added.size === 0) return carried
  let begun: readonly Begun[] = []
  let visit: string | null = null
  for (const [n, piece] of programme.pieces.entries()) {
    if (piece.out !== undefined) continue
    if (piece.visit !== visit) begun = []
    visit = piece.visit
    const stretch = piece.kind === 'still' ? undefined : stretches.get(piece.show.stretch)
    const { from, to } = shownSpan(piece)
    const [own, there] = [shownByItself(piece), openedWith(stretch)]
    const brought = begun.map(({ ground, lying }): Begun => ({
      ground,
      lying: { ...lying, until: goneAt(stretch?.cues ?? [], lying.stroke, from - 1) },
    }))
    const seen = brought.filter(({ ground, lying }) => !own.has(ground) && !there.has(lying.stroke.id)).map(({ lying }) => lying)
    if (seen.length > 0) carried.set(n, seen)
    const left = brought.filter(({ ground, lying }) => ground !== groundKey(groundOf(piece)) && lying.until >= to)
    begun = [...left.map(({ ground, lying }) => ({ ground, lying: { ...lying, until: Infinity } })), ...begunIn(piece, stretch, ink)]
  }
  return carried
}
