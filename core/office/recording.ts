import type { Cue, InkColour, InkPoint, InkTool, InkWidth, Ms, PathPoint, SlideId, Snapshot, StrokeId } from '@core/model'
import { stateAfter } from './timeline'
import type { ClickState } from './timeline'

/** A stroke that was drawn while a slide was recorded. */
export interface RecordedStroke {
  readonly at: Ms
  readonly tool: InkTool
  readonly colour: InkColour
  readonly width: InkWidth
  /** At least one. */
  readonly points: readonly InkPoint[]
}

/** What an office file holds of the recording of a slide, besides its voice. Times count from when the slide appears. */
export interface OfficeRecording {
  /** How long the slide is shown; null: as long as its voice. */
  readonly length: Ms | null
  /** When each click was made, in order. */
  readonly clicks: readonly Ms[]
  readonly pointer: readonly { readonly at: Ms; readonly path: readonly PathPoint[] }[]
  readonly ink: readonly RecordedStroke[]
}

/** How long a slide that was recorded is shown, in ms: never shorter than what was said. @param voice its length; 0 for none */
export const recordedLength = ({ length }: Pick<OfficeRecording, 'length'>, voice: Ms): Ms => Math.max(length ?? 0, voice)

/** When the states of a slide were shown, in ms from its beginning. Clicks whose times are not known are spread over it. */
export function stateTimes(
  states: readonly Pick<ClickState, 'clicks'>[],
  clicks: readonly Ms[],
  length: Ms,
): readonly { readonly at: Ms; readonly state: number }[] {
  if (clicks.length === 0) return states.slice(1).map((_, n) => ({ at: Math.round((length * (n + 1)) / states.length), state: n + 1 }))
  const times: { readonly at: Ms; readonly state: number }[] = []
  for (const [n, at] of clicks.entries()) {
    const state = stateAfter(states, n + 1)
    if (at < length && state !== (times.at(-1)?.state ?? 0)) times.push({ at, state })
  }
  return times
}

/**
 * What a slide's recording is as a stretch.
 * @param camera whether its presenter is seen
 * @param length ms, as `recordedLength` says
 * @param newId makes the id of a stroke
 */
export function recordedStretch(
  slide: SlideId,
  states: readonly Pick<ClickState, 'clicks'>[],
  { clicks, pointer, ink }: OfficeRecording,
  { camera, length, newId }: { readonly camera: boolean; readonly length: Ms; readonly newId: () => StrokeId },
): { readonly opening: Snapshot; readonly cues: readonly Cue[] } {
  const within = ({ at }: { readonly at: Ms }): boolean => at < length
  const cues: readonly Cue[] = [
    ...stateTimes(states, clicks, length).map(({ at, state }): Cue => ({ kind: 'show', at, slide, step: state })),
    ...pointer.filter(within).map(({ at, path }): Cue => ({ kind: 'point', at, path })),
    ...ink.filter(within).map(({ at, tool, colour, width, points }): Cue => ({
      kind: 'ink',
      at,
      stroke: { id: newId(), ...(tool === 'pen' ? {} : { tool }), slide, colour, width, pressure: false, points },
    })),
  ]
  return {
    opening: { slide, step: 0, blank: false, inset: camera, ink: [] },
    cues: [...cues].sort((a, b) => a.at - b.at),
  }
}
