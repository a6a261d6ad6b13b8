import type { Rect, Size } from '@core/model'
import type { ClickState } from '@core/office'
import { attribute, childrenOf, within } from '../xml'
import type { Element } from '../xml'
import { centimetres, inCentimetres } from './lengths'
import type { ContentStyles } from './styles'

const DRAW = 'urn:oasis:names:tc:opendocument:xmlns:drawing:1.0'
const TEXT = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0'
const SVG = 'urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0'

/** What an effect names an element by. */
export const idOf = (element: Element): string | null => attribute(element, 'id')

/** Elements of a page that effects can be about, by what they are named by. */
function elementsOf(page: Element): ReadonlyMap<string, Element> {
  const found = new Map<string, Element>()
  for (const element of within(page)) {
    const id = idOf(element)
    if (id !== null) found.set(id, element)
  }
  return found
}

const isText = (element: Element): boolean => element.localName === 'p' || element.localName === 'h'

/** The name of the style of the list that an element stands in; null outside of lists. */
function listStyleOf(element: Element): string | null {
  for (let parent = element.parentElement; parent !== null; parent = parent.parentElement) {
    const name = parent.localName === 'list' ? attribute(parent, 'style-name') : null
    if (name !== null) return name
  }
  return null
}

/** Puts an item of a list into a list of its own, between one of those before it and one of those after it. */
function clearBullet(item: Element, styles: ContentStyles): void {
  const list = item.parentElement
  const name = list?.localName === 'list' ? (attribute(list, 'style-name') ?? listStyleOf(list)) : null
  if (list === null || name === null || list.parentNode === null) return
  const [own, rest] = [list.cloneNode(false) as Element, list.cloneNode(false) as Element]
  own.setAttributeNS(TEXT, 'text:style-name', styles.clearList(name))
  const items = childrenOf(list)
  for (const one of items.slice(items.indexOf(item) + 1)) rest.appendChild(one)
  own.appendChild(item)
  list.parentNode.insertBefore(own, list.nextSibling)
  if (rest.firstChild !== null) list.parentNode.insertBefore(rest, own.nextSibling)
  if (childrenOf(list).length === 0) list.parentNode.removeChild(list)
}

/** Makes a paragraph take its room without being seen. */
function clearParagraph(paragraph: Element, styles: ContentStyles): void {
  for (const span of [...within(paragraph, 'span')]) {
    span.setAttributeNS(TEXT, 'text:style-name', styles.clearLetters(attribute(span, 'style-name') ?? ''))
  }
  // Words that stand in the paragraph itself get a span of their own.
  for (let node = paragraph.firstChild; node !== null; node = node.nextSibling) {
    if (node.nodeType !== 3) continue
    const span = paragraph.ownerDocument?.createElementNS(TEXT, 'text:span')
    if (span === undefined) continue
    span.setAttributeNS(TEXT, 'text:style-name', styles.clearLetters(''))
    paragraph.replaceChild(span, node)
    span.appendChild(node)
    node = span
  }
  const item = paragraph.parentElement
  if (item?.localName === 'list-item' && childrenOf(item)[0] === paragraph) clearBullet(item, styles)
}

function hide(element: Element, styles: ContentStyles): void {
  if (isText(element)) clearParagraph(element, styles)
  else element.setAttributeNS(DRAW, 'draw:display', 'none')
  // A group is shown by what is in it.
  if (element.localName === 'g') for (const child of childrenOf(element)) hide(child, styles)
}

/** @param by in cm */
function move(element: Element, by: { readonly x: number; readonly y: number }): void {
  if (element.localName === 'g') {
    for (const child of childrenOf(element)) move(child, by)
    return
  }
  for (const [names, far] of [
    [['x', 'x1', 'x2'], by.x],
    [['y', 'y1', 'y2'], by.y],
  ] as const) {
    for (const name of names) {
      const value = element.getAttributeNS(SVG, name)
      if (value !== null && value !== '') element.setAttributeNS(SVG, `svg:${name}`, inCentimetres(centimetres(value) + far))
    }
  }
  const transform = element.getAttributeNS(DRAW, 'transform')
  if (transform !== null && transform !== '')
    element.setAttributeNS(DRAW, 'draw:transform', `${transform} translate (${inCentimetres(by.x)} ${inCentimetres(by.y)})`)
}

/** Changes a page so that it shows what is seen after some of its clicks. @param size of the page, in cm */
export function showState(page: Element, { hidden, moved }: ClickState, size: Size, styles: ContentStyles): void {
  const elements = elementsOf(page)
  for (const key of hidden) {
    const [id = '', part] = key.split('#')
    const element = elements.get(id)
    if (element === undefined) continue
    if (part === undefined) hide(element, styles)
    else for (const paragraph of [...within(element)].filter(isText)) clearParagraph(paragraph, styles)
  }
  for (const [key, { x, y }] of moved) {
    const element = elements.get(key)
    if (element !== undefined && !isText(element)) move(element, { x: x * size.width, y: y * size.height })
  }
}

/** Where an element of a page stands, in fractions of it; null when nothing says so. */
export function boxOf(page: Element, id: string, size: Size): Rect | null {
  return frameBox(elementsOf(page).get(id) ?? null, size)
}

/** Where an element says that it stands, in fractions of its page; null when it does not. */
export function frameBox(element: Element | null, size: Size): Rect | null {
  if (element === null || attribute(element, 'width') === null) return null
  const [x, y, w, h] = ['x', 'y', 'width', 'height'].map((name) => centimetres(attribute(element, name)))
  return { x: (x ?? 0) / size.width, y: (y ?? 0) / size.height, w: (w ?? 0) / size.width, h: (h ?? 0) / size.height }
}
