import { unreachable } from '@core/model'
import type { ClipId, Cue, PlayedClip, Snapshot, Stretch, Stroke } from '@core/model'

/** All that is on screen, and whether the voice is stored. */
export interface Screen extends Snapshot {
  readonly muted: boolean
}

/** The screen that a stretch opens with. */
export const openingScreen = (opening: Snapshot): Screen => ({ ...opening, muted: false })

const NONE: readonly PlayedClip[] = []
/** Clips of a screen's slide that were started. */
export const startedClips = ({ clips }: Pick<Snapshot, 'clips'>): readonly PlayedClip[] => clips ?? NONE

/** Clips that are started in a stretch, or go on from before it. */
export const clipsPlayedIn = ({ opening, cues }: Pick<Stretch, 'opening' | 'cues'>): readonly ClipId[] => [
  ...startedClips(opening).map(({ clip }) => clip),
  ...cues.flatMap((cue) => (cue.kind === 'clip' ? [cue.clip] : [])),
]

/** Nothing of what is drawn on a slide goes on moving as it began. */
function withoutMoved({ moved: _, ...screen }: Screen): Screen {
  return screen
}

/** As another slide takes the place of the one that is shown, its clips are over. */
function withoutClips({ clips: _, ...screen }: Screen): Screen {
  return screen
}

/** A clip as it was before, with what became of it now. */
const withClip = (screen: Screen, { clip, at, place, playing }: PlayedClip): Screen => ({
  ...screen,
  clips: [...startedClips(screen).filter((one) => one.clip !== clip), { clip, at, place, playing }],
})

/** Cues that do something to ink. */
export const isInkCue = ({ kind }: Cue): boolean => kind === 'ink' || kind === 'erase' || kind === 'wipe'

/** Whether a cue takes a stroke off its slide. */
export const takesOff = (cue: Cue, stroke: Stroke): boolean =>
  (cue.kind === 'erase' && cue.stroke === stroke.id) || (cue.kind === 'wipe' && cue.slide === stroke.slide)

/**
 * What is on screen after a cue. Everything that shows cues follows from this: a stretch's track and snapshot, the pieces of a take,
 * and the slide at the Lectern.
 * @returns the same screen when the cue changes nothing that stays: a spot leaves nothing, a stumble is not seen
 */
export function applyCue(screen: Screen, cue: Cue): Screen {
  switch (cue.kind) {
    case 'show':
      return { ...withoutMoved(cue.slide === screen.slide ? screen : withoutClips(screen)), slide: cue.slide, step: cue.step }
    case 'ink':
      return { ...screen, ink: [...screen.ink, cue.stroke] }
    case 'erase':
    case 'wipe':
      return { ...screen, ink: screen.ink.filter((stroke) => !takesOff(cue, stroke)) }
    case 'blank':
      return { ...screen, blank: cue.on }
    case 'inset':
      return { ...screen, inset: cue.on }
    case 'mute':
      return { ...screen, muted: cue.on }
    case 'clip':
      return withClip(screen, cue)
    case 'point':
    case 'stumble':
      return screen
    default:
      return unreachable(cue)
  }
}
