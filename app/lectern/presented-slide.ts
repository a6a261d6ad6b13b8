import type { Ms, PlayedClip, Snapshot } from '@core/model'
import { presentedClips } from './presented-clips'
import type { PresentedBy } from './presented-clips'
import { presentedMotions } from './presented-motions'

/** All that goes on by itself on the slide that is up while it is presented: its clips, and what is drawn on it and moves. */
export function presentedSlide(by: PresentedBy) {
  const clips = presentedClips(by)
  const motions = presentedMotions(by)

  function standAt(started: readonly PlayedClip[], moved: Ms | undefined): void {
    clips.standAt(started)
    motions.standAt(moved)
  }

  /** What a stretch that begins now opens with. */
  function opening(stamp: number): Pick<Snapshot, 'clips' | 'moved'> {
    const started = clips.opening(stamp)
    const moved = motions.opening(stamp)
    return { ...(started.length === 0 ? {} : { clips: started }), ...(moved === null ? {} : { moved }) }
  }

  /** A take or run-through begins: as if the slide had only come now. */
  function begin(): void {
    clips.begin()
    motions.standAt(0)
  }

  return {
    ...clips,
    standAt,
    opening,
    begin,
    arrived: (stamp: number): void => {
      motions.arrived(stamp)
      clips.arrived(stamp)
    },
    rest: (stamp: number): void => {
      motions.rest(stamp)
      clips.rest(stamp)
    },
    /** As `begin`, with nothing to wait for: a run-through. */
    beginAt: (stamp: number): void => {
      begin()
      opening(stamp)
    },
    /** What the Lectern's pages see and do of it. */
    controls: { ...clips.controls, moved: motions.elapsed, nextBegins: motions.nextBegins },
  }
}
