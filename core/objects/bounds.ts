import { BREADTH } from '@core/model'
import type { Point, Rect, Size } from '@core/model'
import type { ObjectScene } from './objects-at'

/** Corners of what an object covers about its middle, in heights of the slide, before it is turned. */
function cornersOf({ object: { box, form } }: ObjectScene, aspect: number): readonly Point[] {
  const [w, h] = [box.w * aspect, box.h]
  const [left, top, right, bottom] = [-w / 2, -h / 2, w / 2, h / 2]
  const corners = [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ]
  return form.kind === 'callout' ? [...corners, { x: (form.tip.x - 0.5) * w, y: (form.tip.y - 0.5) * h }] : corners
}

/** How far lines and heads of arrows reach over the box, in heights of the slide. */
function overhang({ object: { form } }: ObjectScene, aspect: number): number {
  const short = Math.min(1, aspect)
  if (!('breadth' in form)) return BREADTH.usual * short
  return form.breadth * short * (form.kind === 'arrow' ? ARROW_HEAD : 1)
}

/** Breadth of an arrow's head, in breadths of its line. */
export const ARROW_HEAD = 5

/** What an object covers at its moment, in fractions of the slide. */
export function boundsOfObject(scene: ObjectScene, shape: Size): Rect {
  const aspect = shape.width / shape.height
  const angle = (scene.turn * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle) * scene.scale, Math.sin(angle) * scene.scale]
  const turned = cornersOf(scene, aspect).map(({ x, y }) => ({ x: x * cos - y * sin, y: x * sin + y * cos }))
  const over = overhang(scene, aspect) * scene.scale
  const [left, right] = [Math.min(...turned.map(({ x }) => x)) - over, Math.max(...turned.map(({ x }) => x)) + over]
  const [top, bottom] = [Math.min(...turned.map(({ y }) => y)) - over, Math.max(...turned.map(({ y }) => y)) + over]
  return { x: scene.at.x + left / aspect, y: scene.at.y + top, w: (right - left) / aspect, h: bottom - top }
}
