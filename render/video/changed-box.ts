import { SPOT, strokeBounds } from '@core/ink'
import type { PixelBox } from '@core/paint'
import type { Scene } from '@core/scene'
import type { Point, Size } from '@core/model'

/** Whether nothing but ink differs between two scenes, so that the rest need not be drawn again. */
const sameButInk = (a: Scene, b: Scene): boolean =>
  a.shown?.picture === b.shown?.picture && a.transition === null && b.transition === null && a.coming === 1 && b.coming === 1
  && JSON.stringify([a.stage, a.inset?.framing]) === JSON.stringify([b.stage, b.inset?.framing])

/** What the pointer's spot covers, in fractions of the slide, on slides up to five times as high as wide. */
const boundsOfSpot = (at: Point): { readonly left: number, readonly top: number, readonly right: number, readonly bottom: number } => {
  const reach = SPOT.radius * Math.max(...SPOT.discs.map((disc) => disc.reach))
  return { left: at.x - reach * 5, top: at.y - reach, right: at.x + reach * 5, bottom: at.y + reach }
}

/** Where two scenes of the same slide differ: around the strokes and the spot that are not alike in both. Null when nowhere. */
function inkBox(last: Scene, now: Scene, size: Size): PixelBox | null {
  const [before, after, stage] = [last.ink, now.ink, now.stage]
  const was = new Map(before.map((drawn) => [drawn.stroke.id, drawn.elapsed]))
  const is = new Map(after.map((drawn) => [drawn.stroke.id, drawn.elapsed]))
  const changed = [...before, ...after].filter(({ stroke }) =>
    was.get(stroke.id) !== is.get(stroke.id) || was.has(stroke.id) !== is.has(stroke.id))
  const spots = JSON.stringify(last.spot) === JSON.stringify(now.spot) ? [] : [last.spot, now.spot].flatMap((spot) => (spot === null ? [] : [boundsOfSpot(spot)]))
  if (changed.length === 0 && spots.length === 0) return null
  const bounds = [...changed.map(({ stroke }) => strokeBounds(stroke, { width: size.width * stage.w, height: size.height * stage.h })), ...spots]
  const edge = (values: readonly number[], pick: (...of: number[]) => number): number => pick(...values)
  const across = (x: number): number => (stage.x + x * stage.w) * size.width
  const down = (y: number): number => (stage.y + y * stage.h) * size.height
  const left = across(edge(bounds.map((bound) => bound.left), Math.min))
  const top = down(edge(bounds.map((bound) => bound.top), Math.min))
  const right = across(edge(bounds.map((bound) => bound.right), Math.max))
  const bottom = down(edge(bounds.map((bound) => bound.bottom), Math.max))
  const x = Math.max(0, Math.floor(left / 2) * 2 - 2)
  const y = Math.max(0, Math.floor(top / 2) * 2 - 2)
  return {
    x,
    y,
    width: Math.max(0, Math.min(size.width, Math.ceil(right / 2) * 2 + 2) - x),
    height: Math.max(0, Math.min(size.height, Math.ceil(bottom / 2) * 2 + 2) - y),
  }
}

export const wholeBox = (size: Size): PixelBox => ({ x: 0, y: 0, width: size.width, height: size.height })

/** What has to be drawn again when one scene follows another: even pixels. Null: nothing. @param last null: nothing was drawn before */
export function changedBox(last: Scene | null, now: Scene, size: Size): PixelBox | null {
  if (last === null || !sameButInk(last, now)) return wholeBox(size)
  const box = inkBox(last, now, size)
  return box === null || box.width <= 0 || box.height <= 0 ? null : box
}
