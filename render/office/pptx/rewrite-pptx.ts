import { posix } from 'node:path'
import { clickStates } from '@core/office'
import type { ClickState, OfficeFinding } from '@core/office'
import type { Motion, Size } from '@core/model'
import { TRIAL_WORDS, missingFonts } from '../fonts'
import { mostly } from '../language'
import { writePackage } from '../office-package'
import type { OfficePackage, WrittenPart } from '../office-package'
import type { OfficeSlide, SlideRecording } from '../office-deck'
import type { Rewritten } from '../rewritten'
import { attribute, childOf, childrenOf, parseXml, removeElement, serialised, within } from '../xml'
import type { Document, Element } from '../xml'
import type { Templates } from './inherited'
import { mediaFindings, mediaOn } from './media'
import type { SlideMedia } from './media'
import { openPresentation } from './presentation'
import type { Presentation } from './presentation'
import { recordingOf, timedInk } from './recording'
import { relationOfType, relationsOf, relationsPart } from './relations'
import type { Relation } from './relations'
import { shapesById } from './shapes'
import { boxOf } from './show-state'
import { keptRelations, slideCopy } from './slide-copy'
import { descriptionOf, lettersByLanguage, notesOn, titleOf, transitionOf } from './slide-facts'
import { timingOf } from './timing'

/** Parts that a document of pictures needs nothing of, by their folder or ending. */
const LEFT_OUT_FOLDER = /(^|\/)(notesSlides|comments|threadedComments|activeX|customXml|printerSettings|fonts)\//i
const LEFT_OUT_FILE = /vbaProject|vbaData|\.(mp4|m4v|m4a|mov|avi|wmv|wma|mpe?g|mp3|wav|aiff?|ogg|webm|mid|fntdata|exe|dll)$/i
const isLeftOut = (part: string): boolean => LEFT_OUT_FOLDER.test(part) || LEFT_OUT_FILE.test(part)
/** Relations of the main part that are left out. */
const MAIN_LEFT_OUT: ReadonlySet<string> = new Set(['slide', 'vbaProject', 'font', 'customXml', 'commentAuthors', 'authors', 'tags'])

const RELATIONSHIPS = 'http://schemas.openxmlformats.org/package/2006/relationships'
const SLIDE_TYPE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships/slide'
const SLIDE_CONTENT = 'application/vnd.openxmlformats-officedocument.presentationml.slide+xml'
const MAIN_CONTENT = 'application/vnd.openxmlformats-officedocument.presentationml.presentation.main+xml'
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'

const escaped = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

const relationsXml = (relations: readonly Pick<Relation, 'id' | 'uri' | 'target' | 'external'>[]): string =>
  `${HEAD}<Relationships xmlns="${RELATIONSHIPS}">${relations
    .map(
      ({ id, uri, target, external }) =>
        `<Relationship Id="${escaped(id)}" Type="${escaped(uri)}" Target="${escaped(external ? target : `/${target}`)}"` +
        `${external ? ' TargetMode="External"' : ''}/>`,
    )
    .join('')}</Relationships>`

/** A page that says some words in a font, to see what stands in for it. */
const trialPage = (font: string, sample: Document): string => {
  const root = childOf(sample, 'sld')
  const presentation = root?.namespaceURI ?? ''
  const drawing = presentation.replace('presentationml', 'drawingml')
  return (
    `${HEAD}<p:sld xmlns:p="${presentation}" xmlns:a="${drawing}"><p:cSld><p:spTree><p:nvGrpSpPr><p:cNvPr id="1" name=""/>` +
    '<p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr/><p:sp><p:nvSpPr><p:cNvPr id="2" name="t"/><p:cNvSpPr/><p:nvPr/></p:nvSpPr>' +
    '<p:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="6000000" cy="900000"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom>' +
    `</p:spPr><p:txBody><a:bodyPr/><a:p><a:r><a:rPr lang="en-US"><a:latin typeface="${escaped(font)}"/></a:rPr>` +
    `<a:t>${TRIAL_WORDS}</a:t></a:r></a:p>` +
    '</p:txBody></p:sp></p:spTree></p:cSld></p:sld>'
  )
}

/** Names of fonts that a part asks for. */
function* fontsIn(document: Document): Generator<string> {
  for (const name of ['latin', 'ea', 'cs', 'sym']) {
    for (const element of within(document, name)) yield attribute(element, 'typeface') ?? ''
  }
}

/** Layouts and masters, each read once. */
class TemplateParts {
  readonly #file: OfficePackage
  readonly #documents = new Map<string, Promise<Document>>()

  constructor(file: OfficePackage) {
    this.#file = file
  }

  async of(slide: ReadonlyMap<string, Relation>): Promise<Templates> {
    const layout = this.#named(relationOfType(slide, 'slideLayout'))
    if (layout === null) return { layout: null, master: null }
    const master = this.#named(relationOfType(await relationsOf(this.#file, layout), 'slideMaster'))
    return { layout: await this.#read(layout), master: master === null ? null : await this.#read(master) }
  }

  #named(relation: Relation | undefined): string | null {
    return relation === undefined || relation.external || !this.#file.has(relation.target) ? null : relation.target
  }

  #read(part: string): Promise<Document> {
    const known = this.#documents.get(part)
    if (known !== undefined) return known
    const reading = this.#file.text(part).then(parseXml)
    this.#documents.set(part, reading)
    return reading
  }
}

/** A slide as it was read. */
interface ReadSlide {
  readonly slide: OfficeSlide
  readonly states: readonly ClickState[]
  readonly document: Document
  readonly relations: ReadonlyMap<string, Relation>
  readonly templates: Templates
  readonly recorded: ReadonlySet<string>
  readonly findings: readonly OfficeFinding[]
}

const motionsOf = (document: Document, state: ClickState, size: Size, templates: Templates): readonly Motion[] => {
  const shapes = shapesById(document)
  return state.motions.flatMap(({ target, path, duration }) => {
    const [shape] = shapes.get(target) ?? []
    const box = shape === undefined ? null : boxOf(shape, size, templates)
    return box === null ? [] : [{ box, path: path.slice(0, 4000), duration }]
  })
}

/** Ids of shapes that stand for what was recorded on a slide: a show does not show them. */
const recordedShapes = (media: readonly SlideMedia[], ink: readonly string[], recording: SlideRecording | null): ReadonlySet<string> =>
  new Set([...media.filter(({ narration, film }) => narration || !film).map(({ shape }) => shape), ...(recording === null ? [] : ink)])

async function readSlide(file: OfficePackage, { slides, size }: Presentation, at: number, parts: TemplateParts): Promise<ReadSlide> {
  const number = at + 1
  const { part, section } = slides[at] ?? { part: '', section: '' }
  const document = parseXml(await file.text(part))
  const relations = await relationsOf(file, part)
  const templates = await parts.of(relations)
  const { timeline, found } = timingOf(document)
  const states = clickStates(timeline)
  const media = mediaOn(document, relations, file)
  const { strokes, shapes } = await timedInk(document, relations, file, size)
  const recording = recordingOf(document, media, strokes, size)
  const { transition, known } = transitionOf(document)
  const page = relationOfType(relations, 'notesSlide')
  const notesPage = page === undefined || page.external || !file.has(page.target) ? null : parseXml(await file.text(page.target))
  const letters = lettersByLanguage(document)
  const moves = states.some(({ motions }) => motions.length > 0)
  return {
    slide: {
      number,
      title: titleOf(document),
      notes: notesPage === null ? '' : notesOn(notesPage),
      description: descriptionOf(document),
      section,
      hidden: attribute(childOf(document, 'sld') ?? documentRoot(document), 'show') === '0',
      language: mostly(letters),
      transition,
      states: states.map((state) => ({ clicks: state.clicks, soft: state.soft, motions: motionsOf(document, state, size, templates) })),
      recording,
    },
    states,
    document,
    relations,
    templates,
    recorded: recordedShapes(media, shapes, recording),
    findings: [
      ...[...found].map((kind) => ({ kind, slide: number })),
      ...(moves ? [{ kind: 'path', slide: number } as const] : []),
      ...(known ? [] : [{ kind: 'transition', slide: number } as const]),
      ...mediaFindings(number, media, relations, file),
    ],
  }
}

function documentRoot(document: Document) {
  const root = document.documentElement
  if (root === null) throw new Error('a document has a root')
  return root
}

/** The main part with other slides in it. */
function mainPart({ document }: Presentation, ids: readonly string[]): string {
  const root = documentRoot(document)
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
async function contentTypes(file: OfficePackage, main: string, pages: readonly string[]): Promise<string> {
  const document = parseXml(await file.text('[Content_Types].xml'))
  const root = documentRoot(document)
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

const xmlPart = (name: string, text: string): WrittenPart => ({ name, bytes: Buffer.from(text, 'utf8') })

/**
 * Rewrites a deck in PresentationML so that each state of each slide is a slide of its own that stands still, and reads all that is not
 * seen on them. Nothing that lies outside the file is left in it.
 * @param path where the rewritten deck is put
 * @throws Refusal when it cannot be read
 */
export async function rewritePptx(file: OfficePackage, path: string, mostPages: number): Promise<Rewritten> {
  const presentation = await openPresentation(file)
  const folder = posix.join(posix.dirname(presentation.part), 'slides')
  const pageName = (at: number, state: number): string => posix.join(folder, `page${String(at)}-${String(state)}.xml`)
  const firstPages = new Map(presentation.slides.map(({ part }, at) => [part, pageName(at, 0)]))
  const slideParts = new Set(presentation.slides.flatMap(({ part }) => [part, relationsPart(part)]))
  const templates = new TemplateParts(file)
  const slides: OfficeSlide[] = []
  const findings: OfficeFinding[] = presentation.macros ? [{ kind: 'macros' }] : []
  const pages: string[] = []
  const fonts = new Set<string>()
  const themes = new Set<string>()
  let trials: readonly string[] = []

  async function* slidePages(): AsyncGenerator<WrittenPart> {
    for (const at of presentation.slides.keys()) {
      const read = await readSlide(file, presentation, at, templates)
      const kept = keptRelations(read.relations, firstPages)
      slides.push(read.slide)
      findings.push(...read.findings)
      for (const font of fontsIn(read.document)) fonts.add(font)
      const themed = `${relationOfType(read.relations, 'slideLayout')?.target ?? ''} ${String(read.slide.title === '')}`
      if (!themes.has(themed)) for await (const font of themeFonts(file, read)) fonts.add(font)
      themes.add(themed)
      const copies = {
        ...read,
        slide: read.document,
        number: at + presentation.firstNumber,
        size: presentation.size,
        kept: new Set(kept.map(({ id }) => id)),
      }
      // A deck with more pages than are taken is refused by whoever reads them: they need not all be made.
      for (const [n, state] of read.states.entries()) {
        if (pages.length > mostPages) return
        const name = pageName(at, n)
        pages.push(name)
        yield xmlPart(name, slideCopy(copies, state))
        yield xmlPart(relationsPart(name), relationsXml(kept))
      }
      if (at === 0) sample = read.document
    }
  }
  let sample: Document | null = null

  async function* trialPages(): AsyncGenerator<WrittenPart> {
    const [first] = presentation.slides
    const layout = first === undefined ? undefined : relationOfType(await relationsOf(file, first.part), 'slideLayout')
    if (sample === null || layout === undefined) return
    trials = await missingFonts(fonts)
    for (const [n, font] of trials.entries()) {
      const name = posix.join(folder, `trial${String(n)}.xml`)
      pages.push(name)
      yield xmlPart(name, trialPage(font, sample))
      yield xmlPart(relationsPart(name), relationsXml([layout]))
    }
  }

  async function* parts(): AsyncGenerator<WrittenPart> {
    for (const name of file.names) {
      if (name === presentation.part || name === relationsPart(presentation.part) || name === '[Content_Types].xml') continue
      if (slideParts.has(name) || isLeftOut(name)) continue
      yield { name, bytes: 'as it is' }
    }
    yield* slidePages()
    yield* trialPages()
    const ids = pages.map((_, n) => `page${String(n)}`)
    const rest = [...presentation.relations.values()].filter(
      ({ type, external, target }) => !external && !MAIN_LEFT_OUT.has(type) && !isLeftOut(target),
    )
    const own = pages.map((target, n) => ({ id: ids[n] ?? '', uri: slideUri(presentation), target, external: false }))
    yield xmlPart(presentation.part, mainPart(presentation, ids))
    yield xmlPart(relationsPart(presentation.part), relationsXml([...rest, ...own]))
    yield xmlPart('[Content_Types].xml', await contentTypes(file, presentation.part, pages))
  }

  await writePackage(file, parts(), path)
  return { slides, findings, trials }
}

/** The type by which this file names its slides: there are two editions of the standard. */
const slideUri = ({ relations }: Presentation): string => relationOfType(relations, 'slide')?.uri ?? SLIDE_TYPE

/** The font that the theme of a slide's master gives to text, and to headings where the slide has one. */
async function* themeFonts(file: OfficePackage, slide: ReadSlide): AsyncGenerator<string> {
  const layout = relationOfType(slide.relations, 'slideLayout')
  const master = layout === undefined ? undefined : relationOfType(await relationsOf(file, layout.target), 'slideMaster')
  const theme = master === undefined ? undefined : relationOfType(await relationsOf(file, master.target), 'theme')
  if (theme === undefined || theme.external || !file.has(theme.target)) return
  const wanted = slide.slide.title === '' ? ['minorFont'] : ['minorFont', 'majorFont']
  for (const scheme of within(parseXml(await file.text(theme.target)), 'fontScheme')) {
    for (const name of wanted) {
      const latin = childOf(scheme, name, 'latin')
      if (latin !== null) yield attribute(latin, 'typeface') ?? ''
    }
  }
}
