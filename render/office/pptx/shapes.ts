import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'

/** Elements of a shape tree that are shapes (ISO/IEC 29500-1, 19.3.1.45). */
const SHAPES: ReadonlySet<string> = new Set(['sp', 'pic', 'grpSp', 'graphicFrame', 'cxnSp', 'contentPart'])

/** Not-visual properties of a shape, where its id and name stand. */
export function propertiesOf(shape: Element): Element | null {
  const holder = childrenOf(shape).find((child) => child.localName?.startsWith('nv') === true)
  return holder === undefined ? null : childOf(holder, 'cNvPr')
}

/** All shapes of a slide, layout or master, in reading order and inside groups too. */
export function* shapesOf(document: Document | Element): Generator<Element> {
  for (const element of within(document)) if (SHAPES.has(element.localName ?? '')) yield element
}

/** Shapes by the id that effects name them by; one that is written in two ways stands there twice. */
export function shapesById(document: Document): ReadonlyMap<string, readonly Element[]> {
  const found = new Map<string, Element[]>()
  for (const shape of shapesOf(document)) {
    const properties = propertiesOf(shape)
    const id = properties === null ? null : attribute(properties, 'id')
    if (id === null) continue
    const same = found.get(id)
    if (same === undefined) found.set(id, [shape])
    else same.push(shape)
  }
  return found
}

/** The placeholder that a shape is; null when it is none. */
export function placeholderOf(shape: Element): Element | null {
  const holder = childrenOf(shape).find((child) => child.localName?.startsWith('nv') === true)
  return holder === undefined ? null : childOf(holder, 'nvPr', 'ph')
}

/** Paragraphs of a shape's text. */
export function paragraphsOf(shape: Element): readonly Element[] {
  const body = childOf(shape, 'txBody')
  return body === null ? [] : childrenOf(body, 'p')
}

/** What a paragraph says; a line break in it is one. */
export function wordsOf(paragraph: Element): string {
  let words = ''
  for (const child of childrenOf(paragraph)) {
    if (child.localName === 'r' || child.localName === 'fld') words += childOf(child, 't')?.textContent ?? ''
    else if (child.localName === 'br') words += '\n'
  }
  return words
}

/** Place and size of a shape in its parent's units, as it says itself; null where it takes them over from its layout. */
export function frameOf(shape: Element): Element | null {
  if (shape.localName === 'graphicFrame') return childOf(shape, 'xfrm')
  return childOf(shape, shape.localName === 'grpSp' ? 'grpSpPr' : 'spPr', 'xfrm')
}

/** A whole number that an attribute holds; 0 when it does not. */
export const numberIn = (element: Element | null, name: string): number => {
  const value = element === null ? Number.NaN : Number(attribute(element, name))
  return Number.isFinite(value) ? value : 0
}
