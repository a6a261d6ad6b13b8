import { attribute, childOf, childrenOf } from '../xml'
import type { Document, Element } from '../xml'
import { frameOf, placeholderOf, shapesOf } from './shapes'

/** The layout and the master that a slide is made by. */
export interface Templates {
  readonly layout: Document | null
  readonly master: Document | null
}

/** Kinds of placeholders that a master has under another name. */
const MASTER_KIND: Readonly<Record<string, string>> = { ctrTitle: 'title', subTitle: 'body', obj: 'body', '': 'body' }

const kindOf = (placeholder: Element): string => attribute(placeholder, 'type') ?? ''

/** The shapes of layout and master that a placeholder takes over from, the nearest first (ISO/IEC 29500-1, 19.3.1.36). */
export function templatesOf(shape: Element, { layout, master }: Templates): readonly Element[] {
  const placeholder = placeholderOf(shape)
  if (placeholder === null) return []
  const [kind, index] = [kindOf(placeholder), attribute(placeholder, 'idx') ?? '0']
  const placeholders = (document: Document | null): readonly (readonly [Element, Element])[] =>
    document === null
      ? []
      : [...shapesOf(document)].flatMap((one) => {
          const own = placeholderOf(one)
          return own === null ? [] : [[one, own] as const]
        })
  const inLayout =
    placeholders(layout).find(([, own]) => (attribute(own, 'idx') ?? '0') === index && index !== '0') ??
    placeholders(layout).find(([, own]) => kindOf(own) === kind)
  const masterKind = MASTER_KIND[kind] ?? kind
  const inMaster = placeholders(master).find(([, own]) => kindOf(own) === masterKind)
  return [inLayout, inMaster].flatMap((found) => (found === undefined ? [] : [found[0]]))
}

/** Place and size of a shape, its own or taken over. */
export function inheritedFrame(shape: Element, templates: Templates): Element | null {
  return [shape, ...templatesOf(shape, templates)].map(frameOf).find((frame) => frame !== null) ?? null
}

const BULLETS: ReadonlySet<string> = new Set(['buNone', 'buChar', 'buAutoNum', 'buBlip'])
const bulletIn = (properties: Element | null): string | null =>
  properties === null ? null : (childrenOf(properties).find((child) => BULLETS.has(child.localName ?? ''))?.localName ?? null)

/** Which of a master's text styles a placeholder has. */
const styleName = (shape: Element): string => {
  const placeholder = placeholderOf(shape)
  if (placeholder === null) return 'otherStyle'
  const kind = kindOf(placeholder)
  return kind === 'title' || kind === 'ctrTitle' ? 'titleStyle' : 'bodyStyle'
}

/** Whether a paragraph has a bullet or a number, its own or taken over (ISO/IEC 29500-1, 21.1.2.4). */
export function hasBullet(paragraph: Element, shape: Element, templates: Templates): boolean {
  const properties = childOf(paragraph, 'pPr')
  const level = `lvl${String(Number(properties === null ? 0 : (attribute(properties, 'lvl') ?? 0)) + 1)}pPr`
  const lists = [shape, ...templatesOf(shape, templates)].map((one) => childOf(one, 'txBody', 'lstStyle', level))
  const master = templates.master === null ? null : childOf(templates.master, 'sldMaster', 'txStyles', styleName(shape), level)
  const bullet = [properties, ...lists, master].map(bulletIn).find((one) => one !== null)
  return bullet !== undefined && bullet !== null && bullet !== 'buNone'
}
