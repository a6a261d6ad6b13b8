import { Refusal, unreachable } from '@core/model'
import type { Deck, Framing, Ms, Slide, SlideId } from '@core/model'

/** What the presenter can change of a slide without changing its pictures. */
export interface SlideFields {
  readonly title?: string
  readonly notes?: string
  readonly planned?: Ms | null
  readonly skip?: boolean
  readonly framing?: Framing | null
}

/** A change to a deck, as data: it can be sent, kept and inverted. */
export type DeckEdit =
  /** The named slides, in deck order, come to stand together before `before`, or at the end when that is null. */
  | { readonly kind: 'move', readonly slides: readonly SlideId[], readonly before: SlideId | null }
  | { readonly kind: 'set', readonly slides: readonly SlideId[], readonly fields: SlideFields }
  | { readonly kind: 'remove', readonly slides: readonly SlideId[] }
  | { readonly kind: 'insert', readonly at: number, readonly slides: readonly Slide[] }
  /** Several edits as one, for undoing a change of many slides at once. */
  | { readonly kind: 'all', readonly edits: readonly DeckEdit[] }

const known = (deck: Deck, ids: readonly SlideId[]): ReadonlySet<SlideId> => {
  const present = new Set(deck.slides.map((slide) => slide.id))
  const missing = ids.filter((id) => !present.has(id))
  if (missing.length > 0) {
    throw new Refusal('conflict', 'A slide of this change is no longer in the deck. Nothing was changed.', { missing })
  }
  return new Set(ids)
}

const withFields = (slide: Slide, fields: SlideFields): Slide => {
  const seenChange = fields.framing !== undefined && JSON.stringify(fields.framing) !== JSON.stringify(slide.framing)
  return { ...slide, ...fields, version: slide.version + (seenChange ? 1 : 0) }
}

/**
 * Applies a change.
 * @returns a new deck; slides that are not concerned are the same objects
 * @throws Refusal `conflict` when a slide that it names is not there
 */
export function applyDeckEdit(deck: Deck, edit: DeckEdit): Deck {
  switch (edit.kind) {
    case 'move': {
      const moving = known(deck, edit.slides)
      if (edit.before !== null) known(deck, [edit.before])
      if (edit.before !== null && moving.has(edit.before)) {
        throw new Refusal('malformed', 'Slides cannot be moved before themselves.')
      }
      const moved = deck.slides.filter((slide) => moving.has(slide.id))
      const rest = deck.slides.filter((slide) => !moving.has(slide.id))
      const at = edit.before === null ? rest.length : rest.findIndex((slide) => slide.id === edit.before)
      return { ...deck, slides: [...rest.slice(0, at), ...moved, ...rest.slice(at)] }
    }
    case 'set': {
      const ids = known(deck, edit.slides)
      return { ...deck, slides: deck.slides.map((slide) => (ids.has(slide.id) ? withFields(slide, edit.fields) : slide)) }
    }
    case 'remove': {
      const ids = known(deck, edit.slides)
      return { ...deck, slides: deck.slides.filter((slide) => !ids.has(slide.id)) }
    }
    case 'insert': {
      const present = new Set(deck.slides.map((slide) => slide.id))
      const fresh = edit.slides.filter((slide) => !present.has(slide.id))
      const at = Math.max(0, Math.min(edit.at, deck.slides.length))
      return { ...deck, slides: [...deck.slides.slice(0, at), ...fresh, ...deck.slides.slice(at)] }
    }
    case 'all':
      return edit.edits.reduce(applyDeckEdit, deck)
    default:
      return unreachable(edit)
  }
}
