import type { Ms, Theme } from '@core/model'

export const STARTER_NAMES = ['lesson', 'conference', 'report'] as const
/** Decks to begin a talk from. */
export type StarterName = (typeof STARTER_NAMES)[number]

/** How the face stands on a slide of a starter: where the layout has it, beside the slide, all of the frame, or not at all. */
export type StarterFace = 'usual' | 'beside' | 'full' | 'off'

export interface StarterSlide {
  /** The slide and its notes, as a deck in CommonMark. */
  readonly text: string
  readonly planned: Ms
  readonly face: StarterFace
  /** Heading of a part that begins with it. */
  readonly section?: string
}

export interface Starter {
  /** As a person chooses it. */
  readonly title: string
  readonly limit: Ms
  readonly theme: Theme
  readonly slides: readonly StarterSlide[]
}

const SECOND = 1000
const MINUTE = 60 * SECOND

const notes = (...lines: readonly string[]): string => `\`\`\`notes\n${lines.join('\n\n')}\n\`\`\``
const slide = (heading: string, body: readonly string[], ...said: readonly string[]): string =>
  [`# ${heading}`, ...body, notes(...said)].join('\n\n')

const LESSON: Starter = {
  title: 'A lesson to be watched at home',
  limit: 10 * MINUTE,
  theme: 'harbour',
  slides: [
    {
      text: slide(
        'What this lesson is about',
        ['[layout: opening]', 'Your name, the class, the date'],
        'Say who you are, what the lesson is about, and what they will be able to do at its end. Half a minute.',
      ),
      ...{ planned: 30 * SECOND, face: 'full', section: 'Beginning' },
    },
    {
      text: slide(
        'One question that you want answered',
        ['[layout: claim]'],
        'Ask it, and leave three seconds. It should be one that they have met: why is there water in the harbour now, and mud at noon?',
        'Under a minute.',
      ),
      ...{ planned: 45 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'What you know already',
        ['[by item, fade]', '- a thing from the last lesson', '- another one', '- what is still open'],
        'One sentence for each point, as it comes. Nothing new yet. A minute.',
      ),
      ...{ planned: MINUTE, face: 'usual' },
    },
    {
      text: slide(
        'The picture that explains it',
        ['[layout: plate-points]', '- drop a picture on this slide', '- draw on it while you speak'],
        'Let them look first. Then draw: an arrow, a circle, the way the water goes. Two minutes and a half, the longest part.',
      ),
      ...{ planned: 150 * SECOND, face: 'usual', section: 'The heart of it' },
    },
    {
      text: slide(
        'An example, step by step',
        ['[by item]', '1. what is given', '2. what you do with it', '3. what comes out'],
        'Work through it aloud, mistakes and all. Two minutes.',
      ),
      ...{ planned: 2 * MINUTE, face: 'usual' },
    },
    {
      text: slide(
        'Now you',
        ['[layout: voice]', 'Stop here and try it.'],
        'Say exactly what they are to do, and that the talk waits. Viewers can let it wait at each slide. Half a minute.',
      ),
      ...{ planned: 30 * SECOND, face: 'usual', section: 'End' },
    },
    {
      text: slide(
        'What to take with you',
        ['- the answer to the question', '- one word that is new', '- what comes next time'],
        'Answer the question you began with, in one sentence. Then stop. Under a minute.',
      ),
      ...{ planned: 45 * SECOND, face: 'beside' },
    },
  ],
}

const CONFERENCE: Starter = {
  title: 'A conference talk with a strict limit',
  limit: 12 * MINUTE,
  theme: 'paper',
  slides: [
    {
      text: slide(
        'The title of your talk',
        ['[layout: opening]', 'Names, places, the conference'],
        'Title and name, nothing else: the programme has said the rest. A quarter of a minute.',
      ),
      ...{ planned: 15 * SECOND, face: 'off', section: 'Why' },
    },
    {
      text: slide(
        'The one sentence they should remember',
        ['[layout: claim]'],
        'Say what you found, first. Who leaves after this slide has heard it. Three quarters of a minute.',
      ),
      ...{ planned: 45 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'What was not known',
        ['[by item]', '- what others have done', '- what they could not say', '- why that matters'],
        'Name two works at most. A minute and a half.',
      ),
      ...{ planned: 90 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'How we looked',
        ['[layout: plate-points]', '- where, when, how often', '- how it was counted', '- what can go wrong'],
        'Only what is needed to believe the result. Point at the picture. Two minutes.',
      ),
      ...{ planned: 2 * MINUTE, face: 'usual', section: 'What was done' },
    },
    {
      text: slide(
        'What came out',
        ['[layout: plate]'],
        'One figure, large. Say what its axes are before you say what it shows, and draw round what they should see. Three minutes.',
      ),
      ...{ planned: 3 * MINUTE, face: 'beside', section: 'What was found' },
    },
    {
      text: slide(
        'What it does not say',
        ['- the limits of it', '- another explanation', '- what would decide'],
        'Say it before they ask. This slide may go when the time is short. A minute.',
      ),
      ...{ planned: MINUTE, face: 'usual' },
    },
    {
      text: slide(
        'What follows',
        ['[by item]', '- for those who count', '- for those who build', '- for us, next year'],
        'Back to the sentence from the beginning. A minute and a half, then stop: a talk that ends early is liked.',
      ),
      ...{ planned: 90 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'Thank you',
        ['[layout: voice]', 'Where the data are, and how to reach you'],
        'Leave it up for a few seconds. Say it to their faces.',
      ),
      ...{ planned: 15 * SECOND, face: 'usual' },
    },
  ],
}

const REPORT: Starter = {
  title: 'A pupil’s report',
  limit: 5 * MINUTE,
  theme: 'dusk',
  slides: [
    {
      text: slide(
        'What my report is about',
        ['[layout: opening]', 'My name and my class'],
        'Say your name and what you have chosen. Look into the camera. A quarter of a minute.',
      ),
      ...{ planned: 15 * SECOND, face: 'full' },
    },
    {
      text: slide(
        'Why I chose it',
        ['[layout: voice]', 'One reason, in a few words'],
        'Tell it as you would tell a friend. Half a minute.',
      ),
      ...{ planned: 30 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'Three things I found out',
        ['[by item, fade]', '- the first', '- the second', '- the most surprising one'],
        'Press → for each. Say where you found it. A minute and a half.',
      ),
      ...{ planned: 90 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'Look at this',
        ['[layout: plate]'],
        'Drop a photograph or a drawing of your own on this slide. Say what there is to see, and draw on it. A minute.',
      ),
      ...{ planned: MINUTE, face: 'usual' },
    },
    {
      text: slide('What I still want to know', ['[layout: claim]'], 'One question that you could not answer. Half a minute.'),
      ...{ planned: 30 * SECOND, face: 'usual' },
    },
    {
      text: slide(
        'Where I looked',
        ['- a book', '- somebody I asked', '- a page, with its address'],
        'Do not read it out: say which one helped you most. A quarter of a minute.',
      ),
      ...{ planned: 15 * SECOND, face: 'off' },
    },
  ],
}

export const STARTERS: Readonly<Record<StarterName, Starter>> = { lesson: LESSON, conference: CONFERENCE, report: REPORT }
