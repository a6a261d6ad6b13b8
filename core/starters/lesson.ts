import { MINUTE, SECOND } from './starter-deck'
import type { StarterDeck } from './starter-deck'

/** A lesson to be watched at home: a question, a picture that explains it, an example, something to do. */
export const LESSON: StarterDeck = {
  theme: 'harbour',
  slides: [
    {
      heading: 'What this lesson is about',
      body: ['[layout: opening]', 'Your name, the class, the date'],
      notes: ['Say who you are, what the lesson is about, and what they will be able to do at its end. Half a minute.'],
      planned: 30 * SECOND,
      face: 'full',
      section: 'Beginning',
    },
    {
      heading: 'One question that you want answered',
      body: ['[layout: claim]'],
      notes: [
        'Ask it, and leave three seconds. It should be one that they have met: why is there water in the harbour now, and mud at noon?',
        'Under a minute.',
      ],
      planned: 45 * SECOND,
      face: 'usual',
    },
    {
      heading: 'What you know already',
      body: ['[by item, fade]', '- a thing from the last lesson', '- another one', '- what is still open'],
      notes: ['One sentence for each point, as it comes. Nothing new yet. A minute.'],
      planned: MINUTE,
      face: 'usual',
    },
    {
      heading: 'The picture that explains it',
      body: ['[layout: plate-points]', '- drop a picture on this slide', '- draw on it while you speak'],
      notes: ['Let them look first. Then draw: an arrow, a circle, the way the water goes. Two minutes and a half, the longest part.'],
      planned: 150 * SECOND,
      face: 'usual',
      section: 'The heart of it',
    },
    {
      heading: 'An example, step by step',
      body: ['[by item]', '1. what is given', '2. what you do with it', '3. what comes out'],
      notes: ['Work through it aloud, mistakes and all. Two minutes.'],
      planned: 2 * MINUTE,
      face: 'usual',
    },
    {
      heading: 'Now you',
      body: ['[layout: voice]', 'Stop here and try it.'],
      notes: ['Say exactly what they are to do, and that the talk waits. Viewers can let it wait at each slide. Half a minute.'],
      planned: 30 * SECOND,
      face: 'usual',
      section: 'End',
    },
    {
      heading: 'What to take with you',
      body: ['- the answer to the question', '- one word that is new', '- what comes next time'],
      notes: ['Answer the question you began with, in one sentence. Then stop. Under a minute.'],
      planned: 45 * SECOND,
      face: 'beside',
    },
  ],
}
