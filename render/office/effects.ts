import type { Ms } from '@core/model'
import type { EffectTarget, OfficeEffect, OfficeTimeline } from '@core/office'

/** What is found beside the effects that steps have. */
export type TimingFinding = 'effect' | 'trigger' | 'parts' | 'delay'

/** What moves on a slide, click by click, and what else was found there. */
export interface SlideTiming {
  readonly timeline: OfficeTimeline
  readonly found: ReadonlySet<TimingFinding>
}

/** What a part of an effect does to its targets; null: it changes how they look. */
export type Action = Pick<OfficeEffect, 'does' | 'path'> | null

/** Brings something, or takes it away. @param to what its visibility is set to */
export const visibilityAction = (to: string | null): Action => ({ does: to === 'hidden' ? 'leave' : 'enter', path: '' })

/** A part of an effect. */
export interface Behaviour {
  readonly targets: readonly EffectTarget[]
  readonly action: Action
  readonly duration: Ms
  /** It sets something at once, whatever it says of its duration. */
  readonly sets: boolean
}

/** What begins with a click, or follows what began before. */
export interface EffectGroup {
  readonly byClick: boolean
  /** How long after its beginning each of its effects begins. */
  readonly delays: readonly Ms[]
  readonly effects: readonly OfficeEffect[]
}

/** What comes by itself within this is not told as coming later. */
const SOON: Ms = 1500
/** An effect longer than this is seen to come. */
const AT_ONCE: Ms = 50

/** What the parts of one effect do. */
export function effectsOf(behaviours: readonly Behaviour[], found: Set<TimingFinding>): readonly OfficeEffect[] {
  const soft = behaviours.some(({ sets, duration }) => !sets && duration > AT_ONCE)
  const effects = behaviours.flatMap(({ targets, action, duration }): readonly OfficeEffect[] =>
    action === null ? [] : targets.map((target) => ({ target, soft, duration, ...action })),
  )
  // What changes how something looks while it comes or goes is how it comes or goes.
  const comes = effects.some(({ does }) => does === 'enter' || does === 'leave')
  if (!comes && behaviours.some(({ action }) => action === null)) found.add('effect')
  return effects
}

/** What each click does, with what follows it by itself; what begins before the first of them is `opening`. */
export function timelineOf(groups: Iterable<EffectGroup>, found: Set<TimingFinding>): OfficeTimeline {
  const opening: OfficeEffect[] = []
  const clicks: OfficeEffect[][] = []
  for (const { byClick, delays, effects } of groups) {
    if (delays.some((delay) => delay > SOON)) found.add('delay')
    if (byClick) clicks.push([...effects])
    else (clicks.at(-1) ?? opening).push(...effects)
  }
  return { opening, clicks }
}
