import { openingScreen, screenChanges, startedClips } from '@core/session'
import type { Ms, Snapshot, Stretch } from '@core/model'
import { startedFrom } from './clips-on'
import { strokeLength } from './ink-afterwards'
import { movesSince } from './track'

/**
 * All that is on screen at a time of a stretch, as another stretch would open with it. A stroke that is still being
 * drawn then is not in it: whoever goes on from there has not drawn it.
 * @param at ms of the stretch; what happens at that very moment has happened
 */
export function snapshotAt(stretch: Pick<Stretch, 'opening' | 'cues'>, at: Ms): Snapshot {
  let screen = openingScreen(stretch.opening)
  const done = screenChanges(stretch, (cue) => (cue.kind === 'ink' ? cue.at + strokeLength(cue.stroke) <= at : cue.at <= at))
  let moves = movesSince(stretch.opening, 0, stretch.opening, null)
  for (const { cue, before, after } of done) {
    if (cue.kind === 'show') moves = movesSince(stretch.opening, cue.at, after, before)
    screen = after
  }
  const { slide, step, blank, inset, ink } = screen
  const moved = moves === -Infinity ? {} : { moved: Math.round(at - moves) }
  const clips = startedClips(screen).map((clip) => startedFrom(clip, at))
  return { slide, step, blank, inset, ink, ...(clips.length === 0 ? {} : { clips }), ...moved }
}
