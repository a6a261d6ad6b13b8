import { Refusal } from '@core/model'
import type { Size } from '@core/model'
import type { OfficePackage } from '../office-package'
import { attribute, childOf, childrenOf, parseXml, relationOf, within } from '../xml'
import type { Document } from '../xml'
import { relationOfType, relationsOf } from './relations'
import type { Relation } from './relations'
import { numberIn } from './shapes'

/** Size of a slide in the file's units where nothing says so: 10 by 7.5 inches (ISO/IEC 29500-1, 19.2.1.39). */
const USUAL: Size = { width: 9_144_000, height: 6_858_000 }

/** A presentation in PresentationML, opened. */
export interface Presentation {
  /** Name of its main part. */
  readonly part: string
  readonly document: Document
  readonly relations: ReadonlyMap<string, Relation>
  /** Names of the slides' parts, in order. */
  readonly slides: readonly { readonly part: string; readonly section: string }[]
  readonly size: Size
  /** What the first slide is numbered. */
  readonly firstNumber: number
  readonly macros: boolean
}

/** Headings of sections, by the id of the slide that each begins with. */
function sectionsOf(document: Document): ReadonlyMap<string, string> {
  const headings = new Map<string, string>()
  for (const section of within(document, 'section')) {
    const first = [...within(section, 'sldId')][0]
    const name = (attribute(section, 'name') ?? '').replace(/\s+/g, ' ').trim().slice(0, 120)
    const id = first === undefined ? null : attribute(first, 'id')
    if (id !== null && name !== '') headings.set(id, name)
  }
  return headings
}

/**
 * Opens a presentation.
 * @throws Refusal when it holds none, or no slides
 */
export async function openPresentation(file: OfficePackage): Promise<Presentation> {
  const main = relationOfType(await relationsOf(file, ''), 'officeDocument')
  if (main === undefined || !file.has(main.target))
    throw new Refusal('unreadable', 'This office file is damaged: its slides are not in it. Save it again and bring that.')
  const document = parseXml(await file.text(main.target))
  const root = childOf(document, 'presentation')
  if (root === null) {
    const what = childOf(document, 'document') === null ? 'tables' : 'a text'
    throw new Refusal('unreadable', `This office file holds ${what}, not slides. Bring a deck, or export this as a PDF.`)
  }
  const relations = await relationsOf(file, main.target)
  const sections = sectionsOf(document)
  const list = childOf(root, 'sldIdLst')
  const slides = (list === null ? [] : childrenOf(list, 'sldId')).flatMap((one) => {
    const relation = relations.get(relationOf(one, 'id') ?? '')
    return relation === undefined || relation.external
      ? []
      : [{ part: relation.target, section: sections.get(attribute(one, 'id') ?? '') ?? '' }]
  })
  if (slides.length === 0) throw new Refusal('unreadable', 'There are no slides in this deck.')
  const size = childOf(root, 'sldSz')
  const [width, height] = [numberIn(size, 'cx'), numberIn(size, 'cy')]
  return {
    part: main.target,
    document,
    relations,
    slides,
    size: width > 0 && height > 0 ? { width, height } : USUAL,
    firstNumber: attribute(root, 'firstSlideNum') === null ? 1 : numberIn(root, 'firstSlideNum'),
    macros: file.names.some((name) => /(^|\/)vbaProject\.bin$/.test(name)),
  }
}
