import type { Size } from '@core/model'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'
import { centimetres } from './lengths'

const STYLE = 'urn:oasis:names:tc:opendocument:xmlns:style:1.0'
const TEXT = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0'
const LOEXT = 'urn:org:documentfoundation:names:experimental:office:xmlns:loext:1.0'
/** As wide as a bullet, and not seen. */
const NO_BREAK_SPACE = '\u00A0'

/** The automatic styles of a document's content, where new ones are put. */
export class ContentStyles {
  readonly #document: Document
  readonly #holder: Element
  readonly #named = new Map<string, Element>()
  readonly #clear = new Map<string, string>()

  constructor(document: Document) {
    const root = childOf(document, 'document-content')
    const holder = root === null ? null : childOf(root, 'automatic-styles')
    if (root === null || holder === null) throw new Error('content of an OpenDocument file has automatic styles')
    this.#document = document
    this.#holder = holder
    for (const style of childrenOf(holder)) this.#named.set(attribute(style, 'name') ?? '', style)
  }

  named(name: string | null): Element | null {
    return name === null ? null : (this.#named.get(name) ?? null)
  }

  /** Properties of the kind `drawing-page` that a page has. */
  ofPage(page: Element): Element | null {
    const style = this.named(attribute(page, 'style-name'))
    return style === null ? null : childOf(style, 'drawing-page-properties')
  }

  /** A style of letters like another, of which nothing is seen. @param name empty: like that of the paragraph */
  clearLetters(name: string): string {
    return this.#made(`letters ${name}`, () => {
      const style = this.named(name)?.cloneNode(true) as Element | undefined
      const made = style ?? this.#element(STYLE, 'style:style')
      made.setAttributeNS(STYLE, 'style:family', 'text')
      const properties = childOf(made, 'text-properties') ?? this.#added(made, STYLE, 'style:text-properties')
      properties.setAttributeNS(LOEXT, 'loext:opacity', '0%')
      for (const gone of ['style:text-underline-style', 'style:text-line-through-style']) properties.setAttributeNS(STYLE, gone, 'none')
      return made
    })
  }

  /** A style of lists like another, whose bullets take their room and are not seen. */
  clearList(name: string): string {
    return this.#made(`list ${name}`, () => {
      const made = (this.named(name)?.cloneNode(true) as Element | undefined) ?? this.#element(TEXT, 'text:list-style')
      for (const level of childrenOf(made)) {
        const bullet = this.#element(TEXT, 'text:list-level-style-bullet')
        bullet.setAttributeNS(TEXT, 'text:level', attribute(level, 'level') ?? '1')
        bullet.setAttributeNS(TEXT, 'text:bullet-char', NO_BREAK_SPACE)
        for (const child of childrenOf(level)) bullet.appendChild(child)
        made.replaceChild(bullet, level)
      }
      return made
    })
  }

  /** A style of letters in a font. */
  letters(font: string): string {
    return this.#made(`font ${font}`, () => {
      const made = this.#element(STYLE, 'style:style')
      made.setAttributeNS(STYLE, 'style:family', 'text')
      const properties = this.#added(made, STYLE, 'style:text-properties')
      properties.setAttributeNS(
        'urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0',
        'fo:font-family',
        `'${font.replaceAll("'", '')}'`,
      )
      return made
    })
  }

  #element(namespace: string, name: string): Element {
    return this.#document.createElementNS(namespace, name)
  }

  #added(parent: Element, namespace: string, name: string): Element {
    const made = this.#element(namespace, name)
    parent.appendChild(made)
    return made
  }

  #made(key: string, make: () => Element): string {
    const known = this.#clear.get(key)
    if (known !== undefined) return known
    const name = `still${String(this.#clear.size)}`
    const made = make()
    made.setAttributeNS(STYLE, 'style:name', name)
    this.#holder.appendChild(made)
    this.#clear.set(key, name)
    return name
  }
}

/** Size of a deck's pages, in cm. */
export function pageSizeOf(styles: Document): Size {
  for (const master of within(styles, 'master-page')) {
    const layout = [...within(styles, 'page-layout')].find((one) => attribute(one, 'name') === attribute(master, 'page-layout-name'))
    const properties = layout === undefined ? null : childOf(layout, 'page-layout-properties')
    if (properties === null) continue
    const size = { width: centimetres(attribute(properties, 'page-width')), height: centimetres(attribute(properties, 'page-height')) }
    if (size.width > 0 && size.height > 0) return size
  }
  return { width: 28, height: 15.75 }
}

/** Families of fonts that styles ask for. */
export function* fontsOf(document: Document): Generator<string> {
  const families = new Map(
    [...within(document, 'font-face')].map((face) => [
      attribute(face, 'name'),
      (attribute(face, 'font-family') ?? '').replace(/^'|'$/g, ''),
    ]),
  )
  for (const properties of within(document, 'text-properties')) {
    const family = families.get(attribute(properties, 'font-name'))
    if (family !== undefined) yield family
  }
}
