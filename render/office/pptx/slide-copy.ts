import type { Size } from '@core/model'
import type { ClickState } from '@core/office'
import { childOf, childrenOf, relationOf, removeElement, serialised, within } from '../xml'
import type { Document, Element } from '../xml'
import { fixNumber } from './clear-parts'
import type { Templates } from './inherited'
import { mediaElements } from './media'
import type { Relation } from './relations'
import { shapeIdOf, shapesOf } from './shapes'
import { hideShape, showState } from './show-state'

/** Relations that a picture of a slide needs nothing of. */
const LEFT_OUT: ReadonlySet<string> = new Set([
  ...['notesSlide', 'comments', 'comment', 'audio', 'video', 'media', 'tags', 'customXml', 'vmlDrawing', 'control', 'slideUpdateInfo'],
])

/** What a slide's copies keep of its relations: nothing that lies elsewhere, but for links that somebody may click on. */
export function keptRelations(relations: ReadonlyMap<string, Relation>, pages: ReadonlyMap<string, string>): readonly Relation[] {
  return [...relations.values()].flatMap((one): readonly Relation[] => {
    if (LEFT_OUT.has(one.type)) return []
    if (one.external) return one.type === 'hyperlink' ? [one] : []
    if (one.type !== 'slide') return [one]
    const page = pages.get(one.target)
    return page === undefined ? [] : [{ ...one, target: page }]
  })
}

/** Takes references away that lead nowhere any more. */
function withoutDangling(slide: Document, kept: ReadonlySet<string>): void {
  for (const element of [...within(slide)]) {
    for (const name of ['id', 'link', 'embed', 'pict']) {
      const relation = relationOf(element, name)
      if (relation === null || relation === '' || kept.has(relation)) continue
      if (element.localName === 'hlinkClick' || element.localName === 'hlinkHover' || element.localName === 'hlinkMouseOver')
        removeElement(element)
      else removeAttribute(element, name)
    }
  }
}

function removeAttribute(element: Element, name: string): void {
  for (let n = element.attributes.length - 1; n >= 0; n -= 1) {
    const one = element.attributes.item(n)
    if (one?.localName === name && one.namespaceURI?.endsWith('/relationships') === true) element.removeAttributeNode(one)
  }
}

/** What is the same on all pages of a slide. */
export interface SlideCopies {
  readonly slide: Document
  readonly number: number
  readonly size: Size
  readonly templates: Templates
  readonly kept: ReadonlySet<string>
  /** Ids of sounds, and of what was recorded: seen in the file as signs that a show does not show. */
  readonly recorded: ReadonlySet<string>
}

/** A page of a slide, as XML: it stands still, without films and sounds, as it is after some of its clicks. */
export function slideCopy({ slide, number, size, templates, kept, recorded }: SlideCopies, state: ClickState): string {
  const copy = slide.cloneNode(true) as Document
  const root = childOf(copy, 'sld')
  if (root === null) throw new Error('a slide has a root')
  root.removeAttribute('show')
  for (const child of childrenOf(root)) {
    const changes = child.localName === 'AlternateContent' && [...within(child)].some((one) => one.localName === 'transition')
    if (child.localName === 'timing' || child.localName === 'transition' || changes) removeElement(child)
  }
  showState(copy, state, size, templates)
  for (const shape of [...shapesOf(copy)]) {
    const id = shapeIdOf(shape)
    if (id !== null && recorded.has(id)) hideShape(shape)
    mediaElements(shape).forEach(removeElement)
  }
  for (const field of [...within(copy, 'fld')]) fixNumber(field, number)
  withoutDangling(copy, kept)
  return serialised(copy)
}
