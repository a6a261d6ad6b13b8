import { unreachable } from '@core/model'
import type { AddedInk, InkColour, InkEdit, Ms, Programme, StrokeId, VisitId } from '@core/model'

/** What can be done to strokes after the recording. */
export type InkChange =
  | { readonly kind: 'delete' }
  | { readonly kind: 'colour'; readonly colour: InkColour }
  /**
   * Draws them so much later than now, in ms; earlier when negative. `most` bounds what all shifts of them come to, either way: their
   * recording's beginning, and the moment at which they are gone.
   */
  | { readonly kind: 'shift'; readonly by: Ms; readonly most?: { readonly earlier: Ms; readonly later: Ms } }

const plain = (stroke: StrokeId, visit: VisitId): InkEdit => ({ stroke, visit, hidden: false, colour: null, shift: 0 })

function editedBy(edit: InkEdit, change: InkChange): InkEdit {
  switch (change.kind) {
    case 'delete':
      return { ...edit, hidden: true }
    case 'colour':
      return { ...edit, colour: change.colour }
    case 'shift':
      return {
        ...edit,
        shift: Math.max(-(change.most?.earlier ?? Infinity), Math.min(change.most?.later ?? Infinity, edit.shift + change.by)),
      }
    default:
      return unreachable(change)
  }
}

function addedBy(ink: AddedInk, change: InkChange): readonly AddedInk[] {
  switch (change.kind) {
    case 'delete':
      return []
    case 'colour':
      return [{ ...ink, stroke: { ...ink.stroke, colour: change.colour } }]
    case 'shift':
      return [{ ...ink, at: Math.max(0, ink.at + change.by) }]
    default:
      return unreachable(change)
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
  for (const stroke of wanted) {
    // Of a stroke that was added another recording may hold a copy, which opened with it: that goes and is recoloured with it.
    if (!added.has(stroke) || change.kind !== 'shift') known.set(stroke, editedBy(known.get(stroke) ?? plain(stroke, visit), change))
  }
  return {
    ...programme,
    inkEdits: [...known.values()],
    inkAdded: programme.inkAdded.flatMap((ink) => (wanted.has(ink.stroke.id) ? addedBy(ink, change) : [ink])),
  }
}
