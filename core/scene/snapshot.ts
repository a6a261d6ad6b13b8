import { unreachable } from '@core/model'
import type { Ms, Snapshot, Stretch, Stroke } from '@core/model'

/**
 * All that is on screen at a time of a stretch, as another stretch would open with it. A stroke that is still being
 * drawn then is not in it: whoever goes on from there has not drawn it.
 * @param at ms of the stretch; what happens at that very moment has happened
 */
export function snapshotAt(stretch: Pick<Stretch, 'opening' | 'cues'>, at: Ms): Snapshot {
  let { slide, step, blank, inset, ink } = stretch.opening
  for (const cue of [...stretch.cues].sort((a, b) => a.at - b.at)) {
    if (cue.at > at) break
    switch (cue.kind) {
      case 'show':
        slide = cue.slide
        step = cue.step
        break
      case 'blank':
        blank = cue.on
        break
      case 'inset':
        inset = cue.on
        break
      case 'ink': {
        const whole = cue.at + (cue.stroke.points.at(-1)?.dt ?? 0)
        if (whole <= at) ink = [...ink, cue.stroke]
        break
      }
      case 'erase':
        ink = ink.filter((stroke: Stroke) => stroke.id !== cue.stroke)
        break
      case 'wipe':
        ink = ink.filter((stroke: Stroke) => stroke.slide !== cue.slide)
        break
      case 'point':
      case 'mute':
      case 'stumble':
        break
      default:
        unreachable(cue)
    }
  }
  return { slide, step, blank, inset, ink }
}
