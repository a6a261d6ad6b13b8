import { DOMParser, XMLSerializer } from '@xmldom/xmldom'
import type { Document, Element, Node } from '@xmldom/xmldom'
import { Refusal } from '@core/model'

export type { Document, Element }

/**
 * Reads XML. Entities of its own are not expanded, and nothing that it names is opened.
 * @throws Refusal `unreadable` when it is not well-formed
 */
export function parseXml(text: string): Document {
  const broken = (): Refusal =>
    new Refusal('unreadable', 'This office file is damaged: a part of it cannot be read. Save it again and bring that.')
  // Documents of office files have no document type (ISO/IEC 29500-2, 9.1); one that brings entities is no office file.
  if (/<!DOCTYPE/i.test(text.slice(0, 4096))) throw broken()
  try {
    const parser = new DOMParser({
      onError: (level) => {
        if (level !== 'warning') throw broken()
      },
    })
    return parser.parseFromString(text.replace(/^\uFEFF/, ''), 'text/xml')
  } catch (error) {
    throw error instanceof Refusal ? error : broken()
  }
}

export const serialised = (document: Document): string => new XMLSerializer().serializeToString(document)

const isElement = (node: Node | null): node is Element => node?.nodeType === 1

/** Elements right inside another, of a local name if one is given: prefixes and versions of a namespace do not matter. */
export function childrenOf(element: Element | Document, name?: string): readonly Element[] {
  const found: Element[] = []
  for (let node = element.firstChild; node !== null; node = node.nextSibling) {
    if (isElement(node) && (name === undefined || node.localName === name)) found.push(node)
  }
  return found
}

/** The first element down a path of local names. */
export function childOf(element: Element | Document, ...path: readonly string[]): Element | null {
  let at: Element | Document = element
  for (const name of path) {
    const next: Element | undefined = childrenOf(at, name)[0]
    if (next === undefined) return null
    at = next
  }
  return isElement(at) ? at : null
}

/** All elements inside another, at any depth and in document order, of a local name if one is given. */
export function* within(element: Element | Document, name?: string): Generator<Element> {
  for (const child of childrenOf(element)) {
    if (name === undefined || child.localName === name) yield child
    yield* within(child, name)
  }
}

/** An attribute by its local name, whatever its prefix; null when it has none. */
export function attribute(element: Element, name: string): string | null {
  for (let n = 0; n < element.attributes.length; n += 1) {
    const one = element.attributes.item(n)
    if (one !== null && (one.localName ?? one.name) === name) return one.value
  }
  return null
}

/** An attribute of the relationships' namespace, such as `r:id`, told from one of the same local name without a prefix. */
export function relationOf(element: Element, name: string): string | null {
  for (let n = 0; n < element.attributes.length; n += 1) {
    const one = element.attributes.item(n)
    if (one?.localName === name && one.namespaceURI?.endsWith('/relationships') === true) return one.value
  }
  return null
}

/** Takes an element out of its document. */
export function removeElement(element: Element): void {
  element.parentNode?.removeChild(element)
}

/** The element that all of a document is in. */
export function rootOf(document: Document): Element {
  const root = document.documentElement
  if (root === null) throw new Error('a document has a root')
  return root
}
