import { recomposed } from '@core/compose'
import { readMarkdownDeck } from '@core/formats'
import { composedFraming } from '@core/layout'
import { newSlide } from '@core/model'
import type { Framing, Layout, Size, Slide, SlideId } from '@core/model'
import { CONFERENCE } from './conference'
import { LESSON } from './lesson'
import { REPORT } from './report'
import type { StarterDeck, StarterFace, StarterSlide } from './starter-deck'
import type { StarterName } from './starters'

/** What each of them has on it. */
export const STARTER_DECKS: Readonly<Record<StarterName, StarterDeck>> = { lesson: LESSON, conference: CONFERENCE, report: REPORT }

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

/** A slide as a deck in text has it. */
const textOf = ({ heading, body, notes }: StarterSlide): string =>
  [`# ${heading}`, ...body, `\`\`\`notes\n${notes.join('\n\n')}\n\`\`\``].join('\n\n')

/** The slides of a starter. @param newId makes the id of a slide */
export function starterSlides(name: StarterName, newId: () => SlideId): readonly Slide[] {
  const { slides, theme } = STARTER_DECKS[name]
  return slides.flatMap((slide) =>
    readMarkdownDeck(textOf(slide)).map(({ composition, notes, viewerNotes }) =>
      recomposed(
        newSlide(newId(), {
          section: slide.section ?? '',
          notes,
          viewerNotes,
          composition: { ...composition, theme, pictures: [] },
          framing: framingFor(slide.face, composition.layout),
          planned: slide.planned,
        }),
        STARTER_SHAPE,
      ),
    ),
  )
}
