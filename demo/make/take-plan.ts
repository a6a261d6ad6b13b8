import { ring, write } from './handwriting'
import type { PlannedStroke } from './handwriting'
import { tideAt } from './twelfths-deck'

/** How the demo take goes on one slide: when its steps come and what is drawn, as shares of the time it is spoken over. */
export interface SlidePlan {
  readonly slide: number
  /** ms after the slide appeared, for each step but the first */
  readonly steps: readonly number[]
  readonly strokes: readonly PlannedStroke[]
}

const low = tideAt(0)
const high = tideAt(6)
const middle = tideAt(3)

/** The stretches of the demo take: the presenter pauses once, after the third slide. */
export const takePlan: readonly (readonly SlidePlan[])[] = [
  [
    { slide: 0, steps: [], strokes: [] },
    {
      slide: 1,
      steps: [],
      strokes: [
        {
          at: 9500,
          takes: 900,
          colour: 'brick',
          width: 'fine',
          corners: [
            [74, 318],
            [250, 322],
            [430, 316],
            [520, 320],
          ],
        },
      ],
    },
    {
      slide: 2,
      steps: [],
      strokes: [
        {
          at: 3200,
          takes: 1300,
          colour: 'brick',
          width: 'fine',
          corners: [
            [low.x, low.y],
            [(low.x + high.x) / 2, (low.y + high.y) / 2],
            [high.x, high.y],
          ],
        },
        { at: 7600, takes: 1100, colour: 'night', width: 'broad', corners: ring(middle.x, middle.y, 90, 70) },
        {
          at: 9800,
          takes: 700,
          colour: 'moss',
          width: 'fine',
          corners: [
            [high.x - 200, high.y - 50],
            [high.x - 60, high.y - 46],
            [high.x - 82, high.y - 62],
          ],
        },
      ],
    },
  ],
  [
    {
      slide: 3,
      steps: [5600, 9300],
      strokes: [
        {
          at: 11200,
          takes: 1100,
          colour: 'marigold',
          width: 'broad',
          corners: [
            [425, 625],
            [560, 633],
            [680, 622],
          ],
        },
      ],
    },
    { slide: 4, steps: [], strokes: [...write('4.8m', 268, 219, 20, 5200, 'night'), ...write('0.4m', 268, 264, 20, 10_200, 'brick')] },
    { slide: 5, steps: [], strokes: [{ at: 3400, takes: 1200, colour: 'brick', width: 'fine', corners: ring(480, 330, 90, 27) }] },
    {
      slide: 6,
      steps: [],
      strokes: [
        {
          at: 8800,
          takes: 900,
          colour: 'brick',
          width: 'broad',
          corners: [
            [318, 372],
            [420, 377],
            [500, 370],
          ],
        },
      ],
    },
    {
      slide: 7,
      steps: [],
      strokes: [
        {
          at: 6600,
          takes: 700,
          colour: 'night',
          width: 'fine',
          corners: [
            [66, 488],
            [300, 492],
            [560, 486],
          ],
        },
      ],
    },
    { slide: 8, steps: [], strokes: [] },
  ],
]
