import { LAST_MOMENT, asSeen, pictureOfClip, sceneIn } from '@core/scene'
import type { ClipScene, DrawnStroke, FilmIndex, OverlayScene, Scene, SlideView } from '@core/scene'
import { unreachable } from '@core/model'
import type { ObjectScene } from '@core/objects'
import type { Picture, SlideObject, Stroke } from '@core/model'
import { timeOfFrame } from './frame-grid'
import type { Segment } from './segment'

/** One picture and how many frames it stays. */
export interface Run {
  readonly scene: Scene
  readonly frames: number
  /** In what it differs from the picture before it, as text; of the first all that it shows. Strokes are named by id. */
  readonly change: string
  /** Strokes that `change` names. */
  readonly strokes: readonly Stroke[]
}

const pointsDue = ({ stroke, elapsed }: DrawnStroke): number =>
  elapsed === null ? -1 : stroke.points.filter((point) => point.dt <= elapsed).length

const pictureNames = new WeakMap<Picture, string>()

/** Names what a step shows. */
function nameOfPicture(picture: Picture): string {
  const known = pictureNames.get(picture)
  if (known !== undefined) return known
  const name = JSON.stringify(partsOfPicture(picture))
  pictureNames.set(picture, name)
  return name
}

function partsOfPicture(picture: Picture): readonly unknown[] {
  switch (picture.kind) {
    case 'page':
      return [picture.source, picture.page, picture.size]
    case 'image':
      return [picture.source, picture.ground, picture.size]
    case 'composed':
      return [picture.composition, picture.shown, picture.clear, picture.size]
    default:
      return unreachable(picture)
  }
}

/** Names what is seen of a clip: which picture of it, and where. */
const nameOfClip = ({ clip, at }: ClipScene): readonly unknown[] =>
  clip.media.picture === null ? [] : [[clip.media.file, pictureOfClip(clip, at), clip.box, ...(clip.crop === undefined ? [] : [clip.crop])]]

const objectNames = new WeakMap<SlideObject, string>()

/** Names all that is seen of an object, wherever it is. */
function lookOfObject(object: SlideObject): string {
  const known = objectNames.get(object)
  if (known !== undefined) return known
  const { form, colour, box } = object
  const name = JSON.stringify([form, colour, box.w, box.h])
  objectNames.set(object, name)
  return name
}

const nameOfObject = ({ object, theme, at, turn, scale, opacity }: ObjectScene): readonly unknown[] => [
  lookOfObject(object),
  theme,
  at,
  turn,
  scale,
  opacity,
]

const partsOfView = (view: SlideView): readonly unknown[] => [
  view.shown === null ? 'blank' : nameOfPicture(view.shown.picture),
  view.stage,
  view.revealProgress,
  view.revealFrom === undefined ? null : nameOfPicture(view.revealFrom.picture),
  view.spot,
  ...(view.clips.length === 0 ? [] : [view.clips.flatMap(nameOfClip)]),
  ...(view.objects.length === 0 ? [] : [view.objects.map(nameOfObject)]),
]

/** Names what a scene looks like, ink and camera picture aside. */
const nameWithoutInk = ({ inset, transition, caption, overlays, ...scene }: Scene): string =>
  JSON.stringify([
    partsOfView(scene),
    inset?.framing ?? null,
    transition === null ? null : [transition.kind, transition.progress, partsOfView(transition.from)],
    caption,
    ...(overlays.length === 0 ? [] : [overlays.map(nameOfOverlay)]),
  ])

/** Names what is seen of an overlay, whatever it hangs on and for how long. */
const nameOfOverlay = ({
  overlay: { id: _, visit: __, offset: ___, length: ____, ...seen },
  box,
  there,
}: OverlayScene): readonly unknown[] => [seen, box, there]

const NO_INK: readonly DrawnStroke[] = []
const inkBehind = (scene: Scene): readonly DrawnStroke[] => scene.transition?.from.ink ?? NO_INK

const looksSame = (a: DrawnStroke, b: DrawnStroke): boolean =>
  a === b || (a.stroke.id === b.stroke.id && (a.elapsed === b.elapsed || pointsDue(a) === pointsDue(b)))

/** How many strokes at the beginning of two lists look the same. As a rule all but the one that is growing do. */
function sameFromFirst(before: readonly DrawnStroke[], now: readonly DrawnStroke[]): number {
  if (before === now) return now.length
  const most = Math.min(before.length, now.length)
  let same = 0
  while (same < most && looksSame(before[same] as DrawnStroke, now[same] as DrawnStroke)) same += 1
  return same
}

/** A list of ink against the one before it: how much of that stays, and what comes behind. */
interface InkChange {
  readonly same: number
  readonly none: boolean
  readonly rest: readonly DrawnStroke[]
}

function inkChange(before: readonly DrawnStroke[], now: readonly DrawnStroke[]): InkChange {
  const same = sameFromFirst(before, now)
  return { same, none: same === now.length && same === before.length, rest: now.slice(same) }
}

const named = ({ same, rest }: InkChange): readonly unknown[] => [same, rest.map((drawn) => [drawn.stroke.id, pointsDue(drawn)])]

/**
 * The pictures of a segment in order. A frame that looks like the one before it only makes its run longer. Every frame is sampled
 * inside the segment.
 */
export function runsOf(index: FilmIndex, segment: Segment, fps: number): readonly Run[] {
  const runs: Run[] = []
  const last = Math.max(segment.from, segment.to - LAST_MOMENT)
  let name = ''
  for (let frame = 0; frame < segment.drawn; frame += 1) {
    const scene = asSeen(sceneIn(index, segment.piece, Math.min(segment.from + timeOfFrame(frame, fps), last)))
    const before = runs.at(-1)
    const own = nameWithoutInk(scene)
    const ink = inkChange(before?.scene.ink ?? NO_INK, scene.ink)
    const behind = inkChange(before === undefined ? NO_INK : inkBehind(before.scene), inkBehind(scene))
    if (before !== undefined && own === name && ink.none && behind.none) {
      runs[runs.length - 1] = { ...before, frames: before.frames + 1 }
      continue
    }
    const change = JSON.stringify([own === name ? null : own, named(ink), named(behind)])
    runs.push({ scene, frames: 1, change, strokes: [...ink.rest, ...behind.rest].map(({ stroke }) => stroke) })
    name = own
  }
  return runs
}

/**
 * All that decides a segment's pixels, as text to be hashed into its key. Each stroke is told once, and each picture by what it changes.
 * @param setting what is the same for the whole delivery: size, rate, quality, encoder
 * @param nameOf names all of a stroke: equal for equal ones alone
 */
export function contentOfSegment(
  segment: Segment,
  runs: readonly Run[],
  setting: string,
  nameOf: (stroke: Stroke) => string = JSON.stringify,
): string {
  // However long a still picture stays, the same few frames of it are repeated.
  const told = segment.kind === 'still' ? runs.slice(0, 1) : runs
  const strokes = new Map(told.flatMap((run) => run.strokes.map((stroke) => [stroke.id, stroke] as const)))
  const ink = [...strokes.values()].map(nameOf)
  if (segment.kind === 'still') return JSON.stringify(['still', setting, told[0]?.change, ink])
  const { num, den } = segment.tempo
  const { light, backdrop } = segment.inset ?? {}
  const dressed = [light, backdrop].filter((one) => one !== undefined)
  const camera = segment.inset && [segment.inset.stretch, segment.inset.at, ...(num === den ? [] : [num, den]), ...dressed]
  return JSON.stringify([segment.kind, setting, told.map((run) => [run.change, run.frames]), ink, camera])
}
