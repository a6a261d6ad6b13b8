import { Refusal } from '@core/model'
import type { OfficeFinding } from '@core/office'
import { TRIAL_WORDS, missingFonts } from '../fonts'
import { writePackage, xmlPart } from '../office-package'
import type { OfficePackage, WrittenPart } from '../office-package'
import type { OfficeSlide } from '../office-deck'
import type { Rewritten } from '../rewritten'
import { attribute, childOf, childrenOf, parseXml, removeElement, serialised, within } from '../xml'
import type { Document, Element } from '../xml'
import { ContentStyles, fontsOf, pageSizeOf } from './styles'
import { NumberedMasters, takeApart, withoutOutside } from './take-apart'
import type { Content } from './take-apart'

const MIMETYPE = 'application/vnd.oasis.opendocument.presentation'
const DRAW = 'urn:oasis:names:tc:opendocument:xmlns:drawing:1.0'
const TEXT = 'urn:oasis:names:tc:opendocument:xmlns:text:1.0'
const SVG = 'urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0'
/** Parts that a document of pictures needs nothing of. */
const LEFT_OUT = /^(Basic|Scripts|Dialogs|Thumbnails|Configurations2|Media|ObjectReplacements\/.*\.exe)\/|^META-INF\/documentsignatures/
const MANIFEST = 'META-INF/manifest.xml'

/** A page that says some words in a font, to see what stands in for it. */
function trialPage(document: Document, font: string, n: number, master: string, styles: ContentStyles): Element {
  const element = (
    namespace: string,
    name: string,
    attributes: readonly (readonly [string, string, string])[],
    ...inside: readonly Element[]
  ) => {
    const made = document.createElementNS(namespace, name)
    for (const [of, key, value] of attributes) made.setAttributeNS(of, key, value)
    for (const child of inside) made.appendChild(child)
    return made
  }
  const span = element(TEXT, 'text:span', [[TEXT, 'text:style-name', styles.letters(font)]])
  span.textContent = TRIAL_WORDS
  const place = [
    [SVG, 'svg:x', '1cm'],
    [SVG, 'svg:y', '1cm'],
    [SVG, 'svg:width', '12cm'],
    [SVG, 'svg:height', '2cm'],
  ] as const
  const box = element(DRAW, 'draw:text-box', [], element(TEXT, 'text:p', [], span))
  const names = [
    [DRAW, 'draw:name', `trial${String(n)}`],
    [DRAW, 'draw:master-page-name', master],
  ] as const
  return element(DRAW, 'draw:page', names, element(DRAW, 'draw:frame', place, box))
}

/** Pages that are left out of a show are in the document too. */
function withoutHiding(document: Document): void {
  for (const properties of within(document, 'drawing-page-properties')) {
    for (let n = properties.attributes.length - 1; n >= 0; n -= 1) {
      const one = properties.attributes.item(n)
      if (one?.localName === 'visibility') properties.removeAttributeNode(one)
    }
  }
}

/** The list of parts, without those that are left out. */
function manifest(text: string, kept: ReadonlySet<string>): string {
  const document = parseXml(text)
  for (const entry of [...within(document, 'file-entry')]) {
    const path = attribute(entry, 'full-path') ?? ''
    if (!path.endsWith('/') && !kept.has(path)) removeElement(entry)
    // A template is a deck once slides are made of it.
    if (path === '/') entry.setAttributeNS(entry.namespaceURI, 'manifest:media-type', MIMETYPE)
  }
  return serialised(document)
}

/** All that is in the file of a deck's slides. */
interface Opened {
  readonly document: Document
  readonly presentation: Element
  readonly looks: Document
  readonly manifest: string
}

/** @throws Refusal when it is locked, or there are no slides */
async function openContent(file: OfficePackage): Promise<Opened> {
  const list = file.has(MANIFEST) ? await file.text(MANIFEST) : ''
  if (/encryption-data/.test(list))
    throw new Refusal('unreadable', 'This office file is locked with a password. Save a copy without one and bring that.')
  const document = parseXml(await file.text('content.xml'))
  const presentation = childOf(document, 'document-content', 'body', 'presentation')
  if (presentation === null) throw new Refusal('unreadable', 'This office file holds no slides. Bring a deck, or export this as a PDF.')
  if (childrenOf(presentation, 'page').length === 0) throw new Refusal('unreadable', 'There are no slides in this deck.')
  return { document, presentation, looks: parseXml(await file.text('styles.xml')), manifest: list }
}

const hasMacros = (file: OfficePackage): boolean =>
  file.names.some((name) => /^(Basic|Scripts)\/.+\/.+/.test(name) && !/script-l[bc]\.xml$/.test(name))

/**
 * Rewrites a deck in OpenDocument so that each state of each slide is a page of its own that stands still, and reads all that is not seen
 * on them. Nothing that lies outside the file is left in it.
 * @param path where the rewritten deck is put
 * @throws Refusal when it cannot be read
 */
export async function rewriteOdp(file: OfficePackage, path: string, mostPages: number): Promise<Rewritten> {
  const opened = await openContent(file)
  const { document, presentation, looks } = opened
  const pages = childrenOf(presentation, 'page')
  const styles = new ContentStyles(document)
  const content: Content = { styles, masters: new NumberedMasters(looks), size: pageSizeOf(looks), file }
  const slides: OfficeSlide[] = []
  const findings: OfficeFinding[] = hasMacros(file) ? [{ kind: 'macros' }] : []
  const firstMaster = attribute(pages[0] ?? presentation, 'master-page-name') ?? ''
  let made = 0
  for (const [n, page] of pages.entries()) {
    if (made > mostPages) break
    const read = takeApart(page, n + 1, pages.length, content)
    slides.push(read.slide)
    findings.push(...read.findings)
    made += read.slide.states.length
  }
  const trials = await missingFonts(new Set([...fontsOf(document), ...fontsOf(looks)]))
  for (const [n, font] of trials.entries()) presentation.appendChild(trialPage(document, font, n, firstMaster, styles))
  childrenOf(presentation, 'settings').forEach(removeElement)
  withoutHiding(document)
  if (looks.documentElement !== null && withoutOutside(looks.documentElement)) findings.push({ kind: 'elsewhere', slide: 1 })
  await writePackage(file, partsOf(file, opened), path)
  return { slides, findings, trials }
}

function* partsOf(file: OfficePackage, opened: Opened): Generator<WrittenPart> {
  const kept = file.names.filter((name) => !LEFT_OUT.test(name))
  yield { name: 'mimetype', bytes: Buffer.from(MIMETYPE), stored: true }
  for (const name of kept) {
    switch (name) {
      case 'mimetype':
        break
      case 'content.xml':
        yield xmlPart(name, serialised(opened.document))
        break
      case 'styles.xml':
        yield xmlPart(name, serialised(opened.looks))
        break
      case MANIFEST:
        yield xmlPart(name, manifest(opened.manifest, new Set(kept)))
        break
      default:
        yield { name, bytes: 'as it is' }
    }
  }
}
