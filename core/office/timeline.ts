import svgpath from 'svgpath'
import type { Ms } from '@core/model'

/**
 * What an effect of an office deck is about, by a key that its reader made: a shape, a paragraph of one, its text without its ground or
 * its ground without its text.
 */
export type EffectTarget = string

/** What an effect does to its target; what plays a film or a sound shows nothing new. */
export type EffectAction = 'enter' | 'leave' | 'move' | 'play'

/** One effect of a slide. */
export interface OfficeEffect {
  readonly target: EffectTarget
  readonly does: EffectAction
  /** It comes or goes over a while instead of at once. */
  readonly soft: boolean
  /** Of a `move`: its path as SVG path data, in fractions of the slide and relative to where the target stands. */
  readonly path: string
  readonly duration: Ms
}

/** What moves on a slide, in order. */
export interface OfficeTimeline {
  /** What happens by itself when the slide appears. */
  readonly opening: readonly OfficeEffect[]
  /** What each click does, all that follows it by itself included. */
  readonly clicks: readonly (readonly OfficeEffect[])[]
}

/** A way that something goes when a step begins. */
export interface OfficeMotion {
  readonly target: EffectTarget
  readonly path: string
  readonly duration: Ms
}

/** What is seen after some of the clicks. */
export interface ClickState {
  /** How many clicks have been made when it is first seen. */
  readonly clicks: number
  /** Targets that have not come yet, or have gone. */
  readonly hidden: ReadonlySet<EffectTarget>
  /** How far targets have gone, in fractions of the slide's width and height. */
  readonly moved: ReadonlyMap<EffectTarget, { readonly x: number; readonly y: number }>
  /** What has come since the state before came over a while. */
  readonly soft: boolean
  readonly motions: readonly OfficeMotion[]
}

/**
 * Where a path ends.
 * @param path SVG path data; PresentationML (ISO/IEC 29500-1, 19.5.3) writes an E where it ends
 * @returns how far from its beginning; nowhere for a path that cannot be read or comes back
 */
export function pathEnd(path: string): { readonly x: number; readonly y: number } {
  // What follows the path begins where it ends.
  const parsed = svgpath(`${path.replace(/\s*E\s*$/, '')} l 0 0`).abs()
  let start: { readonly x: number; readonly y: number } | null = null
  let end = { x: 0, y: 0 }
  parsed.iterate(([command, ...numbers], n, x, y) => {
    if (n === 0 && command === 'M') start = { x: Number(numbers[0]), y: Number(numbers[1]) }
    end = { x, y }
  })
  const { x, y } = start ?? end
  const [right, down] = [end.x - x, end.y - y]
  return Number.isFinite(right) && Number.isFinite(down) ? { x: right, y: down } : { x: 0, y: 0 }
}

const same = (a: ClickState, hidden: ReadonlySet<string>, moved: ClickState['moved']): boolean =>
  a.hidden.size === hidden.size &&
  [...hidden].every((target) => a.hidden.has(target)) &&
  a.moved.size === moved.size &&
  [...moved].every(([target, { x, y }]) => a.moved.get(target)?.x === x && a.moved.get(target)?.y === y)

/**
 * What a slide shows before its first click and after each. Clicks that change nothing that can be shown make no state.
 * @returns at least one state
 */
export function clickStates({ opening, clicks }: OfficeTimeline): readonly ClickState[] {
  const hidden = new Set<EffectTarget>()
  const moved = new Map<EffectTarget, { readonly x: number; readonly y: number }>()
  const seen = new Set<EffectTarget>()
  for (const { target, does } of [...opening, ...clicks.flat()]) {
    if ((does !== 'enter' && does !== 'leave') || seen.has(target)) continue
    seen.add(target)
    // What comes in has not been there before.
    if (does === 'enter') hidden.add(target)
  }
  const apply = (effects: readonly OfficeEffect[]): Pick<ClickState, 'soft' | 'motions'> => {
    let soft = false
    const motions: OfficeMotion[] = []
    for (const { target, does, path, duration, soft: over } of effects) {
      if (does === 'enter') hidden.delete(target)
      else if (does === 'leave') hidden.add(target)
      else if (does === 'move') {
        const [before, end] = [moved.get(target) ?? { x: 0, y: 0 }, pathEnd(path)]
        moved.set(target, { x: before.x + end.x, y: before.y + end.y })
        motions.push({ target, path, duration })
      }
      if ((does === 'enter' || does === 'leave') && over) soft = true
    }
    return { soft, motions }
  }
  const { motions } = apply(opening)
  const states: ClickState[] = [{ clicks: 0, hidden: new Set(hidden), moved: new Map(moved), soft: false, motions }]
  for (const [n, click] of clicks.entries()) {
    const { soft, motions: goes } = apply(click)
    const last = states.at(-1)
    if (last !== undefined && same(last, hidden, moved) && goes.length === 0) continue
    states.push({ clicks: n + 1, hidden: new Set(hidden), moved: new Map(moved), soft, motions: goes })
  }
  return states
}

/** Which state is seen after so many clicks. */
export const stateAfter = (states: readonly Pick<ClickState, 'clicks'>[], clicks: number): number =>
  Math.max(
    0,
    states.findLastIndex((state) => state.clicks <= clicks),
  )
