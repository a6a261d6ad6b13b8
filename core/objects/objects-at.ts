import { unreachable } from '@core/model'
import type { Drawing, Ease, Entrance, MotionDeed, Ms, ObjectId, ObjectMotion, Point, Size, Slide, SlideObject, Theme } from '@core/model'
import { headingOn, placeOn, wayBy } from './path'
import type { Way } from './path'
import { motionsByStep } from './timeline'
import type { TimedMotion } from './timeline'

/** An object as it is seen at some moment. */
export interface ObjectScene {
  readonly object: SlideObject
  /** Of its colours. */
  readonly theme: Theme
  /** Its middle, in fractions of the slide. */
  readonly at: Point
  /** Clockwise, in degrees. */
  readonly turn: number
  /** For its own size. */
  readonly scale: number
  /** 0 to 1. */
  readonly opacity: number
  /** Whether it is being moved. */
  readonly moving: boolean
}

interface State {
  readonly there: boolean
  readonly by: Point
  readonly turn: number
  readonly scale: number
  readonly opacity: number
  /** How far it has come in, by growing and by fading. */
  readonly grown: number
  readonly faded: number
  readonly moving: boolean
}

/** @param share of its duration, 0 to 1 */
export function easedBy(ease: Ease, share: number): number {
  switch (ease) {
    case 'even':
      return share
    case 'calm':
      return share * share * (3 - 2 * share)
    case 'leaving':
      return share * share
    case 'arriving':
      return 1 - (1 - share) ** 2
    default:
      return unreachable(ease)
  }
}

const ways = new WeakMap<object, { readonly aspect: number; readonly way: Way }>()

/** The way of a motion along a path; made once for each. */
export function wayOf(path: Extract<MotionDeed, { kind: 'path' }>, shape: Size): Way {
  const aspect = shape.width / shape.height
  const known = ways.get(path)
  if (known?.aspect === aspect) return known.way
  const way = wayBy(path.points, path.line, shape)
  ways.set(path, { aspect, way })
  return way
}

const towards = (from: number, to: number, share: number): number => from + (to - from) * share

function comesIn(state: State, how: Entrance, share: number): State {
  switch (how) {
    case 'at-once':
      return { ...state, there: share > 0, grown: 1, faded: 1 }
    case 'fade':
      return { ...state, there: share > 0, grown: 1, faded: share }
    case 'grow':
      return { ...state, there: share > 0, grown: share, faded: 1 }
    default:
      return unreachable(how)
  }
}

/** What a motion has made of an object. @param share how far it has gone, eased @param begun whether it has begun */
function moved(state: State, does: MotionDeed, share: number, shape: Size): State {
  switch (does.kind) {
    case 'comes':
      return does.how === 'at-once' ? comesIn(state, does.how, 1) : comesIn(state, does.how, Math.max(share, Number.EPSILON))
    case 'goes':
      return does.how === 'at-once' ? { ...state, there: false } : comesIn(state, does.how, 1 - share)
    case 'path': {
      const way = wayOf(does, shape)
      const { x, y } = placeOn(way, share)
      const turn = does.turns ? headingOn(way, share, shape) - headingOn(way, 0, shape) : 0
      return { ...state, by: { x: state.by.x + x, y: state.by.y + y }, turn: state.turn + turn }
    }
    case 'grows':
      return { ...state, scale: towards(state.scale, does.to, share) }
    case 'fades':
      return { ...state, opacity: towards(state.opacity, does.to, share) }
    default:
      return unreachable(does)
  }
}

/** How far a motion has gone after so long, 0 to 1; null: it has not begun. */
function shareOf({ motion, from, to }: TimedMotion, elapsed: Ms): number | null {
  if (elapsed < from) return null
  return to <= from || elapsed >= to ? 1 : easedBy(motion.ease, (elapsed - from) / (to - from))
}

const bySubject = new WeakMap<readonly ObjectMotion[], ReadonlyMap<ObjectId, readonly TimedMotion[]>>()

/** The motions of each object, in the order in which they begin. */
function motionsByObject(drawing: Pick<Drawing, 'motions'>): ReadonlyMap<ObjectId, readonly TimedMotion[]> {
  const found = bySubject.get(drawing.motions)
  if (found !== undefined) return found
  const made = new Map<ObjectId, TimedMotion[]>()
  const steps = [...motionsByStep(drawing)].sort(([a], [b]) => a - b)
  for (const [, motions] of steps) {
    for (const one of motions.toSorted((a, b) => a.from - b.from)) {
      const there = made.get(one.motion.object)
      if (there === undefined) made.set(one.motion.object, [one])
      else there.push(one)
    }
  }
  bySubject.set(drawing.motions, made)
  return made
}

const NO_MOTIONS: readonly TimedMotion[] = []

/** @param elapsed since the step began, in ms; Infinity: all that moves in it has arrived */
function sceneOf(
  object: SlideObject,
  motions: readonly TimedMotion[],
  { step, elapsed, shape, theme }: { readonly step: number; readonly elapsed: Ms; readonly shape: Size; readonly theme: Theme },
): ObjectScene | null {
  const first = motions.find(({ motion }) => motion.does.kind === 'comes' || motion.does.kind === 'goes')
  let state: State = {
    there: first?.motion.does.kind !== 'comes',
    by: { x: 0, y: 0 },
    turn: object.turn,
    scale: 1,
    opacity: object.opacity,
    grown: 1,
    faded: 1,
    moving: false,
  }
  for (const timed of motions) {
    if (timed.motion.step > step) break
    const share = timed.motion.step < step ? 1 : shareOf(timed, elapsed)
    if (share === null) continue
    state = moved(state, timed.motion.does, share, shape)
    if (timed.motion.step === step && elapsed < timed.to) state = { ...state, moving: true }
  }
  if (!state.there) return null
  const { x, y, w, h } = object.box
  return {
    object,
    theme,
    at: { x: x + w / 2 + state.by.x, y: y + h / 2 + state.by.y },
    turn: state.turn,
    scale: state.scale * state.grown,
    opacity: state.opacity * state.faded,
    moving: state.moving,
  }
}

const NOTHING: readonly ObjectScene[] = []

/**
 * What is drawn on a slide as it is at a moment of a step, the lowest first; what is not there is left out.
 * @param elapsed since the step began, in ms; Infinity: all that moves in it has arrived
 * @param shape of the slide
 */
export function objectsAt(
  { drawing, composition }: Pick<Slide, 'drawing' | 'composition'>,
  step: number,
  elapsed: Ms,
  shape: Size,
): readonly ObjectScene[] {
  if (drawing === undefined || drawing.objects.length === 0) return NOTHING
  const motions = motionsByObject(drawing)
  const moment = { step, elapsed, shape, theme: composition?.theme ?? drawing.theme }
  return drawing.objects.flatMap((object) => sceneOf(object, motions.get(object.id) ?? NO_MOTIONS, moment) ?? [])
}
