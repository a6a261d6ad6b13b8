import { recomposed } from '@core/compose'
import { readMarkdownDeck } from '@core/formats'
import { composedFraming } from '@core/layout'
import type { Framing, Layout, Size, Slide, SlideId } from '@core/model'
import { STARTERS } from './starters'
import type { StarterFace, StarterName } from './starters'

/** Slides of a starter are drawn on these. */
export const STARTER_SHAPE: Size = { width: 16, height: 9 }

function framingFor(face: StarterFace, layout: Layout): Framing | null {
  const usual = composedFraming(layout, STARTER_SHAPE)
  switch (face) {
    case 'usual':
      return null
    case 'off':
      return { ...usual, off: true }
    case 'beside':
    case 'full':
      return { ...usual, placing: face }
  }
}

/** The slides of a starter. @param newId makes the id of a slide */
export function starterSlides(name: StarterName, newId: () => SlideId): readonly Slide[] {
  const { slides, theme } = STARTERS[name]
  return slides.flatMap(({ text, planned, face, section = '' }) =>
    readMarkdownDeck(text).map(({ composition, notes, viewerNotes }) =>
      recomposed(
        {
          ...{ id: newId(), version: 1, title: '', section, notes, viewerNotes, description: '', steps: [], planned },
          composition: { ...composition, theme, pictures: [] },
          framing: framingFor(face, composition.layout),
          ...{ skip: false, optional: false, transition: 'cut' },
        },
        STARTER_SHAPE,
      ),
    ),
  )
}
