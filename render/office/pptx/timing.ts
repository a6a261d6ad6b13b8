import type { OfficeEffect, OfficeTimeline } from '@core/office'
import { effectsOf, timelineOf, visibilityAction } from '../effects'
import type { Action, Behaviour, EffectGroup, SlideTiming, TimingFinding } from '../effects'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'

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

/** What one behaviour does; null: it changes how something looks. */
function actionOf(behaviour: Element): Action {
  switch (behaviour.localName) {
    case 'animMotion':
      return { does: 'move', path: attribute(behaviour, 'path') ?? '' }
    case 'cmd':
      return { does: 'play', path: '' }
    case 'set': {
      const property = childOf(behaviour, 'cBhvr', 'attrNameLst', 'attrName')?.textContent
      if (property !== 'style.visibility') return null
      const to = childOf(behaviour, 'to', 'strVal')
      return visibilityAction(to === null ? null : attribute(to, 'val'))
    }
    default:
      return null
  }
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
  const behaviours = (children === null ? [] : childrenOf(children)).flatMap((behaviour): readonly Behaviour[] => {
    const common = BEHAVIOURS.has(behaviour.localName ?? '') ? childOf(behaviour, 'cBhvr') : null
    const target = common === null ? null : childOf(common, 'tgtEl')
    const targets = target === null ? null : keysOf(target, () => found.add('parts'))
    const time = common === null ? null : childOf(common, 'cTn')
    const duration = time === null ? 0 : milliseconds(attribute(time, 'dur'))
    return targets === null ? [] : [{ targets, action: actionOf(behaviour), duration, sets: behaviour.localName === 'set' }]
  })
  return effectsOf(behaviours, found)
}

/** What begins with each click, or after it, in order. */
function* groupsIn(sequence: Element, found: Set<TimingFinding>): Generator<EffectGroup> {
  for (const group of childrenOf(childOf(sequence, 'childTnLst') ?? sequence)) {
    const node = childOf(group, 'cTn')
    if (node === null) continue
    const nodes = [...effectNodes(node, 0)]
    const conditions = childOf(node, 'stCondLst')
    const byItself = conditions !== null && childrenOf(conditions).some((one) => attribute(one, 'evt') === 'onBegin')
    const begins = nodes[0] === undefined ? null : attribute(nodes[0].node, 'nodeType')
    yield {
      byClick: !byItself && begins !== 'withEffect' && begins !== 'afterEffect',
      delays: nodes.map(({ delay }) => delay),
      effects: nodes.flatMap((one) => readEffect(one.node, found)),
    }
  }
}

/** Reads what moves on a slide, click by click. */
export function timingOf(slide: Document): SlideTiming {
  const found = new Set<TimingFinding>()
  let timeline: OfficeTimeline = { opening: [], clicks: [] }
  const timing = childOf(slide, 'sld', 'timing')
  for (const sequence of timing === null ? [] : within(timing, 'cTn')) {
    const kind = attribute(sequence, 'nodeType')
    if (kind === 'mainSeq') timeline = timelineOf(groupsIn(sequence, found), found)
    if (kind !== 'interactiveSeq') continue
    const effects = [...effectNodes(sequence, 0)].flatMap(({ node }) => readEffect(node, new Set()))
    if (effects.some(({ does }) => does !== 'play')) found.add('trigger')
  }
  return { timeline, found }
}
