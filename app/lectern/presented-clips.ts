import type { Ref } from 'vue'
import { clipLength } from '@core/model'
import type { Clip, ClipId, ClipStart, Ms, PlayedClip, Slide } from '@core/model'
import { startedClips } from '@core/session'
import type { Screen } from '@core/session'
import { clipsOn, startedFrom } from '@core/scene'
import type { ClipScene } from '@core/scene'
import type { NoteCue } from './lectern-screen'

export interface PresentedBy {
  readonly note: NoteCue
  readonly put: (fields: Partial<Screen>) => void
  readonly screen: Ref<Screen>
  readonly slide: Ref<Slide | null>
}

/** The clips of the slide that is up while it is presented. Stamps are times of the page's clock. */
export function presentedClips({ note, put, screen, slide }: PresentedBy) {
  /** When each clip was started or halted last. */
  const since = new Map<ClipId, number>()
  /** What goes on again when the recording does. */
  let resting: ReadonlySet<ClipId> = new Set()

  /** Clips that were started, as they are at a time, which is the first of what they are in from then on. */
  const started = (stamp: number): readonly PlayedClip[] =>
    startedClips(screen.value).map((clip) => {
      const now = startedFrom({ ...clip, at: since.get(clip.clip) ?? stamp }, stamp)
      return { ...now, place: Math.round(now.place) }
    })

  const shown = (stamp: number): readonly ClipScene[] =>
    slide.value === null || screen.value.blank ? [] : clipsOn(slide.value, screen.value.step, started(stamp), 0)

  function set(clip: ClipId, place: Ms, playing: boolean, stamp: number): void {
    since.set(clip, stamp)
    note((at) => ({ kind: 'clip', at, clip, place: Math.round(place), playing }), stamp)
  }

  /** Clips that come with the step that is up. @param start what they begin with */
  const ofStep = (start: ClipStart): readonly Clip[] =>
    (slide.value?.clips ?? []).filter((clip) => clip.step === screen.value.step && clip.start === start)

  const wasStarted = ({ id }: Clip): boolean => startedClips(screen.value).some(({ clip }) => clip === id)

  const sceneOf = (clip: ClipId, stamp: number): ClipScene | undefined => shown(stamp).find((one) => one.clip.id === clip)

  /** Starts a clip, halts it, or has one that is over begin again. */
  function toggle(clip: Clip, stamp: number): void {
    const now = sceneOf(clip.id, stamp)
    if (now === undefined) return
    const place = now.at - clip.from
    if (now.playing) set(clip.id, place, false, stamp)
    else set(clip.id, place >= clipLength(clip) ? 0 : place, true, stamp)
  }

  /** Ends a clip at its last picture; one that goes round and round is halted. */
  function skip(clip: Clip, stamp: number): void {
    const now = sceneOf(clip.id, stamp)
    if (now !== undefined) set(clip.id, clip.loop ? now.at - clip.from : clipLength(clip), false, stamp)
  }

  /** The clip that keys are about: the one that plays, or else the first. */
  function current(stamp: number): Clip | null {
    const all = shown(stamp)
    return (all.find(({ playing }) => playing) ?? all[0])?.clip ?? null
  }

  /** Clips of this step that wait for a click that has not come. */
  const waiting = (): Clip | null => ofStep('click').find((clip) => clip.captured !== true && !wasStarted(clip)) ?? null

  /** A slide or step has come: its own clips begin, and those of steps that went are over. */
  function arrived(stamp: number): void {
    for (const clip of ofStep('step')) if (!wasStarted(clip)) set(clip.id, 0, true, stamp)
    for (const clip of slide.value?.clips ?? []) if (clip.step > screen.value.step && wasStarted(clip)) set(clip.id, 0, false, stamp)
  }

  /** Nothing is recorded for a while: clips stand until it goes on. */
  function rest(stamp: number): void {
    const now = started(stamp)
    resting = new Set(now.filter(({ playing }) => playing).map(({ clip }) => clip))
    put({ clips: now.map((clip) => ({ ...clip, playing: false })) })
  }

  /** What a stretch that begins now opens with. */
  function opening(stamp: number): readonly PlayedClip[] {
    const now = started(stamp).map((clip) => (resting.has(clip.clip) ? { ...clip, playing: true } : clip))
    for (const { clip } of now) since.set(clip, stamp)
    resting = new Set()
    put({ clips: now })
    return now
  }

  /** What is there when it goes on, as after going back in a take. */
  function standAt(clips: readonly PlayedClip[]): void {
    resting = new Set(clips.filter(({ playing }) => playing).map(({ clip }) => clip))
    put({ clips: clips.map((clip) => ({ ...clip, playing: false })) })
  }

  /** A take or run-through begins: as if the slide had only come now. */
  function begin(): void {
    standAt(ofStep('step').map(({ id }) => ({ clip: id, at: 0, place: 0, playing: true })))
  }

  return {
    shown,
    toggle,
    skip,
    waiting,
    arrived,
    rest,
    opening,
    standAt,
    begin,
    /** What the Lectern's pages see and do of them. */
    controls: { shownClips: shown, startedClips: started, toggleClip: toggle, skipClip: skip, currentClip: current },
  }
}

/** Clips that were started in a scene: those that stand at their beginnings were not. */
export const startedIn = (scenes: readonly ClipScene[]): readonly PlayedClip[] =>
  scenes.flatMap(({ clip, at, playing }) => {
    const place = Math.round(at - clip.from)
    return place > 0 || playing ? [{ clip: clip.id, at: 0, place, playing }] : []
  })
