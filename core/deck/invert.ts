import { NOTHING_DRAWN, unreachable } from '@core/model'
import type { Deck, Slide, SlideId } from '@core/model'
import { applyDeckEdit } from './edit'
import type { DeckEdit, SlideFields } from './edit'

const fieldsBefore = (slide: Slide, changed: SlideFields): SlideFields => {
  const keys = Object.keys(changed) as (keyof SlideFields)[]
  // A heading gives its slide the title, which is taken back with it.
  const title = changed.composition === undefined ? {} : { title: slide.title }
  // What a slide may leave out is sent as nothing.
  const clips = changed.clips === undefined ? {} : { clips: slide.clips ?? [] }
  const drawing = changed.drawing === undefined ? {} : { drawing: slide.drawing ?? NOTHING_DRAWN }
  return { ...title, ...Object.fromEntries(keys.map((key) => [key, slide[key]])), ...clips, ...drawing }
}

/** All that a slide has besides its steps. */
const ownFields = ({ title, notes, viewerNotes, description, planned, skip, optional, framing, transition }: Slide): SlideFields => ({
  title,
  notes,
  viewerNotes,
  description,
  planned,
  skip,
  optional,
  framing,
  transition,
})

const removalOf = (slides: readonly SlideId[]): readonly DeckEdit[] => (slides.length === 0 ? [] : [{ kind: 'remove', slides }])

const placesOf = (deck: Deck, ids: ReadonlySet<SlideId>): readonly { slide: Slide; at: number }[] =>
  deck.slides.map((slide, at) => ({ slide, at })).filter(({ slide }) => ids.has(slide.id))

/**
 * The change that takes `edit` back.
 * @param deck the deck as it is before `edit`
 * @returns an edit such that applying both leaves order, words, times and framing as they were
 */
export function invertDeckEdit(deck: Deck, edit: DeckEdit): DeckEdit {
  switch (edit.kind) {
    case 'move': {
      // From the last to the first, so that the neighbour each is put before already stands in its old place.
      const places = placesOf(deck, new Set(edit.slides)).toReversed()
      return {
        kind: 'all',
        edits: places.map(({ slide, at }) => ({
          kind: 'move',
          slides: [slide.id],
          before: deck.slides[at + 1]?.id ?? null,
        })),
      }
    }
    case 'set':
      return {
        kind: 'all',
        edits: placesOf(deck, new Set(edit.slides)).map(({ slide }) => ({
          kind: 'set',
          slides: [slide.id],
          fields: fieldsBefore(slide, edit.fields),
        })),
      }
    case 'remove':
      return {
        kind: 'all',
        edits: placesOf(deck, new Set(edit.slides)).map(({ slide, at }) => ({ kind: 'insert', at, slides: [slide] })),
      }
    case 'insert':
      // Those that were there already were not put in.
      return {
        kind: 'all',
        edits: removalOf(edit.slides.map((slide) => slide.id).filter((id) => !deck.slides.some((one) => one.id === id))),
      }
    case 'merge': {
      // Split again from the last to the first, then words and times as they were.
      const parts = placesOf(deck, new Set(edit.slides)).map(({ slide }) => slide)
      const head = parts[0]
      if (head === undefined) return { kind: 'all', edits: [] }
      const splits = parts
        .slice(1)
        .map((slide, n): DeckEdit => ({
          kind: 'split',
          slide: head.id,
          keep: parts.slice(0, n + 1).reduce((sum, part) => sum + part.steps.length, 0),
          as: slide.id,
        }))
        .toReversed()
      return {
        kind: 'all',
        edits: [...splits, ...parts.map((slide): DeckEdit => ({ kind: 'set', slides: [slide.id], fields: ownFields(slide) }))],
      }
    }
    case 'split': {
      const slide = deck.slides.find((one) => one.id === edit.slide)
      return {
        kind: 'all',
        edits: [
          { kind: 'merge', slides: [edit.slide, edit.as] },
          ...(slide === undefined ? [] : [{ kind: 'set', slides: [slide.id], fields: ownFields(slide) } as const]),
        ],
      }
    }
    case 'shape':
      return { kind: 'shape', shape: deck.shape }
    case 'all': {
      const inverses: DeckEdit[] = []
      let state = deck
      for (const part of edit.edits) {
        inverses.unshift(invertDeckEdit(state, part))
        state = applyDeckEdit(state, part)
      }
      return { kind: 'all', edits: inverses }
    }
    default:
      return unreachable(edit)
  }
}
