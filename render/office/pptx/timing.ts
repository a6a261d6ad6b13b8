import type { OfficeEffect, OfficeTimeline } from '@core/office'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'

/** What is found beside the effects that steps have. */
export type TimingFinding = 'effect' | 'trigger' | 'parts' | 'delay'

export interface SlideTiming {
  readonly timeline: OfficeTimeline
  readonly found: ReadonlySet<TimingFinding>
}

/** What comes by itself within this is not told as coming later, in ms. */
const SOON = 1500
/** An effect longer than this is seen to come, in ms. */
const AT_ONCE = 50

/** Key of a shape. */
export const wholeShape = (id: string): string => id
/** Key of a paragraph of a shape, counted from 0. */
export const paragraphOf = (id: string, paragraph: number): string => `${id}#${String(paragraph)}`
/** Key of what is behind a shape's text. */
export const groundOf = (id: string): string => `${id}#ground`

/** Keys that a target stands for; null for one that has no shape. @param inParts is called for a part of a chart, drawing or text */
function keysOf(target: Element, inParts: () => void): readonly string[] | null {
  const shape = childOf(target, 'spTgt')
  if (shape === null) return null
  const id = attribute(shape, 'spid') ?? ''
  const [inside] = childrenOf(shape)
  switch (inside?.localName) {
    case undefined:
      return [wholeShape(id)]
    case 'bg':
      return [groundOf(id)]
    case 'txEl': {
      const range = childOf(inside, 'pRg')
      if (range === null) {
        inParts()
        return []
      }
      const [from, to] = [Number(attribute(range, 'st')), Number(attribute(range, 'end'))]
      if (!(from >= 0 && to >= from && to < 5000)) return []
      return Array.from({ length: to - from + 1 }, (_, n) => paragraphOf(id, from + n))
    }
    default:
      // A chart, a diagram or a part of an object: what is seen of it first brings all of it.
      inParts()
      return [wholeShape(id)]
  }
}

const milliseconds = (value: string | null): number => {
  const length = value === null || value === 'indefinite' ? 0 : Number(value)
  return Number.isFinite(length) ? Math.min(3_600_000, Math.max(0, Math.round(length))) : 0
}

const delayOf = (node: Element): number =>
  milliseconds(childrenOf(childOf(node, 'stCondLst') ?? node, 'cond').map((one) => attribute(one, 'delay'))[0] ?? null)

/** Elements that do something to a target (ISO/IEC 29500-1, 19.5). */
const BEHAVIOURS: ReadonlySet<string> = new Set(['set', 'anim', 'animClr', 'animEffect', 'animMotion', 'animRot', 'animScale', 'cmd'])

interface EffectParts {
  readonly keys: readonly string[]
  readonly behaviour: Element
  readonly duration: number
}

/** What one behaviour does; null: it changes how something looks. */
function actionOf(behaviour: Element): { readonly does: OfficeEffect['does']; readonly path: string } | null {
  switch (behaviour.localName) {
    case 'animMotion':
      return { does: 'move', path: attribute(behaviour, 'path') ?? '' }
    case 'cmd':
      return { does: 'play', path: '' }
    case 'set': {
      const property = childOf(behaviour, 'cBhvr', 'attrNameLst', 'attrName')?.textContent
      if (property !== 'style.visibility') return null
      const to = childOf(behaviour, 'to', 'strVal')
      return { does: to !== null && attribute(to, 'val') === 'hidden' ? 'leave' : 'enter', path: '' }
    }
    default:
      return null
  }
}

/** What the behaviours of one effect do. */
function effectsIn(parts: readonly EffectParts[], inOtherWays: () => void): readonly OfficeEffect[] {
  const soft = parts.some(({ behaviour, duration }) => behaviour.localName !== 'set' && duration > AT_ONCE)
  const actions = parts.map(({ behaviour }) => actionOf(behaviour))
  const effects = parts.flatMap(({ keys, duration }, n): readonly OfficeEffect[] => {
    const action = actions[n] ?? null
    return action === null ? [] : keys.map((target) => ({ target, soft, duration, ...action }))
  })
  // What changes how something looks while it comes or goes is how it comes or goes.
  const comes = effects.some(({ does }) => does === 'enter' || does === 'leave')
  if (actions.includes(null) && !comes) inOtherWays()
  return effects
}

/** Time nodes that are effects, in order: those with behaviours right inside. */
function* effectNodes(node: Element, delay: number): Generator<{ readonly node: Element; readonly delay: number }> {
  const children = childOf(node, 'childTnLst')
  const at = delay + delayOf(node)
  if (children === null) return
  if (childrenOf(children).some((child) => BEHAVIOURS.has(child.localName ?? ''))) yield { node, delay: at }
  for (const child of childrenOf(children)) {
    const inner = childOf(child, 'cTn')
    if (inner !== null && !BEHAVIOURS.has(child.localName ?? '')) yield* effectNodes(inner, at)
  }
}

function readEffect(node: Element, found: Set<TimingFinding>): readonly OfficeEffect[] {
  const children = childOf(node, 'childTnLst')
  if (childOf(node, 'iterate') !== null) found.add('parts')
  const parts = (children === null ? [] : childrenOf(children)).flatMap((behaviour): readonly EffectParts[] => {
    const common = BEHAVIOURS.has(behaviour.localName ?? '') ? childOf(behaviour, 'cBhvr') : null
    const target = common === null ? null : childOf(common, 'tgtEl')
    const keys = target === null ? null : keysOf(target, () => found.add('parts'))
    const time = common === null ? null : childOf(common, 'cTn')
    return keys === null ? [] : [{ keys, behaviour, duration: time === null ? 0 : milliseconds(attribute(time, 'dur')) }]
  })
  return effectsIn(parts, () => found.add('effect'))
}

/** What the presenter's clicks do, in order; what begins by itself before the first of them is `opening`. */
function mainSequence(sequence: Element, found: Set<TimingFinding>): OfficeTimeline {
  const opening: OfficeEffect[] = []
  const clicks: OfficeEffect[][] = []
  for (const group of childrenOf(childOf(sequence, 'childTnLst') ?? sequence)) {
    const node = childOf(group, 'cTn')
    if (node === null) continue
    const nodes = [...effectNodes(node, 0)]
    const conditions = childOf(node, 'stCondLst')
    const byItself = conditions !== null && childrenOf(conditions).some((one) => attribute(one, 'evt') === 'onBegin')
    const begins = nodes[0] === undefined ? null : attribute(nodes[0].node, 'nodeType')
    if (nodes.some(({ delay }) => delay > SOON)) found.add('delay')
    const effects = nodes.flatMap((one) => readEffect(one.node, found))
    if (!byItself && begins !== 'withEffect' && begins !== 'afterEffect') clicks.push(effects)
    else (clicks.at(-1) ?? opening).push(...effects)
  }
  return { opening, clicks }
}

/** Reads what moves on a slide, click by click. */
export function timingOf(slide: Document): SlideTiming {
  const found = new Set<TimingFinding>()
  let timeline: OfficeTimeline = { opening: [], clicks: [] }
  const timing = childOf(slide, 'sld', 'timing')
  for (const sequence of timing === null ? [] : within(timing, 'cTn')) {
    const kind = attribute(sequence, 'nodeType')
    if (kind === 'mainSeq') timeline = mainSequence(sequence, found)
    if (kind !== 'interactiveSeq') continue
    const effects = [...effectNodes(sequence, 0)].flatMap(({ node }) => readEffect(node, new Set()))
    if (effects.some(({ does }) => does !== 'play')) found.add('trigger')
  }
  return { timeline, found }
}
