import type { Rect, Size } from '@core/model'
import type { ClickState } from '@core/office'
import { childOf } from '../xml'
import type { Document, Element } from '../xml'
import { clearGround, clearParagraph } from './clear-parts'
import { hasBullet, inheritedFrame } from './inherited'
import type { Templates } from './inherited'
import { frameOf, numberIn, paragraphsOf, propertiesOf, shapesById } from './shapes'

/** How many units of a shape's own coordinates one of the slide's is: groups have their own (ISO/IEC 29500-1, 20.1.7.6). */
function unitsIn(shape: Element): { readonly x: number; readonly y: number } {
  let [x, y] = [1, 1]
  let parent = shape.parentElement
  while (parent !== null) {
    const frame = parent.localName === 'grpSp' ? frameOf(parent) : null
    if (frame !== null) {
      const [outer, inner] = [childOf(frame, 'ext'), childOf(frame, 'chExt')]
      const [width, height] = [numberIn(outer, 'cx'), numberIn(outer, 'cy')]
      if (width > 0) x *= numberIn(inner, 'cx') / width
      if (height > 0) y *= numberIn(inner, 'cy') / height
    }
    parent = parent.parentElement
  }
  return { x, y }
}

/** Place and size of a shape as it says itself from now on, also where it stood as its layout says. */
function ownFrame(shape: Element, templates: Templates): Element | null {
  const own = frameOf(shape)
  if (own !== null) return own
  const inherited = inheritedFrame(shape, templates)
  const properties = childOf(shape, 'spPr')
  if (inherited === null || properties === null || shape.ownerDocument === null) return null
  const frame = shape.ownerDocument.importNode(inherited, true)
  properties.insertBefore(frame, properties.firstChild)
  return frame
}

/** Moves a shape. @param by in the slide's units */
function moveShape(shape: Element, by: { readonly x: number; readonly y: number }, templates: Templates): void {
  const frame = ownFrame(shape, templates)
  const offset = frame === null ? null : childOf(frame, 'off')
  if (offset === null) return
  const units = unitsIn(shape)
  offset.setAttribute('x', String(Math.round(numberIn(offset, 'x') + by.x * units.x)))
  offset.setAttribute('y', String(Math.round(numberIn(offset, 'y') + by.y * units.y)))
}

/** Takes a shape from sight where it stands: what is tied to it stays as it is. */
export function hideShape(shape: Element): void {
  propertiesOf(shape)?.setAttribute('hidden', '1')
}

/** Takes a shape, or a part of one, from sight. @param part which: left out, all of it */
function hide(shape: Element, part: string | undefined, templates: Templates): void {
  if (part === undefined) hideShape(shape)
  else if (part === 'ground') clearGround(shape)
  else {
    const paragraph = paragraphsOf(shape)[Number(part)]
    if (paragraph !== undefined) clearParagraph(paragraph, hasBullet(paragraph, shape, templates))
  }
}

/** Changes a slide so that it shows what is seen after some of its clicks. @param size of the slide, in its units */
export function showState(slide: Document, { hidden, moved }: ClickState, size: Size, templates: Templates): void {
  const shapes = shapesById(slide)
  for (const key of hidden) {
    const [id = '', part] = key.split('#')
    for (const shape of shapes.get(id) ?? []) hide(shape, part, templates)
  }
  for (const [id, { x, y }] of moved) {
    for (const shape of shapes.get(id) ?? []) moveShape(shape, { x: x * size.width, y: y * size.height }, templates)
  }
}

/** Where a shape stands, in fractions of the slide; null when nothing says so. */
export function boxOf(shape: Element, size: Size, templates: Templates): Rect | null {
  const frame = inheritedFrame(shape, templates)
  if (frame === null) return null
  const [offset, extent] = [childOf(frame, 'off'), childOf(frame, 'ext')]
  const units = unitsIn(shape)
  const [width, height] = [units.x * size.width, units.y * size.height]
  return {
    x: numberIn(offset, 'x') / width,
    y: numberIn(offset, 'y') / height,
    w: numberIn(extent, 'cx') / width,
    h: numberIn(extent, 'cy') / height,
  }
}
