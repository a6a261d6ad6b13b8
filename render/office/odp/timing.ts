import type { OfficeEffect, OfficeTimeline } from '@core/office'
import { effectsOf, timelineOf, visibilityAction } from '../effects'
import type { Action, Behaviour, EffectGroup, SlideTiming, TimingFinding } from '../effects'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Element } from '../xml'

/** Key of the text of a shape, without what is behind it. */
export const textOf = (id: string): string => `${id}#text`

/** Milliseconds of a clock value (SMIL 3.0, 5.4.3) as office files write them; 0 for any other. */
function milliseconds(value: string | null): number {
  const [, number, unit] = /^(\d+(?:\.\d+)?)(h|min|s|ms)?$/.exec(value ?? '') ?? []
  const each = { h: 3_600_000, min: 60_000, s: 1000, ms: 1 }[unit ?? 's'] ?? 1000
  return number === undefined ? 0 : Math.min(3_600_000, Math.round(Number(number) * each))
}

/** Elements that do something to a target (OpenDocument 1.3, part 3, 15.2 to 15.5). */
const BEHAVIOURS: ReadonlySet<string> = new Set([
  ...['set', 'animate', 'animateColor', 'animateMotion', 'animateTransform', 'transitionFilter', 'command', 'audio'],
])

/** What one behaviour does; null: it changes how something looks. */
function actionOf(behaviour: Element): Action {
  switch (behaviour.localName) {
    case 'animateMotion':
      return { does: 'move', path: attribute(behaviour, 'path') ?? '' }
    case 'command':
    case 'audio':
      return { does: 'play', path: '' }
    case 'set':
      if (attribute(behaviour, 'attributeName') !== 'visibility') return null
      return visibilityAction(attribute(behaviour, 'to'))
    default:
      return null
  }
}

function keyOf(target: string, behaviour: Element, found: Set<TimingFinding>): string {
  const part = attribute(behaviour, 'sub-item')
  if (part === 'text') return textOf(target)
  if (part === 'background') found.add('parts')
  return target
}

/** Behaviours inside an effect, with what is a target for all of them. */
function* behavioursIn(effect: Element, target: string): Generator<{ readonly behaviour: Element; readonly target: string }> {
  for (const child of childrenOf(effect)) {
    const own = attribute(child, 'targetElement') ?? target
    if (BEHAVIOURS.has(child.localName ?? '')) yield { behaviour: child, target: own }
    else if (child.localName === 'iterate') yield* behavioursIn(child, own)
  }
}

function readEffect(effect: Element, found: Set<TimingFinding>): readonly OfficeEffect[] {
  if (childOf(effect, 'iterate') !== null) found.add('parts')
  const behaviours = [...behavioursIn(effect, '')].map(({ behaviour, target }): Behaviour => {
    const action = actionOf(behaviour)
    return {
      targets: action === null || target === '' ? [] : [keyOf(target, behaviour, found)],
      action,
      duration: milliseconds(attribute(behaviour, 'dur')),
      sets: behaviour.localName === 'set',
    }
  })
  return effectsOf(behaviours, found)
}

/** Effects of a click, in order: elements that have a kind of beginning. */
function* effectsIn(group: Element, delay: number): Generator<{ readonly effect: Element; readonly delay: number }> {
  for (const child of childrenOf(group)) {
    const at = delay + milliseconds(attribute(child, 'begin'))
    if (['on-click', 'with-previous', 'after-previous'].includes(attribute(child, 'node-type') ?? '')) yield { effect: child, delay: at }
    else yield* effectsIn(child, at)
  }
}

/** What begins with each click, or after it, in order. */
function* groupsIn(sequence: Element, found: Set<TimingFinding>): Generator<EffectGroup> {
  for (const group of childrenOf(sequence)) {
    const effects = [...effectsIn(group, 0)]
    yield {
      byClick: effects[0] === undefined || attribute(effects[0].effect, 'node-type') === 'on-click',
      delays: effects.map(({ delay }) => delay),
      effects: effects.flatMap(({ effect }) => readEffect(effect, found)),
    }
  }
}

/** Reads what moves on a page of a deck in OpenDocument, click by click. */
export function timingOf(page: Element): SlideTiming {
  const found = new Set<TimingFinding>()
  let timeline: OfficeTimeline = { opening: [], clicks: [] }
  for (const sequence of within(page, 'seq')) {
    const kind = attribute(sequence, 'node-type')
    if (kind === 'interactive-sequence') found.add('trigger')
    if (kind === 'main-sequence') timeline = timelineOf(groupsIn(sequence, found), found)
  }
  return { timeline, found }
}
