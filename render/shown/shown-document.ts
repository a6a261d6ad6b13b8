import { createWriteStream } from 'node:fs'
import { finished } from 'node:stream/promises'
import PDFDocument from 'pdfkit'
import { clockText } from '@core/formats'
import type { Ms, PageLink } from '@core/model'
import { DocumentFonts } from './document-fonts'
import type { Weight } from './document-fonts'

/** A showing of a slide, as it stands in the document. */
export interface ShownPart {
  readonly number: number
  readonly title: string
  readonly from: Ms
  readonly until: Ms
  /** A JPEG of the slide with what was drawn on it, at the end of the showing. */
  readonly picture: Buffer
  /** Height to width. */
  readonly ratio: number
  /** What the picture shows, for those who do not see it. */
  readonly alt: string
  readonly links: readonly PageLink[]
  /** What was said. */
  readonly paragraphs: readonly string[]
  /** For those who watch, line by line. */
  readonly viewerNotes: readonly string[]
}

export interface ShownOrder {
  readonly title: string
  /** May be empty. */
  readonly presenter: string
  /** BCP 47 tag. */
  readonly language: string
  readonly length: Ms
  readonly parts: AsyncIterable<ShownPart>
  readonly out: string
}

type Document = InstanceType<typeof PDFDocument>
type Structure = ReturnType<Document['struct']>

const MARGIN = 48
const SIZE = { title: 22, heading: 14, text: 10.5, small: 9 } as const
const COLOUR = { text: '#1D2A29', soft: '#5D6A66', link: '#1F5A4C', line: '#DCD4C3' } as const
/** What its types do not know of yet: it says of itself that it can be read aloud. */
const READ_ALOUD: Readonly<Record<string, string>> = { subset: 'PDF/UA' }
/** Width of a picture, as a share of the text's: two showings fit on a page. */
const PICTURE = 0.72
/** A picture is not begun on a page that has less room for words below it, in points. */
const WORDS_BELOW = 40

interface TextWish {
  readonly size: number
  readonly weight?: Weight
  readonly colour?: string
  readonly link?: string
}

/** Writes a document of what was shown: slides with their ink, times, words and notes; tagged, so that it can be read aloud. */
class ShownWriter {
  readonly #document: Document
  readonly #fonts: DocumentFonts

  constructor(document: Document, fonts: DocumentFonts) {
    this.#document = document
    this.#fonts = fonts
  }

  get #width(): number {
    return this.#document.page.width - 2 * MARGIN
  }

  #text(text: string, { size, weight = 'plain', colour = COLOUR.text, link }: TextWish): void {
    const runs = this.#fonts.runs(text, weight)
    this.#document.fontSize(size).fillColor(colour)
    for (const [n, run] of runs.entries()) {
      const continued = n < runs.length - 1
      this.#document
        .font(run.font)
        .text(run.text, { continued, lineGap: 2, underline: link !== undefined, ...(link === undefined ? {} : { link }) })
    }
  }

  /** Words as an element of the document's structure. */
  #element(tag: string, text: string, wish: TextWish): Structure {
    return this.#document.struct(tag, {}, () => {
      this.#text(text, wish)
    })
  }

  #add(parent: Structure, element: Structure, gap = 0.35): void {
    parent.add(element)
    element.end()
    this.#document.moveDown(gap)
  }

  head(root: Structure, { title, presenter, length }: ShownOrder): void {
    this.#add(root, this.#element('H1', title, { size: SIZE.title, weight: 'bold' }), 0.1)
    const by = [presenter, clockText(length)].filter((part) => part !== '').join(', ')
    this.#add(root, this.#element('P', by, { size: SIZE.text, colour: COLOUR.soft }), 0.8)
  }

  #picture(section: Structure, { picture, ratio, alt, links, title }: ShownPart): void {
    const document = this.#document
    const width = this.#width * PICTURE
    const [x, y, height] = [MARGIN, document.y, width * ratio]
    const figure = document.struct('Figure', { alt: alt === '' ? `Slide: ${title}` : alt }, () => {
      document.image(picture, x, y, { width, height })
    })
    document.rect(x, y, width, height).lineWidth(0.5).stroke(COLOUR.line)
    section.add(figure)
    figure.end()
    for (const { box, address } of links) document.link(x + box.x * width, y + box.y * height, box.w * width, box.h * height, address)
    document.x = x
    document.y = y + height + 8
  }

  part(root: Structure, part: ShownPart): void {
    const document = this.#document
    const needed = this.#width * PICTURE * part.ratio + SIZE.heading * 2 + WORDS_BELOW
    if (document.y > MARGIN && document.y + needed > document.page.height - MARGIN) document.addPage()
    const section = document.struct('Sect', { title: part.title })
    root.add(section)
    const name = part.title.trim() === '' ? `Slide ${String(part.number)}` : part.title
    document.outline.addItem(`${String(part.number)}  ${name}`)
    this.#add(section, this.#element('H2', `${String(part.number)}  ${name}`, { size: SIZE.heading, weight: 'bold' }), 0.05)
    const times = `${clockText(part.from)} to ${clockText(part.until)}`
    this.#add(section, this.#element('P', times, { size: SIZE.small, colour: COLOUR.soft }), 0.3)
    this.#picture(section, part)
    for (const paragraph of part.paragraphs) this.#add(section, this.#element('P', paragraph, { size: SIZE.text }))
    for (const line of part.viewerNotes) this.#add(section, this.#element('Note', line, { size: SIZE.text, colour: COLOUR.soft }))
    for (const address of new Set(part.links.map((link) => link.address))) this.#link(section, address)
    section.end()
    document.moveDown(1)
  }

  /** An address that can be followed, in the order of reading. */
  #link(section: Structure, address: string): void {
    const paragraph = this.#document.struct('P')
    section.add(paragraph)
    const link = this.#element('Link', address, { size: SIZE.small, colour: COLOUR.link, link: address })
    paragraph.add(link)
    link.end()
    paragraph.end()
    this.#document.moveDown(0.2)
  }

  /** Numbers the pages, outside of what is read. */
  numbers(): void {
    const document = this.#document
    const { start, count } = document.bufferedPageRange()
    for (let page = 0; page < count; page += 1) {
      document.switchToPage(start + page)
      const bottom = document.page.margins.bottom
      document.page.margins.bottom = 0
      document.markContent('Artifact', { type: 'Pagination' })
      const [run] = this.#fonts.runs(`${String(page + 1)} of ${String(count)}`, 'plain')
      document
        .font(run?.font ?? 'Helvetica')
        .fontSize(SIZE.small)
        .fillColor(COLOUR.soft)
        .text(run?.text ?? '', MARGIN, document.page.height - 30, { width: this.#width, align: 'right', lineBreak: false })
      document.endMarkedContent()
      document.page.margins.bottom = bottom
    }
  }
}

/**
 * Writes what was shown as a PDF that can be read aloud (ISO 14289-1): headings, pictures with what they show, words, links that lead
 * somewhere, and an outline by slides.
 */
export async function writeShown(order: ShownOrder): Promise<void> {
  const document = new PDFDocument({
    size: 'A4',
    margin: MARGIN,
    bufferPages: true,
    pdfVersion: '1.7',
    tagged: true,
    displayTitle: true,
    lang: order.language,
    info: { Title: order.title, ...(order.presenter === '' ? {} : { Author: order.presenter }) },
    // Only fonts that go with it.
    font: '',
    ...READ_ALOUD,
  })
  const file = createWriteStream(order.out, { mode: 0o600 })
  document.pipe(file)
  const writer = new ShownWriter(document, await DocumentFonts.of(document))
  const root = document.struct('Document')
  document.addStructure(root)
  writer.head(root, order)
  for await (const part of order.parts) writer.part(root, part)
  root.end()
  writer.numbers()
  document.end()
  await finished(file)
}
