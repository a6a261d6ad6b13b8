import { MOST_OBJECTS, NOTHING_DRAWN } from '@core/model'
import type { Drawing, MotionId, ObjectId, ObjectMotion, Point, Rect, SlideObject, StepStart } from '@core/model'

export const ALIGNMENTS = ['left', 'middle', 'right', 'top', 'centre', 'bottom'] as const
/** Along which edge or line of all of them together objects are laid: `middle` from left to right, `centre` from top to bottom. */
export type Alignment = (typeof ALIGNMENTS)[number]

export const ORDERS = ['front', 'forward', 'backward', 'back'] as const
export type Order = (typeof ORDERS)[number]

type Ids = ReadonlySet<ObjectId>

const withObjects = (drawing: Drawing, objects: readonly SlideObject[]): Drawing => ({ ...drawing, objects })

/** Changes some objects. */
export const changed = (drawing: Drawing, ids: Ids, change: (object: SlideObject) => SlideObject): Drawing =>
  withObjects(
    drawing,
    drawing.objects.map((object) => (ids.has(object.id) ? change(object) : object)),
  )

const placed = (object: SlideObject, at: Partial<Rect>): SlideObject => ({ ...object, box: { ...object.box, ...at } })

/** Moves objects, in fractions of the slide. */
export const movedBy = (drawing: Drawing, ids: Ids, { x, y }: Point): Drawing =>
  changed(drawing, ids, (object) => placed(object, { x: object.box.x + x, y: object.box.y + y }))

/** Some objects, and all that are in a group with one of them. */
export function withGroups({ objects }: Drawing, ids: Ids): Ids {
  const groups = new Set(objects.flatMap(({ id, group }) => (ids.has(id) && group !== null ? [group] : [])))
  return new Set(objects.flatMap(({ id, group }) => (ids.has(id) || (group !== null && groups.has(group)) ? [id] : [])))
}

/** The smallest rectangle that has some in it; null: there are none. */
export function around(boxes: readonly Rect[]): Rect | null {
  if (boxes.length === 0) return null
  const [x, y] = [Math.min(...boxes.map((box) => box.x)), Math.min(...boxes.map((box) => box.y))]
  const [right, bottom] = [Math.max(...boxes.map((box) => box.x + box.w)), Math.max(...boxes.map((box) => box.y + box.h))]
  return { x, y, w: right - x, h: bottom - y }
}

function alignedIn({ x, y, w, h }: Rect, all: Rect, by: Alignment): Partial<Rect> {
  switch (by) {
    case 'left':
      return { x: all.x }
    case 'middle':
      return { x: all.x + (all.w - w) / 2 }
    case 'right':
      return { x: all.x + all.w - w }
    case 'top':
      return { y: all.y }
    case 'centre':
      return { y: all.y + (all.h - h) / 2 }
    case 'bottom':
      return { y: all.y + all.h - h }
    default:
      return { x, y }
  }
}

/** Lays objects along a line of all of them together; one alone along the slide's. */
export function aligned(drawing: Drawing, ids: Ids, by: Alignment): Drawing {
  const chosen = drawing.objects.filter(({ id }) => ids.has(id)).map(({ box }) => box)
  const all = chosen.length === 1 ? { x: 0, y: 0, w: 1, h: 1 } : around(chosen)
  return all === null ? drawing : changed(drawing, ids, (object) => placed(object, alignedIn(object.box, all, by)))
}

/** Leaves the same room between objects; the first and the last stay where they are. */
export function spread(drawing: Drawing, ids: Ids, along: 'across' | 'down'): Drawing {
  const [from, size] = along === 'across' ? (['x', 'w'] as const) : (['y', 'h'] as const)
  const chosen = drawing.objects.filter(({ id }) => ids.has(id)).sort((a, b) => a.box[from] - b.box[from])
  const [first, last] = [chosen[0], chosen.at(-1)]
  if (first === undefined || last === undefined || chosen.length < 3) return drawing
  const between = chosen.slice(1, -1).reduce((sum, { box }) => sum + box[size], 0)
  const begins = first.box[from] + first.box[size]
  const room = (last.box[from] - begins - between) / (chosen.length - 1)
  let at = begins + room
  const places = new Map<ObjectId, number>()
  for (const { id, box } of chosen.slice(1, -1)) {
    places.set(id, at)
    at += box[size] + room
  }
  return changed(drawing, new Set(places.keys()), (object) => placed(object, { [from]: places.get(object.id) ?? object.box[from] }))
}

/** Brings objects before others, or puts them behind; among themselves they stay as they are. */
export function reordered(drawing: Drawing, ids: Ids, to: Order): Drawing {
  const chosen = drawing.objects.filter(({ id }) => ids.has(id))
  const rest = drawing.objects.filter(({ id }) => !ids.has(id))
  if (chosen.length === 0) return drawing
  const below = rest.filter((object) => drawing.objects.indexOf(object) < drawing.objects.indexOf(chosen[0] as SlideObject)).length
  const places = { front: rest.length, back: 0, forward: Math.min(rest.length, below + 1), backward: Math.max(0, below - 1) }
  const at = places[to]
  return withObjects(drawing, [...rest.slice(0, at), ...chosen, ...rest.slice(at)])
}

/** Puts objects on top. Those for which there is no room are left out. */
export const withMore = (drawing: Drawing, objects: readonly SlideObject[]): Drawing =>
  withObjects(drawing, [...drawing.objects, ...objects].slice(0, MOST_OBJECTS))

/** Takes objects off, with their motions. */
export const without = (drawing: Drawing, ids: Ids): Drawing => ({
  ...drawing,
  objects: drawing.objects.filter(({ id }) => !ids.has(id)),
  motions: drawing.motions.filter(({ object }) => !ids.has(object)),
})

/** Copies lie so far from what they are copies of, in fractions of the slide. */
const BESIDE = 0.03

/** Copies objects with their motions, a little beside. @param fresh gives a new id for each, and for each motion and group of theirs */
export function copied(drawing: Drawing, ids: Ids, fresh: () => string): { readonly drawing: Drawing; readonly copies: Ids } {
  const names = new Map<string, string>()
  const named = <Name extends string>(old: Name): Name => {
    const found = names.get(old) ?? fresh()
    names.set(old, found)
    return found as Name
  }
  const objects = drawing.objects
    .filter(({ id }) => ids.has(id))
    .slice(0, MOST_OBJECTS - drawing.objects.length)
    .map((object) => ({
      ...placed(object, { x: object.box.x + BESIDE, y: object.box.y + BESIDE }),
      id: named(object.id),
      group: object.group === null ? null : named(object.group),
    }))
  const there = new Set(objects.map(({ id }) => id))
  const motions = drawing.motions
    .filter(({ object }) => ids.has(object) && there.has(named(object)))
    .map((motion) => ({ ...motion, id: fresh() as MotionId, object: named(motion.object) }))
  return { drawing: { ...withMore(drawing, objects), motions: [...drawing.motions, ...motions] }, copies: there }
}

/** Puts a motion in the place of the one of its id, or behind all others of its step. */
export function withMotion(drawing: Drawing, motion: ObjectMotion): Drawing {
  const known = drawing.motions.some(({ id }) => id === motion.id)
  const motions = known ? drawing.motions.map((one) => (one.id === motion.id ? motion : one)) : [...drawing.motions, motion]
  return { ...drawing, motions }
}

export const withoutMotion = (drawing: Drawing, id: MotionId): Drawing => ({
  ...drawing,
  motions: drawing.motions.filter((one) => one.id !== id),
})

/** Puts a motion before or behind its neighbour in the same step. */
export function shiftedMotion(drawing: Drawing, id: MotionId, by: 1 | -1): Drawing {
  const at = drawing.motions.findIndex((one) => one.id === id)
  const motion = drawing.motions[at]
  if (motion === undefined) return drawing
  const isNear = (one: ObjectMotion): boolean => one.step === motion.step && one.id !== id
  const near = by === 1 ? drawing.motions.findIndex((one, n) => n > at && isNear(one)) : drawing.motions.slice(0, at).findLastIndex(isNear)
  if (near < 0) return drawing
  const motions = drawing.motions.filter((one) => one.id !== id)
  motions.splice(near, 0, motion)
  return { ...drawing, motions }
}

/** How a step begins; null: when the presenter goes on. */
export const withStart = (drawing: Drawing, step: number, start: Omit<StepStart, 'step'> | null): Drawing => ({
  ...drawing,
  starts: [...drawing.starts.filter((one) => one.step !== step), ...(start === null ? [] : [{ ...start, step }])],
})

/** What is drawn on a slide, or nothing. */
export const drawingOf = ({ drawing }: { readonly drawing?: Drawing }): Drawing => drawing ?? NOTHING_DRAWN
