import type { Cue, Stretch } from '@core/model'
import { applyCue, openingScreen } from './screen'
import type { Screen } from './screen'

/** A cue with what it does to the screen. */
export interface ScreenChange {
  readonly cue: Cue
  readonly before: Screen
  readonly after: Screen
}

/** Cues in order of their time; those of one time in the order they came. */
export const cuesInOrder = (cues: readonly Cue[]): readonly Cue[] =>
  cues.every((cue, n) => n === 0 || (cues[n - 1]?.at ?? 0) <= cue.at) ? cues : [...cues].sort((a, b) => a.at - b.at)

/**
 * Goes through a stretch: each cue with the screen before and after it.
 * @param applies which cues count; all of them when left out. Whoever does not ask for ink leaves out what draws it, since each stroke
 * copies the list of those before it
 */
export function* screenChanges(
  { opening, cues }: Pick<Stretch, 'opening' | 'cues'>,
  applies: (cue: Cue) => boolean = () => true,
): Generator<ScreenChange> {
  let before = openingScreen(opening)
  for (const cue of cuesInOrder(cues)) {
    if (!applies(cue)) continue
    const after = applyCue(before, cue)
    yield { cue, before, after }
    before = after
  }
}
