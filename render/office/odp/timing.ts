import type { OfficeEffect, OfficeTimeline } from '@core/office'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Element } from '../xml'

/** What is found beside the effects that steps have. */
export type TimingFinding = 'effect' | 'trigger' | 'parts' | 'delay'

/** What comes by itself within this is not told as coming later, in ms. */
const SOON = 1500
/** An effect longer than this is seen to come, in ms. */
const AT_ONCE = 50

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
function actionOf(behaviour: Element): { readonly does: OfficeEffect['does']; readonly path: string } | null {
  switch (behaviour.localName) {
    case 'animateMotion':
      return { does: 'move', path: attribute(behaviour, 'path') ?? '' }
    case 'command':
    case 'audio':
      return { does: 'play', path: '' }
    case 'set':
      if (attribute(behaviour, 'attributeName') !== 'visibility') return null
      return { does: attribute(behaviour, 'to') === 'hidden' ? 'leave' : 'enter', path: '' }
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
  const behaviours = [...behavioursIn(effect, '')]
  const actions = behaviours.map(({ behaviour }) => actionOf(behaviour))
  const soft = behaviours.some(({ behaviour }) => behaviour.localName !== 'set' && milliseconds(attribute(behaviour, 'dur')) > AT_ONCE)
  const effects = behaviours.flatMap(({ behaviour, target }, n): readonly OfficeEffect[] => {
    const action = actions[n] ?? null
    if (action === null || target === '') return []
    return [{ target: keyOf(target, behaviour, found), soft, duration: milliseconds(attribute(behaviour, 'dur')), ...action }]
  })
  const comes = effects.some(({ does }) => does === 'enter' || does === 'leave')
  if (actions.includes(null) && !comes) found.add('effect')
  return effects
}

/** Effects of a click, in order: elements that have a kind of beginning. */
function* effectsIn(group: Element, delay: number): Generator<{ readonly effect: Element; readonly delay: number }> {
  for (const child of childrenOf(group)) {
    const at = delay + milliseconds(attribute(child, 'begin'))
    if (['on-click', 'with-previous', 'after-previous'].includes(attribute(child, 'node-type') ?? '')) yield { effect: child, delay: at }
    else yield* effectsIn(child, at)
  }
}

/** Reads what moves on a page of a deck in OpenDocument, click by click. */
export function timingOf(page: Element): { readonly timeline: OfficeTimeline; readonly found: ReadonlySet<TimingFinding> } {
  const found = new Set<TimingFinding>()
  const opening: OfficeEffect[] = []
  const clicks: OfficeEffect[][] = []
  for (const sequence of within(page, 'seq')) {
    const kind = attribute(sequence, 'node-type')
    if (kind === 'interactive-sequence') found.add('trigger')
    if (kind !== 'main-sequence') continue
    for (const group of childrenOf(sequence)) {
      const effects = [...effectsIn(group, 0)]
      if (effects.some(({ delay }) => delay > SOON)) found.add('delay')
      const begins = effects[0] === undefined ? 'on-click' : attribute(effects[0].effect, 'node-type')
      const read = effects.flatMap(({ effect }) => readEffect(effect, found))
      if (begins === 'on-click') clicks.push(read)
      else (clicks.at(-1) ?? opening).push(...read)
    }
  }
  return { timeline: { opening, clicks }, found }
}
