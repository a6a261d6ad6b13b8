import type { Transition } from '@core/model'
import { LONGEST } from '../office-deck'
import { transitionLike } from '../slide-states'
import type { SlideTransition } from '../slide-states'
import { tidy } from '../slide-words'
import { attribute, childOf, childrenOf, within } from '../xml'
import type { Document, Element } from '../xml'
import { paragraphsOf, placeholderOf, propertiesOf, shapesOf, wordsOf } from './shapes'

/** Words of a slide's title placeholder; empty when it has none. */
export function titleOf(slide: Document): string {
  for (const shape of shapesOf(slide)) {
    const placeholder = placeholderOf(shape)
    if (placeholder === null || !['title', 'ctrTitle'].includes(attribute(placeholder, 'type') ?? '')) continue
    const words = tidy(paragraphsOf(shape).map(wordsOf).join(' ').replace(/\s+/g, ' '))
    if (words !== '') return words.slice(0, LONGEST.title)
  }
  return ''
}

/** What pictures and charts say that they show, in reading order; what is only there to please the eye says nothing. */
export function descriptionOf(slide: Document): string {
  const said = [...shapesOf(slide)].flatMap((shape) => {
    const properties = propertiesOf(shape)
    if (properties === null) return []
    const decorative = [...within(properties, 'decorative')].some((one) => attribute(one, 'val') === '1')
    const words = decorative ? '' : tidy(attribute(properties, 'descr') ?? '')
    return words === '' ? [] : [words]
  })
  return [...new Set(said)].join('\n').slice(0, LONGEST.description)
}

/** The presenter's notes on a notes page, paragraphs parted by an empty line, points of a list with a dash before them. */
export function notesOn(page: Document): string {
  const body = [...shapesOf(page)].find((shape) => {
    const placeholder = placeholderOf(shape)
    return placeholder !== null && attribute(placeholder, 'type') === 'body'
  })
  if (body === undefined) return ''
  const paragraphs = paragraphsOf(body).map((paragraph) => {
    const words = tidy(wordsOf(paragraph))
    const bulleted = childrenOf(childOf(paragraph, 'pPr') ?? paragraph).some(
      (one) => one.localName === 'buChar' || one.localName === 'buAutoNum',
    )
    return bulleted && words !== '' ? `- ${words}` : words
  })
  let notes = ''
  for (const [n, words] of paragraphs.entries()) {
    if (words === '') continue
    const before = paragraphs.slice(0, n).findLast((one) => one !== '')
    const inList = words.startsWith('- ') && before?.startsWith('- ') === true
    notes += notes === '' ? words : `${inList ? '\n' : '\n\n'}${words}`
  }
  return notes.slice(0, LONGEST.notes)
}

/** How many letters of a slide are in which language, by what its runs say. */
export function lettersByLanguage(slide: Document): ReadonlyMap<string, number> {
  const letters = new Map<string, number>()
  for (const run of within(slide, 'r')) {
    const properties = childOf(run, 'rPr')
    const language = properties === null ? null : attribute(properties, 'lang')
    if (language === null || language === '') continue
    letters.set(language, (letters.get(language) ?? 0) + (childOf(run, 't')?.textContent?.length ?? 0))
  }
  return letters
}

/** The file's ways of changing slides (ISO/IEC 29500-1, 19.3.1.50, and those added since) that ours are like. */
const LIKE: Readonly<Record<string, Transition>> = {
  cut: 'cut',
  fade: 'fade',
  dissolve: 'fade',
  push: 'push',
  cover: 'push',
  pull: 'push',
  pan: 'push',
  conveyor: 'push',
  wipe: 'wipe',
  split: 'wipe',
  blinds: 'wipe',
  comb: 'wipe',
  strips: 'wipe',
}

/** The change of a slide, of the version that says most: newer programs write two. */
export function transitionElement(slide: Document): Element | null {
  const root = childOf(slide, 'sld')
  if (root === null) return null
  return childOf(root, 'transition') ?? childOf(root, 'AlternateContent', 'Choice', 'transition')
}

/** How the slide comes. */
export function transitionOf(slide: Document): SlideTransition {
  const element = transitionElement(slide)
  const kind = element === null ? undefined : childrenOf(element).find((child) => !['sndAc', 'extLst'].includes(child.localName ?? ''))
  return transitionLike(kind?.localName ?? null, LIKE)
}
