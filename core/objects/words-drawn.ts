import type { ObjectForm, Slide } from '@core/model'

/** The words on an object, as CommonMark; null: none can be. */
export function wordsOnObject(form: ObjectForm): string | null {
  switch (form.kind) {
    case 'text':
      return form.text
    case 'box':
    case 'ellipse':
    case 'callout':
      return form.label
    default:
      return null
  }
}

/** All words that are drawn on a slide, as CommonMark, those of an object after those below it. */
export const wordsDrawn = ({ drawing }: Pick<Slide, 'drawing'>): readonly string[] =>
  drawing?.objects.flatMap(({ form }) => wordsOnObject(form) ?? []).filter((text) => text.trim() !== '') ?? []
