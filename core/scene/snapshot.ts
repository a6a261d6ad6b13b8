import { openingScreen, screenChanges, startedClips } from '@core/session'
import type { Ms, Snapshot, Stretch } from '@core/model'
import { startedFrom } from './clips-on'
import { strokeLength } from './ink-afterwards'

/**
 * All that is on screen at a time of a stretch, as another stretch would open with it. A stroke that is still being
 * drawn then is not in it: whoever goes on from there has not drawn it.
 * @param at ms of the stretch; what happens at that very moment has happened
 */
export function snapshotAt(stretch: Pick<Stretch, 'opening' | 'cues'>, at: Ms): Snapshot {
  let screen = openingScreen(stretch.opening)
  const done = screenChanges(stretch, (cue) => (cue.kind === 'ink' ? cue.at + strokeLength(cue.stroke) <= at : cue.at <= at))
  for (const { after } of done) screen = after
  const { slide, step, blank, inset, ink } = screen
  const clips = startedClips(screen).map((clip) => startedFrom(clip, at))
  return { slide, step, blank, inset, ink, ...(clips.length === 0 ? {} : { clips }) }
}
