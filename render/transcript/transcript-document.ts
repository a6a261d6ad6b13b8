import { Document, HeadingLevel, ImageRun, Packer, Paragraph, TextRun } from 'docx'
import { clockText, viewerLines } from '@core/formats'
import type { Transcript, TranscriptPart, TranscriptPicture } from '@core/formats'

/** Signs that no document may hold (XML 1.0, 2.2). */
const ILLEGAL = /[^\t\n\r\u{20}-\u{D7FF}\u{E000}-\u{FFFD}\u{10000}-\u{10FFFF}]/gu
const legal = (text: string): string => text.replace(ILLEGAL, '')

/** Width of a slide's picture on the page, in pixels of 96 an inch. */
const PICTURE_WIDTH = 480

const slidePicture = ({ jpeg, ratio }: TranscriptPicture, alt: string): Paragraph =>
  new Paragraph({
    children: [
      new ImageRun({
        type: 'jpg',
        data: Buffer.from(jpeg, 'base64'),
        transformation: { width: PICTURE_WIDTH, height: Math.round(PICTURE_WIDTH * ratio) },
        altText: { name: legal(alt), description: legal(alt), title: legal(alt) },
      }),
    ],
    spacing: { after: 160 },
  })

/** Levels of headings are said, so that an office program lists them; the library's own styles leave that out. */
const STYLES = {
  default: {
    document: { run: { font: 'Arial', size: 22 }, paragraph: { spacing: { line: 288 } } },
    title: { run: { size: 44, bold: true }, paragraph: { spacing: { after: 120 } } },
    heading1: {
      run: { size: 30, bold: true, color: '1D2A29' },
      paragraph: { outlineLevel: 0, keepNext: true, spacing: { before: 360, after: 120 } },
    },
    heading2: {
      run: { size: 26, bold: true, color: '1D2A29' },
      paragraph: { outlineLevel: 1, keepNext: true, spacing: { before: 280, after: 100 } },
    },
  },
} as const

/** A transcript as a word-processor document (Office Open XML, ECMA-376). */
export async function transcriptDocument({ title, presenter, date, language, talks }: Transcript): Promise<Buffer> {
  const text = (words: string, options: { readonly italics?: boolean; readonly color?: string } = {}): TextRun =>
    new TextRun({ text: legal(words), language: { value: language }, ...options })
  const ofPart = (part: TranscriptPart, heading: (typeof HeadingLevel)[keyof typeof HeadingLevel]): readonly Paragraph[] => [
    new Paragraph({ heading, children: [text(part.heading), text(`  ${clockText(part.from)}`, { color: '5D6A66' })] }),
    ...(part.picture === null ? [] : [slidePicture(part.picture, part.heading)]),
    ...part.paragraphs.map((paragraph) => new Paragraph({ children: [text(paragraph)], spacing: { after: 160 } })),
    ...viewerLines(part).map(
      (line) => new Paragraph({ children: [text(line, { italics: true })], indent: { left: 400 }, spacing: { after: 120 } }),
    ),
  ]
  const document = new Document({
    title: legal(title),
    creator: legal(presenter),
    styles: STYLES,
    sections: [
      {
        children: [
          new Paragraph({ heading: HeadingLevel.TITLE, children: [text(title)] }),
          new Paragraph({ children: [text([presenter, date].filter((part) => part !== '').join(', '))], spacing: { after: 240 } }),
          ...talks.flatMap(({ name, parts }) => [
            ...(name === null ? [] : [new Paragraph({ heading: HeadingLevel.HEADING_1, children: [text(name)] })]),
            ...parts.flatMap((part) => ofPart(part, name === null ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2)),
          ]),
        ],
      },
    ],
  })
  return await Packer.toBuffer(document)
}
