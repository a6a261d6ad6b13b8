import { MINUTE, SECOND } from './starter-deck'
import type { StarterDeck } from './starter-deck'

/** A conference talk: what was found first, then why, how and what follows. */
export const CONFERENCE: StarterDeck = {
  theme: 'paper',
  slides: [
    {
      heading: 'The title of your talk',
      body: ['[layout: opening]', 'Names, places, the conference'],
      notes: ['Title and name, nothing else: the programme has said the rest. A quarter of a minute.'],
      planned: 15 * SECOND,
      face: 'off',
      section: 'Why',
    },
    {
      heading: 'The one sentence they should remember',
      body: ['[layout: claim]'],
      notes: ['Say what you found, first. Who leaves after this slide has heard it. Three quarters of a minute.'],
      planned: 45 * SECOND,
      face: 'usual',
    },
    {
      heading: 'What was not known',
      body: ['[by item]', '- what others have done', '- what they could not say', '- why that matters'],
      notes: ['Name two works at most. A minute and a half.'],
      planned: 90 * SECOND,
      face: 'usual',
    },
    {
      heading: 'How we looked',
      body: ['[layout: plate-points]', '- where, when, how often', '- how it was counted', '- what can go wrong'],
      notes: ['Only what is needed to believe the result. Point at the picture. Two minutes.'],
      planned: 2 * MINUTE,
      face: 'usual',
      section: 'What was done',
    },
    {
      heading: 'What came out',
      body: ['[layout: plate]'],
      notes: ['One figure, large. Say what its axes are before you say what it shows, and draw round what they should see. Three minutes.'],
      planned: 3 * MINUTE,
      face: 'beside',
      section: 'What was found',
    },
    {
      heading: 'What it does not say',
      body: ['- the limits of it', '- another explanation', '- what would decide'],
      notes: ['Say it before they ask. This slide may go when the time is short. A minute.'],
      planned: MINUTE,
      face: 'usual',
    },
    {
      heading: 'What follows',
      body: ['[by item]', '- for those who count', '- for those who build', '- for us, next year'],
      notes: ['Back to the sentence from the beginning. A minute and a half, then stop: a talk that ends early is liked.'],
      planned: 90 * SECOND,
      face: 'usual',
    },
    {
      heading: 'Thank you',
      body: ['[layout: voice]', 'Where the data are, and how to reach you'],
      notes: ['Leave it up for a few seconds. Say it to their faces.'],
      planned: 15 * SECOND,
      face: 'usual',
    },
  ],
}
