import { MINUTE, SECOND } from './starter-deck'
import type { StarterDeck } from './starter-deck'

/** A pupil’s report: what, why, three things found out. */
export const REPORT: StarterDeck = {
  theme: 'dusk',
  slides: [
    {
      heading: 'What my report is about',
      body: ['[layout: opening]', 'My name and my class'],
      notes: ['Say your name and what you have chosen. Look into the camera. A quarter of a minute.'],
      planned: 15 * SECOND,
      face: 'full',
    },
    {
      heading: 'Why I chose it',
      body: ['[layout: voice]', 'One reason, in a few words'],
      notes: ['Tell it as you would tell a friend. Half a minute.'],
      planned: 30 * SECOND,
      face: 'usual',
    },
    {
      heading: 'Three things I found out',
      body: ['[by item, fade]', '- the first', '- the second', '- the most surprising one'],
      notes: ['Press → for each. Say where you found it. A minute and a half.'],
      planned: 90 * SECOND,
      face: 'usual',
    },
    {
      heading: 'Look at this',
      body: ['[layout: plate]'],
      notes: ['Drop a photograph or a drawing of your own on this slide. Say what there is to see, and draw on it. A minute.'],
      planned: MINUTE,
      face: 'usual',
    },
    {
      heading: 'What I still want to know',
      body: ['[layout: claim]'],
      notes: ['One question that you could not answer. Half a minute.'],
      planned: 30 * SECOND,
      face: 'usual',
    },
    {
      heading: 'Where I looked',
      body: ['- a book', '- somebody I asked', '- a page, with its address'],
      notes: ['Do not read it out: say which one helped you most. A quarter of a minute.'],
      planned: 15 * SECOND,
      face: 'off',
    },
  ],
}
