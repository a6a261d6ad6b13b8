import { unreachable } from '@core/model'
import type { Slide, SlideId } from '@core/model'
import type { DeckEdit } from '@core/deck'

/** A deck edit as it travels: slides that come back are named, never sent, so that no page can bring in foreign ones. */
export type WireEdit =
  | Exclude<DeckEdit, { kind: 'insert' } | { kind: 'all' }>
  | { readonly kind: 'restore', readonly at: number, readonly slides: readonly SlideId[] }
  | { readonly kind: 'all', readonly edits: readonly WireEdit[] }

export function toWire(edit: DeckEdit): WireEdit {
  switch (edit.kind) {
    case 'insert': return { kind: 'restore', at: edit.at, slides: edit.slides.map((slide) => slide.id) }
    case 'all': return { kind: 'all', edits: edit.edits.map(toWire) }
    case 'move':
    case 'set':
    case 'remove': return edit
    default: return unreachable(edit)
  }
}

/** @param removed gives a slide of this talk that was taken off its deck; undefined when there is none */
export function fromWire(edit: WireEdit, removed: (id: SlideId) => Slide | undefined): DeckEdit {
  switch (edit.kind) {
    case 'restore': return { kind: 'insert', at: edit.at, slides: edit.slides.flatMap((id) => removed(id) ?? []) }
    case 'all': return { kind: 'all', edits: edit.edits.map((part) => fromWire(part, removed)) }
    case 'move':
    case 'set':
    case 'remove': return edit
    default: return unreachable(edit)
  }
}
