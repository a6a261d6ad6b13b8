import { posix } from 'node:path'
import type { Size } from '@core/model'
import { clickStates } from '@core/office'
import type { ClickState, OfficeFinding, OfficeTimeline } from '@core/office'
import type { OfficePackage } from '../office-package'
import { isSound } from '../office-deck'
import type { OfficeSlide, SlideClip } from '../office-deck'
import { movementFindings, officeStates, playOf } from '../slide-states'
import type { SlideTransition } from '../slide-states'
import { mostly } from '../slide-words'
import { attribute, childrenOf, removeElement, within } from '../xml'
import type { Document, Element } from '../xml'
import { descriptionOf, lettersByLanguage, notesOn, titleOf, transitionOf } from './page-facts'
import { boxOf, frameBox, idOf, showState } from './show-state'
import type { ContentStyles } from './styles'
import { timingOf } from './timing'

const DRAW = 'urn:oasis:names:tc:opendocument:xmlns:drawing:1.0'
const STYLE = 'urn:oasis:names:tc:opendocument:xmlns:style:1.0'

/** Elements whose links somebody clicks on; what others name would be fetched. */
const LINKS: ReadonlySet<string> = new Set(['a', 'event-listener'])
const isElsewhere = (address: string): boolean => /^([a-z][a-z0-9+.-]*:|\/|\.\.\/)/i.test(address)

/** Takes away what lies elsewhere, and what would run. @returns whether there was anything */
export function withoutOutside(root: Element): boolean {
  let found = false
  for (const element of [...within(root)]) {
    if (element.localName === 'event-listener' && element.namespaceURI?.includes('script') === true) removeElement(element)
    const address = attribute(element, 'href')
    if (address === null || LINKS.has(element.localName ?? '') || !isElsewhere(address)) continue
    found = true
    removeElement(element)
  }
  return found
}

/** What is told of films and sounds on a page. */
function mediaFindings(page: Element, number: number, file: OfficePackage): readonly OfficeFinding[] {
  return [...within(page, 'plugin')].flatMap((plugin): readonly OfficeFinding[] => {
    const address = attribute(plugin, 'href') ?? ''
    const host = /^https?:\/\/([^/:?#]+)/i.exec(address)?.[1]
    if (host !== undefined) return [{ kind: 'internet', slide: number, host }]
    if (isElsewhere(address)) return [{ kind: 'elsewhere', slide: number }]
    return file.has(posix.normalize(address)) ? [] : [{ kind: 'missing', slide: number }]
  })
}

/** Films and sounds on a page that are in the file: they play as their slide comes, unless a click starts them. */
function clipsOn(
  page: Element,
  timeline: OfficeTimeline,
  states: readonly ClickState[],
  { size, file }: Pick<Content, 'size' | 'file'>,
): readonly SlideClip[] {
  return [...within(page, 'plugin')].flatMap((plugin): readonly SlideClip[] => {
    const part = posix.normalize(attribute(plugin, 'href') ?? '')
    if (!file.has(part)) return []
    const [frame, id] = [plugin.parentElement, plugin.parentElement === null ? null : idOf(plugin.parentElement)]
    const box = id === null ? frameBox(frame, size) : boxOf(page, id, size)
    const film = (attribute(plugin, 'mime-type') ?? '').startsWith('audio/') ? false : !isSound(part)
    const clicked = id !== null && timeline.clicks.flat().some((effect) => effect.does === 'play' && effect.target === id)
    const { state } = playOf(id ?? '', timeline, states)
    return [{ media: { part, trim: { start: 0, end: 0 } }, film, box, state, start: clicked ? 'click' : 'step', loop: false }]
  })
}

/** Masters, one for each slide that shows its number: a slide has several pages, and only one number. */
export class NumberedMasters {
  readonly #styles: Document

  constructor(styles: Document) {
    this.#styles = styles
  }

  /** The name of a master like another that says this number. */
  numbered(name: string, number: number, of: number): string {
    const master = [...within(this.#styles, 'master-page')].find((one) => attribute(one, 'name') === name)
    if (master === undefined || [...within(master, 'page-number')].length === 0) return name
    const made = master.cloneNode(true) as Element
    const own = `${name}-page${String(number)}`
    made.setAttributeNS(STYLE, 'style:name', own)
    fixNumbers(made, number, of)
    master.parentNode?.appendChild(made)
    return own
  }
}

/** Takes numbers in the text in place of fields that count pages. */
function fixNumbers(element: Element, number: number, of: number): void {
  const document = element.ownerDocument
  if (document === null) return
  for (const [name, value] of [
    ['page-number', number],
    ['page-count', of],
  ] as const) {
    for (const field of [...within(element, name)]) field.parentNode?.replaceChild(document.createTextNode(String(value)), field)
  }
}

/** Tells the ids of one page of a slide from those of its other pages. */
function withOwnIds(page: Element, state: number): void {
  const ends = `-s${String(state)}`
  for (const element of [page, ...within(page)]) {
    for (let n = 0; n < element.attributes.length; n += 1) {
      const one = element.attributes.item(n)
      const names = one?.localName === 'id' || one?.localName === 'start-shape' || one?.localName === 'end-shape'
      if (one !== null && names) one.value += ends
    }
  }
}

/** A slide as it was read, and what is told of it. */
interface ReadPage {
  readonly slide: OfficeSlide
  readonly findings: readonly OfficeFinding[]
}

/** A deck's content while it is taken apart. */
export interface Content {
  readonly styles: ContentStyles
  readonly masters: NumberedMasters
  readonly size: Size
  readonly file: OfficePackage
}

/** Reads all of a page that its states do not show. */
function readPage(
  page: Element,
  number: number,
  states: readonly ClickState[],
  { transition }: SlideTransition,
  clips: readonly SlideClip[],
  { styles, size }: Content,
): OfficeSlide {
  const properties = styles.ofPage(page)
  return {
    number,
    title: titleOf(page),
    notes: notesOn(page),
    description: descriptionOf(page),
    section: '',
    hidden: properties !== null && attribute(properties, 'visibility') === 'hidden',
    language: mostly(lettersByLanguage(page, styles)),
    transition,
    states: officeStates(states, (target) => boxOf(page, target, size)),
    recording: null,
    clips,
  }
}

/** Takes away what a still page has nothing of: what moves, what is told of it, films and sounds. */
function stopped(page: Element): void {
  for (const child of childrenOf(page)) {
    if (child.localName === 'notes' || child.namespaceURI?.includes('animation') === true) removeElement(child)
  }
  // A film or a sound is shown by the picture that stands for it.
  for (const plugin of [...within(page, 'plugin')]) removeElement(plugin)
}

/** Puts a page for each state of a slide in its place. @param of how many slides there are */
export function takeApart(page: Element, number: number, of: number, content: Content): ReadPage {
  const { styles, masters, size, file } = content
  const timing = timingOf(page)
  const states = clickStates(timing.timeline)
  const comes = transitionOf(page, styles)
  const slide = readPage(page, number, states, comes, clipsOn(page, timing.timeline, states, content), content)
  const media = mediaFindings(page, number, file)
  stopped(page)
  fixNumbers(page, number, of)
  const outside = withoutOutside(page)
  const properties = styles.ofPage(page)
  const master = attribute(page, 'master-page-name') ?? ''
  const shows = properties !== null && attribute(properties, 'display-page-number') === 'true'
  page.setAttributeNS(DRAW, 'draw:master-page-name', shows ? masters.numbered(master, number, of) : master)
  for (const [n, state] of states.entries()) {
    const copy = page.cloneNode(true) as Element
    copy.setAttributeNS(DRAW, 'draw:name', `page${String(number)}-${String(n)}`)
    showState(copy, state, size, styles)
    withOwnIds(copy, n)
    page.parentNode?.insertBefore(copy, page)
  }
  removeElement(page)
  const elsewhere = outside ? [{ kind: 'elsewhere', slide: number } as const] : []
  return { slide, findings: [...movementFindings(number, timing, states, comes), ...elsewhere, ...media] }
}
