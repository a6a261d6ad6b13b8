import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'

/** Elements of a shape tree that are shapes (ISO/IEC 29500-1, 19.3.1.45). */
const SHAPES: ReadonlySet<string> = new Set(['sp', 'pic', 'grpSp', 'graphicFrame', 'cxnSp', 'contentPart'])

/** One of a shape's properties that are not seen. */
function notSeen(shape: Element, ...path: readonly string[]): Element | null {
  const holder = childrenOf(shape).find((child) => child.localName?.startsWith('nv') === true)
  return holder === undefined ? null : childOf(holder, ...path)
}

/** Where the id and the name of a shape stand. */
export const propertiesOf = (shape: Element): Element | null => notSeen(shape, 'cNvPr')

/** What a shape is besides what is seen of it: a placeholder, a film. */
export const roleOf = (shape: Element): Element | null => notSeen(shape, 'nvPr')

/** The placeholder that a shape is; null when it is none. */
export const placeholderOf = (shape: Element): Element | null => notSeen(shape, 'nvPr', 'ph')

/** What effects name a shape by; null when it has no name. */
export function shapeIdOf(shape: Element): string | null {
  const properties = propertiesOf(shape)
  return properties === null ? null : attribute(properties, 'id')
}

/** All shapes of a slide, layout or master, in reading order and inside groups too. */
export function* shapesOf(document: Document | Element): Generator<Element> {
  for (const element of within(document)) if (SHAPES.has(element.localName ?? '')) yield element
}

/** Shapes by the id that effects name them by; one that is written in two ways stands there twice. */
export function shapesById(document: Document): ReadonlyMap<string, readonly Element[]> {
  const found = new Map<string, Element[]>()
  for (const shape of shapesOf(document)) {
    const id = shapeIdOf(shape)
    if (id === null) continue
    const same = found.get(id)
    if (same === undefined) found.set(id, [shape])
    else same.push(shape)
  }
  return found
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
