import { sceneIn } from '@core/scene'
import type { FilmIndex, Scene, SlideView } from '@core/scene'
import { unreachable } from '@core/model'
import type { Picture, Stroke } from '@core/model'
import { timeOfFrame } from './frame-grid'
import type { Segment } from './segment'

/** One picture and how many frames it stays. */
export interface Run {
  readonly scene: Scene
  /** Equal for equal pictures. */
  readonly look: string
  readonly frames: number
}

const pointsDue = (stroke: Stroke, elapsed: number | null): number =>
  elapsed === null ? -1 : stroke.points.filter((point) => point.dt <= elapsed).length

/** Names what a step shows. */
function nameOfPicture(picture: Picture): readonly unknown[] {
  switch (picture.kind) {
    case 'page': return [picture.source, picture.page, picture.size]
    case 'image': return [picture.source, picture.ground, picture.size]
    case 'composed': return [picture.composition, picture.shown, picture.clear, picture.size]
    default: return unreachable(picture)
  }
}

const nameOfView = (view: SlideView): readonly unknown[] => [
  view.shown === null ? 'blank' : nameOfPicture(view.shown.picture),
  view.ink.map(({ stroke, elapsed }) => [stroke.id, pointsDue(stroke, elapsed)]),
  view.stage, view.coming, view.spot,
]

/** Names what a scene looks like, camera picture aside. Strokes are named by id: their shape is told once, in the key. */
const lookOf = (scene: Scene): string => JSON.stringify([
  nameOfView(scene), scene.inset?.framing ?? null,
  scene.transition === null ? null : [scene.transition.kind, scene.transition.progress, nameOfView(scene.transition.from)],
])

/** Every stroke that is seen in a scene, whole or in part. */
const inkIn = (scene: Scene): readonly Stroke[] => [...scene.ink, ...scene.transition?.from.ink ?? []].map(({ stroke }) => stroke)

/** The pictures of a segment in order. A frame that looks like the one before it only makes its run longer. */
export function runsOf(index: FilmIndex, segment: Segment, rate: number): readonly Run[] {
  const runs: Run[] = []
  for (let frame = 0; frame < segment.drawn; frame += 1) {
    const scene = sceneIn(index, segment.piece, Math.min(segment.from + timeOfFrame(frame, rate), segment.to))
    const look = lookOf(scene)
    const last = runs.at(-1)
    if (last?.look === look) runs[runs.length - 1] = { ...last, frames: last.frames + 1 }
    else runs.push({ scene, look, frames: 1 })
  }
  return runs
}

/**
 * All that decides a segment's pixels, as text to be hashed into its key.
 * @param setting what is the same for the whole delivery: size, rate, quality, encoder
 */
export function contentOfSegment(segment: Segment, runs: readonly Run[], setting: string): string {
  const strokes = new Map(runs.flatMap((run) => inkIn(run.scene).map((stroke) => [stroke.id, stroke] as const)))
  // However long a still picture stays, the same few frames of it are repeated.
  if (segment.kind === 'still') return JSON.stringify(['still', setting, runs[0]?.look, [...strokes.values()]])
  const { num, den } = segment.tempo
  const camera = segment.inset && [segment.inset.stretch, segment.inset.at, ...(num === den ? [] : [num, den])]
  return JSON.stringify([segment.kind, setting, runs.map((run) => [run.look, run.frames]), [...strokes.values()], camera])
}
