import { escapeMarkup } from '@core/formats'
import { TRIAL_WORDS } from '../fonts'
import type { OfficePackage } from '../office-package'
import { attribute, childOf, childrenOf, parseXml, removeElement, rootOf, serialised } from '../xml'
import type { Document, Element } from '../xml'
import type { Presentation } from './presentation'
import type { Relation } from './relations'

/** Parts that a document of pictures needs nothing of, by their folder or ending. */
const LEFT_OUT_FOLDER = /(^|\/)(notesSlides|comments|threadedComments|activeX|customXml|printerSettings|fonts)\//i
const LEFT_OUT_FILE = /vbaProject|vbaData|\.(mp4|m4v|m4a|mov|avi|wmv|wma|mpe?g|mp3|wav|aiff?|ogg|webm|mid|fntdata|exe|dll)$/i
/** Whether the rewritten deck goes without a part. */
export const isLeftOut = (part: string): boolean => LEFT_OUT_FOLDER.test(part) || LEFT_OUT_FILE.test(part)
const RELATIONSHIPS = 'http://schemas.openxmlformats.org/package/2006/relationships'
export const SLIDE_TYPE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships/slide'
const SLIDE_CONTENT = 'application/vnd.openxmlformats-officedocument.presentationml.slide+xml'
const MAIN_CONTENT = 'application/vnd.openxmlformats-officedocument.presentationml.presentation.main+xml'
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'

/** What a part refers to, as XML. */
export const relationsXml = (relations: readonly Pick<Relation, 'id' | 'uri' | 'target' | 'external'>[]): string =>
  `${HEAD}<Relationships xmlns="${RELATIONSHIPS}">${relations
    .map(
      ({ id, uri, target, external }) =>
        `<Relationship Id="${escapeMarkup(id)}" Type="${escapeMarkup(uri)}" Target="${escapeMarkup(external ? target : `/${target}`)}"` +
        `${external ? ' TargetMode="External"' : ''}/>`,
    )
    .join('')}</Relationships>`

/** A page that says some words in a font, to see what stands in for it. */
export const trialPage = (font: string, sample: Document): string => {
  const root = childOf(sample, 'sld')
  const presentation = root?.namespaceURI ?? ''
  const drawing = presentation.replace('presentationml', 'drawingml')
  return (
    `${HEAD}<p:sld xmlns:p="${presentation}" xmlns:a="${drawing}"><p:cSld><p:spTree><p:nvGrpSpPr><p:cNvPr id="1" name=""/>` +
    '<p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/><p:sp><p:nvSpPr><p:cNvPr id="2" name="t"/><p:cNvSpPr/><p:nvPr/></p:nvSpPr>' +
    '<p:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="6000000" cy="900000"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom>' +
    `</p:spPr><p:txBody><a:bodyPr/><a:p><a:r><a:rPr lang="en-US"><a:latin typeface="${escapeMarkup(font)}"/></a:rPr>` +
    `<a:t>${TRIAL_WORDS}</a:t></a:r></a:p>` +
    '</p:txBody></p:sp></p:spTree></p:cSld></p:sld>'
  )
}

/** The main part with other slides in it. */
export function mainPart({ document }: Presentation, ids: readonly string[]): string {
  const root = rootOf(document)
  const list = childOf(root, 'sldIdLst')
  if (list === null) throw new Error('a presentation that was opened lists its slides')
  const [sample] = childrenOf(list, 'sldId')
  if (sample === undefined) throw new Error('a presentation that was opened has a slide')
  const idOf = (id: string, n: number) => {
    const entry = sample.cloneNode(true) as Element
    for (let k = 0; k < entry.attributes.length; k += 1) {
      const one = entry.attributes.item(k)
      if (one?.localName === 'id') one.value = one.namespaceURI === null ? String(256 + n) : id
    }
    return entry
  }
  const entries = ids.map(idOf)
  childrenOf(list).forEach(removeElement)
  for (const entry of entries) list.appendChild(entry)
  // What would name slides that are not there any more, and what is asked for before anything is shown.
  for (const child of childrenOf(root)) {
    if (['extLst', 'custShowLst', 'embeddedFontLst', 'modifyVerifier', 'custDataLst'].includes(child.localName ?? '')) removeElement(child)
  }
  return serialised(document)
}

/** The list of what each part is, with other slides in it. */
export async function contentTypes(file: OfficePackage, main: string, pages: readonly string[]): Promise<string> {
  const document = parseXml(await file.text('[Content_Types].xml'))
  const root = rootOf(document)
  for (const child of childrenOf(root, 'Override')) {
    const name = (attribute(child, 'PartName') ?? '').replace(/^\//, '')
    if (name === main) child.setAttribute('ContentType', MAIN_CONTENT)
    else if (isLeftOut(name) || attribute(child, 'ContentType') === SLIDE_CONTENT) removeElement(child)
  }
  for (const page of pages) {
    const made = document.createElementNS(root.namespaceURI, 'Override')
    made.setAttribute('PartName', `/${page}`)
    made.setAttribute('ContentType', SLIDE_CONTENT)
    root.appendChild(made)
  }
  return serialised(document)
}
