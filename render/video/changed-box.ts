import { dequal } from 'dequal'
import { SPOT, strokeBounds, strokeOutline } from '@core/ink'
import type { Outline2D } from '@core/ink'
import { clipRect } from '@core/layout'
import { captionBox, evenBox, overlayBox } from '@core/paint'
import type { Edges } from '@core/paint'
import { boundsOfObject } from '@core/objects'
import type { ObjectScene } from '@core/objects'
import { pictureOfClip } from '@core/scene'
import type { ClipScene, Scene } from '@core/scene'
import type { Ms, PixelBox, Point, Size, Stroke } from '@core/model'

/** Whether two scenes differ in nothing but ink, clips, objects, captions and overlays, so that the rest need not be drawn again. */
export const sameButInk = (a: Scene, b: Scene): boolean =>
  a.shown?.picture === b.shown?.picture &&
  a.transition === null &&
  b.transition === null &&
  a.revealProgress === 1 &&
  b.revealProgress === 1 &&
  dequal([a.stage, a.inset?.framing], [b.stage, b.inset?.framing])

/** In fractions of the slide. */
type Bounds = Edges

/** What the pointer's spot covers, on slides up to five times as high as wide. */
const boundsOfSpot = (at: Point): Bounds => {
  const reach = SPOT.radius * Math.max(...SPOT.discs.map((disc) => disc.reach))
  return { left: at.x - reach * 5, top: at.y - reach, right: at.x + reach * 5, bottom: at.y + reach }
}

/** A corner of a drawn outline bends the line towards its neighbours, and two further on none of it is felt. */
const FELT = 2

/**
 * Where the outlines of a stroke differ that were drawn one after the other: as a rule at its tip alone. All of both where they differ
 * at their beginnings.
 */
function boundsOfGrowth(before: Outline2D, after: Outline2D, slide: Size): Bounds | null {
  const same = (a: Outline2D[number] | undefined, b: Outline2D[number] | undefined): boolean => a?.[0] === b?.[0] && a?.[1] === b?.[1]
  const most = Math.min(before.length, after.length)
  let head = 0
  while (head < most && same(before[head], after[head])) head += 1
  let tail = 0
  while (tail < most - head && same(before.at(-1 - tail), after.at(-1 - tail))) tail += 1
  if (head === before.length && head === after.length) return null
  const apart = head > FELT && tail > FELT
  const part = (outline: Outline2D): Outline2D => (apart ? outline.slice(head - FELT, outline.length - tail + FELT) : outline)
  const corners = [...part(before), ...part(after)]
  const [across, down] = [corners.map(([x]) => x / slide.width), corners.map(([, y]) => y / slide.height)]
  return { left: Math.min(...across), top: Math.min(...down), right: Math.max(...across), bottom: Math.max(...down) }
}

/**
 * Where a stroke is not alike in two scenes.
 * @param was how much of it there was, and
 * @param is how much there is; undefined: it is not there
 */
function boundsOfChange(stroke: Stroke, was: Ms | null | undefined, is: Ms | null | undefined, slide: Size): Bounds | null {
  if (stroke.tool === 'label') return strokeBounds(stroke, slide)
  const outline = (elapsed: Ms | null | undefined): Outline2D => (elapsed === undefined ? [] : strokeOutline(stroke, elapsed, slide))
  return boundsOfGrowth(outline(was), outline(is), slide)
}

/** Where two scenes of the same slide differ: around the strokes and the spot that are not alike in both. Null when nowhere. */
function inkBox(last: Scene, now: Scene, size: Size): PixelBox | null {
  const [before, after, stage] = [last.ink, now.ink, now.stage]
  const slide = { width: size.width * stage.w, height: size.height * stage.h }
  // Strokes that lie there already are the same values in both, and stand first.
  const lying = before.findIndex((drawn, n) => drawn !== after[n])
  const [gone, come] = lying < 0 ? [[], after.slice(before.length)] : [before.slice(lying), after.slice(lying)]
  const was = new Map(gone.map((drawn) => [drawn.stroke.id, drawn.elapsed]))
  const is = new Map(come.map((drawn) => [drawn.stroke.id, drawn.elapsed]))
  const changed = new Map(
    [...gone, ...come]
      .filter(({ stroke: { id } }) => was.get(id) !== is.get(id) || was.has(id) !== is.has(id))
      .map(({ stroke }) => [stroke.id, stroke]),
  )
  const spots = dequal(last.spot, now.spot) ? [] : [last.spot, now.spot].flatMap((spot) => (spot === null ? [] : [boundsOfSpot(spot)]))
  const bounds = [
    ...[...changed.values()]
      .map((stroke) => boundsOfChange(stroke, was.get(stroke.id), is.get(stroke.id), slide))
      .filter((one) => one !== null),
    ...spots,
  ]
  return boxOnStage(bounds, now, size)
}

/** Pixels around some bounds on a slide; null: there are none. */
function boxOnStage(bounds: readonly Bounds[], { stage }: Scene, size: Size): PixelBox | null {
  if (bounds.length === 0) return null
  const across = (x: number): number => (stage.x + x * stage.w) * size.width
  const down = (y: number): number => (stage.y + y * stage.h) * size.height
  return evenBox(
    {
      left: across(Math.min(...bounds.map((bound) => bound.left))),
      top: down(Math.min(...bounds.map((bound) => bound.top))),
      right: across(Math.max(...bounds.map((bound) => bound.right))),
      bottom: down(Math.max(...bounds.map((bound) => bound.bottom))),
    },
    size,
  )
}

/** All that decides what is seen of a clip, and where. */
const lookOfClip = ({ clip, at }: ClipScene): string =>
  JSON.stringify([clip.id, clip.media.file, clip.box, clip.crop ?? null, clip.media.picture === null ? null : pictureOfClip(clip, at)])

/** Where clips show other pictures in two scenes, or are not in both. Null when nowhere. */
function clipBox(last: Scene, now: Scene, size: Size): PixelBox | null {
  if (last.clips.length === 0 && now.clips.length === 0) return null
  const [was, is] = [new Set(last.clips.map(lookOfClip)), new Set(now.clips.map(lookOfClip))]
  const changed = [...last.clips.filter((clip) => !is.has(lookOfClip(clip))), ...now.clips.filter((clip) => !was.has(lookOfClip(clip)))]
  const slide = { width: size.width * now.stage.w, height: size.height * now.stage.h }
  const bounds = changed.flatMap(({ clip }): readonly Bounds[] => {
    const rect = clipRect(clip, slide)
    return rect === null ? [] : [{ left: rect.x, top: rect.y, right: rect.x + rect.w, bottom: rect.y + rect.h }]
  })
  return boxOnStage(bounds, now, size)
}

const lookOfObject = ({ object, at, turn, scale, opacity }: ObjectScene): readonly unknown[] => [object, at, turn, scale, opacity]

/** Where what is drawn on a slide is not alike in two scenes. Null when nowhere. */
function objectsBox(last: Scene, now: Scene, size: Size): PixelBox | null {
  const [was, is] = [last.objects, now.objects]
  const sameOrder = dequal(
    was.map(({ object }) => object.id),
    is.map(({ object }) => object.id),
  )
  // What comes or goes changes nothing of the others but what lies over them.
  const before = new Map(was.map((scene) => [scene.object.id, scene]))
  const after = new Map(is.map((scene) => [scene.object.id, scene]))
  const changed = [...was, ...is].filter(({ object: { id } }) => {
    const [a, b] = [before.get(id), after.get(id)]
    return a === undefined || b === undefined || (a !== b && !dequal(lookOfObject(a), lookOfObject(b)))
  })
  if (sameOrder && changed.length === 0) return null
  const slide = { width: size.width * now.stage.w, height: size.height * now.stage.h }
  const bounds = changed.map((scene): Bounds => {
    const { x, y, w, h } = boundsOfObject(scene, slide)
    return { left: x, top: y, right: x + w, bottom: y + h }
  })
  return boxOnStage(bounds, now, size)
}

/** The smallest box that has some in it; null: there are none. */
function boxAround(boxes: readonly PixelBox[]): PixelBox | null {
  if (boxes.length === 0) return null
  const [x, y] = [Math.min(...boxes.map((box) => box.x)), Math.min(...boxes.map((box) => box.y))]
  const [right, bottom] = [Math.max(...boxes.map((box) => box.x + box.width)), Math.max(...boxes.map((box) => box.y + box.height))]
  return { x, y, width: right - x, height: bottom - y }
}

export const wholeBox = (size: Size): PixelBox => ({ x: 0, y: 0, width: size.width, height: size.height })

/**
 * What has to be drawn again when one scene follows another: even pixels; where ink grows, around its tip and not around all of it. A
 * line that was drawn further may, where it only touches a pixel, be lighter or darker there than one that was drawn at once. Null:
 * nothing.
 */
export function changedBox(last: Scene, now: Scene, size: Size): PixelBox | null {
  if (!sameButInk(last, now)) return wholeBox(size)
  const overlays = dequal(last.overlays, now.overlays) ? [] : [...last.overlays, ...now.overlays].map((over) => overlayBox(over, size))
  const captions = dequal(last.caption, now.caption) ? [] : [last.caption, now.caption].flatMap((one) => one ?? [])
  const box = boxAround(
    [
      inkBox(last, now, size),
      clipBox(last, now, size),
      objectsBox(last, now, size),
      ...overlays,
      ...captions.map((caption) => captionBox(caption, size)),
    ].filter((one) => one !== null),
  )
  return box === null || box.width <= 0 || box.height <= 0 ? null : box
}
