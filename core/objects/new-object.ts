import { BREADTH, LETTERS, unreachable } from '@core/model'
import type { ObjectForm, ObjectId, ObjectKind, Point, Rect, Size, SlideObject } from '@core/model'

/** Kinds of objects that begin without anything to be brought or drawn. */
export type PlainKind = Exclude<ObjectKind, 'picture' | 'freehand'>

function formOf(kind: PlainKind): ObjectForm {
  const breadth = BREADTH.usual
  switch (kind) {
    case 'text':
      return { kind, text: '', letters: LETTERS.usual, align: 'start' }
    case 'line':
      return { kind, slant: 'falling', breadth }
    case 'arrow':
      return { kind, slant: 'falling', back: false, breadth }
    case 'box':
    case 'ellipse':
      return { kind, filled: true, breadth, label: '' }
    case 'callout':
      return { kind, label: '', tip: { x: 0.2, y: 1.5 } }
    default:
      return unreachable(kind)
  }
}

const SIZES: Readonly<Record<PlainKind, readonly [number, number]>> = {
  text: [0.4, 0.14],
  line: [0.3, 0.002],
  arrow: [0.3, 0.002],
  box: [0.2, 0.2],
  ellipse: [0.2, 0.2],
  callout: [0.28, 0.16],
}

const plain = (id: ObjectId, form: ObjectForm, box: Rect): SlideObject => ({
  id,
  form,
  box,
  turn: 0,
  colour: form.kind === 'text' ? 'text' : 'mark',
  opacity: 1,
  locked: false,
  group: null,
})

/** An object as it is put on a slide. @param at its middle, in fractions of the slide */
export function newObject(id: ObjectId, kind: PlainKind, at: Point): SlideObject {
  const [w, h] = SIZES[kind]
  return plain(id, formOf(kind), { x: at.x - w / 2, y: at.y - h / 2, w, h })
}

/** A picture as it is put on a slide of some shape, in its own. */
export function newPicture(id: ObjectId, form: Extract<ObjectForm, { kind: 'picture' }>, at: Point, shape: Size): SlideObject {
  const aspect = (form.size.width / form.size.height) * (shape.height / shape.width)
  const h = Math.min(0.4, 0.5 / aspect)
  const w = h * aspect
  return plain(id, form, { x: at.x - w / 2, y: at.y - h / 2, w, h })
}

/** Least extent of what was drawn by hand, in fractions of the slide: a dot has one too. */
const LEAST = 0.01

/** A line drawn by hand. @param points where it went, in fractions of the slide; one at least */
export function newFreehand(id: ObjectId, points: readonly Point[]): SlideObject {
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)]
  const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity)
  const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity)
  const box = { x: least(xs), y: least(ys), w: Math.max(LEAST, most(xs) - least(xs)), h: Math.max(LEAST, most(ys) - least(ys)) }
  const inside = points.map(({ x, y }) => ({ x: (x - box.x) / box.w, y: (y - box.y) / box.h }))
  return plain(id, { kind: 'freehand', points: inside, breadth: BREADTH.usual }, box)
}
