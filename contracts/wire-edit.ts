import { unreachable } from '@core/model'
import type { Composition, Slide, SlideId } from '@core/model'
import { assetsOfClips, assetsOfDrawing } from '@core/deck'
import type { DeckEdit } from '@core/deck'

/** A slide that was made here, as it travels: its steps follow from what it is made of. */
export type ComposedSlide = Pick<
  Slide,
  | 'id'
  | 'title'
  | 'section'
  | 'notes'
  | 'viewerNotes'
  | 'description'
  | 'planned'
  | 'skip'
  | 'optional'
  | 'framing'
  | 'transition'
  | 'clips'
  | 'drawing'
> & { readonly composition: Composition }

/** A deck edit as it travels: slides that came from files are named, never sent, so that no page can bring in foreign ones. */
export type WireEdit =
  | Exclude<DeckEdit, { kind: 'insert' } | { kind: 'all' }>
  | { readonly kind: 'restore'; readonly at: number; readonly slides: readonly SlideId[] }
  | { readonly kind: 'compose'; readonly at: number; readonly slide: ComposedSlide }
  | { readonly kind: 'all'; readonly edits: readonly WireEdit[] }

function insertToWire(slide: Slide, at: number): WireEdit {
  const { id, title, section, notes, viewerNotes, description, planned, skip, optional, framing, transition, composition } = slide
  const { clips, drawing } = slide
  return composition === null
    ? { kind: 'restore', at, slides: [id] }
    : {
        kind: 'compose',
        at,
        slide: {
          id,
          title,
          section,
          notes,
          viewerNotes,
          description,
          planned,
          skip,
          optional,
          framing,
          transition,
          composition,
          ...(clips === undefined ? {} : { clips }),
          ...(drawing === undefined ? {} : { drawing }),
        },
      }
}

export function toWire(edit: DeckEdit): WireEdit {
  switch (edit.kind) {
    case 'insert':
      return { kind: 'all', edits: edit.slides.map((slide, n) => insertToWire(slide, edit.at + n)) }
    case 'all':
      return { kind: 'all', edits: edit.edits.map(toWire) }
    case 'move':
    case 'set':
    case 'merge':
    case 'split':
    case 'shape':
    case 'remove':
      return edit
    default:
      return unreachable(edit)
  }
}

/** @param removed gives a slide of this talk that was taken off its deck; undefined when there is none */
export function fromWire(edit: WireEdit, removed: (id: SlideId) => Slide | undefined): DeckEdit {
  switch (edit.kind) {
    case 'restore':
      return { kind: 'insert', at: edit.at, slides: edit.slides.flatMap((id) => removed(id) ?? []) }
    // Its steps are laid out anew when it is put in.
    case 'compose':
      return { kind: 'insert', at: edit.at, slides: [{ ...edit.slide, version: (removed(edit.slide.id)?.version ?? 0) + 1, steps: [] }] }
    case 'all':
      return { kind: 'all', edits: edit.edits.map((part) => fromWire(part, removed)) }
    case 'move':
    case 'set':
    case 'merge':
    case 'split':
    case 'shape':
    case 'remove':
      return edit
    default:
      return unreachable(edit)
  }
}

/** Every picture file that an edit would put on slides. */
export function assetsNamedBy(edit: WireEdit): readonly string[] {
  switch (edit.kind) {
    case 'all':
      return edit.edits.flatMap(assetsNamedBy)
    case 'compose':
      return [
        ...edit.slide.composition.pictures.map((picture) => picture.asset),
        ...assetsOfClips(edit.slide),
        ...assetsOfDrawing(edit.slide),
      ]
    case 'set':
      return [
        ...(edit.fields.composition?.pictures.map((picture) => picture.asset) ?? []),
        ...assetsOfClips(edit.fields),
        ...assetsOfDrawing(edit.fields),
      ]
    default:
      return []
  }
}
