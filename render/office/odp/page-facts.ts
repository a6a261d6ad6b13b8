import type { Transition } from '@core/model'
import { LONGEST } from '../office-deck'
import { transitionLike } from '../slide-states'
import type { SlideTransition } from '../slide-states'
import { tidy } from '../slide-words'
import { attribute, childrenOf, within } from '../xml'
import type { Element } from '../xml'
import type { ContentStyles } from './styles'

/** What a paragraph says; a line break in it is one, spaces that are written as such are there. */
function wordsOf(paragraph: Element): string {
  let words = ''
  for (let node = paragraph.firstChild; node !== null; node = node.nextSibling) {
    if (node.nodeType === 3) words += node.nodeValue ?? ''
    else if (node.localName === 'line-break') words += '\n'
    else if (node.localName === 's' || node.localName === 'tab') words += ' '
    else if (node.nodeType === 1) words += wordsOf(node as Element)
  }
  return words
}

const paragraphsIn = (element: Element): readonly Element[] =>
  [...within(element)].filter((one) => one.localName === 'p' || one.localName === 'h')

const ofClass = (page: Element, kind: string): Element | undefined => childrenOf(page).find((one) => attribute(one, 'class') === kind)

/** Words of a page's title; empty when it has none. */
export function titleOf(page: Element): string {
  const title = ofClass(page, 'title')
  const words = title === undefined ? '' : paragraphsIn(title).map(wordsOf).join(' ')
  return tidy(words.replace(/\s+/g, ' ')).slice(0, LONGEST.title)
}

/** The presenter's notes, paragraphs parted by an empty line. */
export function notesOn(page: Element): string {
  const notes = childrenOf(page, 'notes')[0]
  const frame = notes === undefined ? undefined : ofClass(notes, 'notes')
  if (frame === undefined) return ''
  return paragraphsIn(frame)
    .map((paragraph) => tidy(wordsOf(paragraph)))
    .filter((words) => words !== '')
    .join('\n\n')
    .slice(0, LONGEST.notes)
}

/** What pictures say that they show, in reading order. */
export function descriptionOf(page: Element): string {
  const said = [...within(page)]
    .filter((one) => one.localName === 'desc' || (one.localName === 'title' && one.namespaceURI?.includes('svg') === true))
    .map((one) => tidy(one.textContent ?? ''))
    .filter((words) => words !== '')
  return [...new Set(said)].join('\n').slice(0, LONGEST.description)
}

/** How many letters are in which language, by what the styles of spans say. */
export function lettersByLanguage(page: Element, styles: ContentStyles): ReadonlyMap<string, number> {
  const letters = new Map<string, number>()
  for (const span of within(page, 'span')) {
    const style = styles.named(attribute(span, 'style-name'))
    const properties = style === null ? undefined : childrenOf(style, 'text-properties')[0]
    const [language, country] =
      properties === undefined ? [null, null] : [attribute(properties, 'language'), attribute(properties, 'country')]
    if (language === null || language === 'none') continue
    const tag = country === null || country === 'none' ? language : `${language}-${country}`
    letters.set(tag, (letters.get(tag) ?? 0) + (span.textContent?.length ?? 0))
  }
  return letters
}

/** Kinds of transitions (SMIL 3.0, 12.4) that ours are like. */
const LIKE: Readonly<Record<string, Transition>> = {
  fade: 'fade',
  dissolve: 'fade',
  pushWipe: 'push',
  slideWipe: 'push',
  barWipe: 'wipe',
  boxWipe: 'wipe',
  barnDoorWipe: 'wipe',
  blindsWipe: 'wipe',
  irisWipe: 'wipe',
}

/** How the page comes. */
export function transitionOf(page: Element, styles: ContentStyles): SlideTransition {
  const properties = styles.ofPage(page)
  const kind = properties === null ? null : attribute(properties, 'type')
  return transitionLike(kind === '' ? null : kind, LIKE)
}
