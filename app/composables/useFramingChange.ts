import type { DeckEdit } from '@core/deck'
import { clearInsets, framingOf, sizeOfInset, resized } from '@core/layout'
import type { Framing, Slide } from '@core/model'
import { useSheet } from '~/stores/sheet'
import { useTalk } from '~/stores/talk'

/** Changes the face's framing on the slides that are concerned, as one edit. */
export function useFramingChange() {
  const talk = useTalk()
  const sheet = useSheet()

  const editOf = (slide: Slide, framing: Framing | null): DeckEdit => ({ kind: 'set', slides: [slide.id], fields: { framing } })

  function all(slides: readonly Slide[], change: (framing: Framing, slide: Slide) => Framing | null): void {
    const edits = slides.map((slide) => editOf(slide, change(framingOf(slide, sheet.shape), slide)))
    const [first] = edits
    // One slide's framing moved again and again is one change to undo.
    if (edits.length === 1 && first !== undefined) talk.edit(first)
    else if (edits.length > 0) talk.edit({ kind: 'all', edits })
  }

  return {
    /** Changes some of the framing of each, leaving the rest as it is there. */
    change: (fields: Partial<Framing>): void => {
      all(sheet.concerned, (framing) => ({ ...framing, ...fields }))
    },
    setOutline: (outline: Framing['outline']): void => {
      all(sheet.concerned, (framing) => resized(framing, outline, sizeOfInset(framing, sheet.shape), sheet.shape))
    },
    setSize: (size: number): void => {
      all(sheet.concerned, (framing) => resized(framing, framing.outline, size, sheet.shape))
    },
    propose: (): void => {
      all(sheet.concerned, () => null)
    },
    everywhere: (framing: Framing): void => {
      all(talk.slides, () => framing)
    },
    /** Clears the face off what it covers, on the whole deck. @returns what was done, in words */
    clearAll: (): string => {
      const { framings, moved, beside } = clearInsets({ shape: sheet.shape, slides: talk.slides })
      if (framings.size === 0) return 'The face covers nothing that matters on any slide. Nothing was changed.'
      talk.edit({
        kind: 'all',
        edits: talk.slides.flatMap((slide) => (framings.has(slide.id) ? [editOf(slide, framings.get(slide.id) ?? null)] : [])),
      })
      const named = (ids: typeof moved): string => ids.map((id) => sheet.numbers.get(id) ?? 0).join(', ')
      return [
        moved.length > 0 ? `Moved on ${moved.length === 1 ? 'slide' : 'slides'} ${named(moved)}.` : '',
        beside.length > 0 ? `Put beside ${beside.length === 1 ? 'slide' : 'slides'} ${named(beside)}, where no place is free.` : '',
      ]
        .filter((text) => text !== '')
        .join(' ')
    },
  }
}
