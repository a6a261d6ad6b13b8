import { unreachable } from '@core/model'
import type { AddedInk, InkColour, InkEdit, Ms, Programme, StrokeId, VisitId } from '@core/model'

/** What can be done to strokes after the recording. */
export type InkChange =
  | { readonly kind: 'delete' }
  | { readonly kind: 'colour', readonly colour: InkColour }
  /** Draws them so much later than now, in ms; earlier when negative. */
  | { readonly kind: 'shift', readonly by: Ms }

const plain = (stroke: StrokeId, visit: VisitId): InkEdit => ({ stroke, visit, hidden: false, colour: null, shift: 0 })

function editedBy(edit: InkEdit, change: InkChange): InkEdit {
  switch (change.kind) {
    case 'delete': return { ...edit, hidden: true }
    case 'colour': return { ...edit, colour: change.colour }
    case 'shift': return { ...edit, shift: edit.shift + change.by }
    default: return unreachable(change)
  }
}

function addedBy(ink: AddedInk, change: InkChange): readonly AddedInk[] {
  switch (change.kind) {
    case 'delete': return []
    case 'colour': return [{ ...ink, stroke: { ...ink.stroke, colour: change.colour } }]
    case 'shift': return [{ ...ink, at: Math.max(0, ink.at + change.by) }]
    default: return unreachable(change)
  }
}

/**
 * Changes strokes wherever they lie. What was drawn in a recording is noted beside it; what was added afterwards is changed itself.
 * @param visit in which they were chosen
 */
export function changeInk(programme: Programme, visit: VisitId, strokes: readonly StrokeId[], change: InkChange): Programme {
  const wanted = new Set(strokes)
  const added = new Set(programme.inkAdded.map((ink) => ink.stroke.id))
  const known = new Map(programme.inkEdits.map((edit) => [edit.stroke, edit]))
  for (const stroke of wanted) if (!added.has(stroke)) known.set(stroke, editedBy(known.get(stroke) ?? plain(stroke, visit), change))
  return {
    ...programme,
    inkEdits: [...known.values()],
    inkAdded: programme.inkAdded.flatMap((ink) => (wanted.has(ink.stroke.id) ? addedBy(ink, change) : [ink])),
    revision: programme.revision + 1,
  }
}
