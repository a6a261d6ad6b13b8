import { takesOff } from '@core/session'
import { asId } from '@core/model'
import type { AddedInk, Cue, InkEdit, InkGround, Ms, Piece, Programme, StillPiece, Stretch, Stroke, StrokeId } from '@core/model'

/** Ink that a programme changes and adds, prepared for asking by what it lies over. */
export interface InkAfterwards {
  readonly edits: ReadonlyMap<StrokeId, InkEdit>
  readonly added: ReadonlyMap<string, readonly AddedInk[]>
}

/** Names what ink can be drawn over, so that a recording and a still are never taken for each other. */
export const groundKey = ({ kind, id }: InkGround): string => `${kind}:${id}`

/** What ink is drawn over on a piece. */
export const groundOf = (piece: Piece): InkGround =>
  piece.kind === 'still' ? { kind: 'still', id: piece.still } : { kind: 'stretch', id: piece.show.stretch }

/** A still as a recording of nothing: what is seen on it is the ink that was added. */
export const heldStretch = ({ slide, step }: StillPiece): Stretch => ({
  id: asId(''),
  length: Infinity,
  kept: Infinity,
  camera: false,
  voice: false,
  opening: { slide, step, blank: false, inset: false, ink: [] },
  cues: [],
})

export function inkAfterwards(programme: Pick<Programme, 'inkEdits' | 'inkAdded'>): InkAfterwards {
  const added = new Map<string, AddedInk[]>()
  for (const ink of programme.inkAdded) {
    const key = groundKey(ink.over)
    added.set(key, [...(added.get(key) ?? []), ink])
  }
  return { edits: new Map(programme.inkEdits.map((edit) => [edit.stroke, edit])), added }
}

const recoloured = (stroke: Stroke, edit: InkEdit | undefined): Stroke =>
  edit?.colour == null ? stroke : { ...stroke, colour: edit.colour }

/** A cue of ink that was added, in the time of what it was drawn over. */
const cueOfAdded = ({ at, stroke }: AddedInk): Cue => ({ kind: 'ink', at, stroke })

/** How long it takes to draw a stroke, in ms. */
export const strokeLength = (stroke: Stroke): Ms => stroke.points.at(-1)?.dt ?? 0

/**
 * When a stroke is taken off that was begun at some time; Infinity when it stays. What happened in the very millisecond in which it was
 * begun came before it.
 * @param cues in order
 */
export function goneAt(cues: readonly Cue[], stroke: Stroke, begun: Ms): Ms {
  return cues.find((cue) => cue.at > begun && takesOff(cue, stroke))?.at ?? Infinity
}

/**
 * How far a stroke can be drawn earlier and later than it was: within its stretch, and so that it is there before it is taken off; in
 * ms, both 0 or more.
 */
function shiftRoom(stretch: Pick<Stretch, 'cues' | 'length'>, at: Ms, stroke: Stroke): { readonly earlier: Ms; readonly later: Ms } {
  const last = Math.min(goneAt(stretch.cues, stroke, at) - Math.max(1, strokeLength(stroke)), stretch.length)
  return { earlier: Math.max(0, at), later: Math.max(0, last - at) }
}

/** How far strokes of recordings can be drawn earlier and later together, counted from where they were drawn. */
export function roomToShift(
  stretches: Iterable<Pick<Stretch, 'cues' | 'length'>>,
  strokes: ReadonlySet<StrokeId>,
): { readonly earlier: Ms; readonly later: Ms } {
  let [earlier, later] = [Infinity, Infinity]
  for (const stretch of stretches) {
    for (const cue of stretch.cues) {
      if (cue.kind !== 'ink' || !strokes.has(cue.stroke.id)) continue
      const room = shiftRoom(stretch, cue.at, cue.stroke)
      earlier = Math.min(earlier, room.earlier)
      later = Math.min(later, room.later)
    }
  }
  return { earlier, later }
}

/** A cue of ink as it is to be seen; null when that was deleted. */
function inkCue(cue: Extract<Cue, { kind: 'ink' }>, stretch: Stretch, edit: InkEdit | undefined): Cue | null {
  if (edit === undefined) return cue
  if (edit.hidden) return null
  const { earlier, later } = shiftRoom(stretch, cue.at, cue.stroke)
  return { ...cue, at: cue.at + Math.max(-earlier, Math.min(later, edit.shift)), stroke: recoloured(cue.stroke, edit) }
}

/**
 * A stretch with its ink as it is to be seen: strokes recoloured, drawn earlier or later, left out, and added. Nothing else of it
 * changes.
 */
export function withInkAfterwards(stretch: Stretch, ink: InkAfterwards, ground: InkGround = { kind: 'stretch', id: stretch.id }): Stretch {
  const { edits } = ink
  const added = ink.added.get(groundKey(ground)) ?? []
  if (edits.size === 0 && added.length === 0) return stretch
  const there = new Set(stretch.opening.ink.map((stroke) => stroke.id))
  // What the stretch opened with lies there already.
  const cues = [...stretch.cues, ...added.filter(({ stroke }) => !there.has(stroke.id)).map(cueOfAdded)]
  const shown = cues.map((cue) => (cue.kind === 'ink' ? inkCue(cue, stretch, edits.get(cue.stroke.id)) : cue)).filter((cue) => cue !== null)
  const opening = stretch.opening.ink
    .filter((stroke) => edits.get(stroke.id)?.hidden !== true)
    .map((stroke) => recoloured(stroke, edits.get(stroke.id)))
  return { ...stretch, opening: { ...stretch.opening, ink: opening }, cues: shown.sort((a, b) => a.at - b.at) }
}
