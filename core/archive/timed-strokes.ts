import type { Cue, Stretch } from '@core/model'
import type { TimedStroke } from '@core/formats'

const isInk = (cue: Cue): cue is Extract<Cue, { kind: 'ink' }> => cue.kind === 'ink'

/** What was drawn in a stretch, and what lay there when it began. */
export const timedStrokes = ({ opening, cues }: Pick<Stretch, 'opening' | 'cues'>): readonly TimedStroke[] => [
  ...opening.ink.map((stroke) => ({ stroke, at: null })),
  ...cues.filter(isInk).map(({ at, stroke }) => ({ stroke, at })),
]
