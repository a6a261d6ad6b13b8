import type { AddedInk, Cue, InkEdit, Ms, Piece, Programme, StretchId, Stroke, StrokeId, VisitId } from '@core/model'
import type { Stretch } from '@core/model'

/** Ink that a programme changes and adds, prepared for asking by stretch. */
export interface InkAfterwards {
  readonly edits: ReadonlyMap<StrokeId, InkEdit>
  readonly added: ReadonlyMap<StretchId, readonly AddedInk[]>
  /** Strokes that a stretch opens with because they were added to one before it. */
  readonly carried: ReadonlyMap<StretchId, readonly Stroke[]>
  /** Strokes on visits that are held without a recording. */
  readonly held: ReadonlyMap<VisitId, readonly AddedInk[]>
}

const grouped = <Key, Value>(values: readonly Value[], keyOf: (value: Value) => Key): ReadonlyMap<Key, readonly Value[]> => {
  const groups = new Map<Key, Value[]>()
  for (const value of values) {
    const group = groups.get(keyOf(value))
    if (group === undefined) groups.set(keyOf(value), [value])
    else group.push(value)
  }
  return groups
}

const showOf = (piece: Piece): StretchId | null => (piece.kind === 'still' ? null : piece.show.stretch)

/**
 * Where a visit goes on in another stretch, as over a pause, what was added to its first stretch lies there from the first: ink
 * stays until it is wiped.
 */
function carriedOn(programme: Programme, wiped: (ink: AddedInk) => boolean): ReadonlyMap<StretchId, readonly Stroke[]> {
  const carried = new Map<StretchId, Stroke[]>()
  for (const ink of programme.inkAdded) {
    if (ink.stretch === null || wiped(ink)) continue
    const stretches = [...new Set(programme.pieces.filter((piece) => piece.visit === ink.visit).map(showOf))]
    const own = stretches.indexOf(ink.stretch)
    if (own < 0) continue
    for (const stretch of stretches.slice(own + 1)) if (stretch !== null) carried.set(stretch, [...carried.get(stretch) ?? [], ink.stroke])
  }
  return carried
}

/** @param wiped whether an added stroke is wiped off within its own stretch */
export const inkAfterwards = (programme: Programme, wiped: (ink: AddedInk) => boolean): InkAfterwards => ({
  edits: new Map(programme.inkEdits.map((edit) => [edit.stroke, edit])),
  added: grouped(programme.inkAdded.flatMap((ink) => (ink.stretch === null ? [] : [{ ...ink, stretch: ink.stretch }])), (ink) => ink.stretch),
  carried: carriedOn(programme, wiped),
  held: grouped(programme.inkAdded.filter((ink) => ink.stretch === null), (ink) => ink.visit),
})

const changed = (stroke: Stroke, edit: InkEdit | undefined): Stroke => (edit?.colour == null ? stroke : { ...stroke, colour: edit.colour })

/** A cue of ink that was added, in the time of what it was drawn over. */
export const cueOfAdded = ({ at, stroke }: AddedInk): Cue => ({ kind: 'ink', at, stroke })

/** A stretch with its ink as it is to be seen: strokes recoloured, drawn earlier or later, left out, and added. Nothing else of it changes. */
export function withInkAfterwards(stretch: Stretch, ink: InkAfterwards): Stretch {
  const { edits } = ink
  const added = ink.added.get(stretch.id) ?? []
  const carried = ink.carried.get(stretch.id) ?? []
  if (edits.size === 0 && added.length === 0 && carried.length === 0) return stretch
  const shown = (stroke: Stroke): boolean => edits.get(stroke.id)?.hidden !== true
  const inStretch = (at: Ms): Ms => Math.max(0, Math.min(stretch.length, at))
  const cues = [...stretch.cues, ...added.map(cueOfAdded)].flatMap((cue): readonly Cue[] => {
    if (cue.kind !== 'ink') return [cue]
    const edit = edits.get(cue.stroke.id)
    return shown(cue.stroke) ? [{ ...cue, at: inStretch(cue.at + (edit?.shift ?? 0)), stroke: changed(cue.stroke, edit) }] : []
  })
  const opening = [...stretch.opening.ink, ...carried].filter(shown).map((stroke) => changed(stroke, edits.get(stroke.id)))
  return { ...stretch, opening: { ...stretch.opening, ink: opening }, cues: cues.sort((a, b) => a.at - b.at) }
}
