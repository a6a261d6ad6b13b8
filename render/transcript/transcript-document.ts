import { Document, HeadingLevel, Packer, Paragraph, TextRun } from 'docx'
import { clockText } from '@core/formats'
import type { Transcript } from '@core/formats'
import { wordsOf } from '@core/markup'

/** Signs that no document may hold (XML 1.0, 2.2). */
const ILLEGAL = /[^\t\n\r\u{20}-\u{D7FF}\u{E000}-\u{FFFD}\u{10000}-\u{10FFFF}]/gu
const legal = (text: string): string => text.replace(ILLEGAL, '')

/** A transcript as a word-processor document (Office Open XML, ECMA-376). */
export async function transcriptDocument({ title, presenter, date, language, parts }: Transcript): Promise<Buffer> {
  const text = (words: string, options: { readonly italics?: boolean; readonly color?: string } = {}): TextRun =>
    new TextRun({ text: legal(words), language: { value: language }, ...options })
  const document = new Document({
    title: legal(title),
    creator: legal(presenter),
    sections: [
      {
        children: [
          new Paragraph({ heading: HeadingLevel.TITLE, children: [text(title)] }),
          new Paragraph({ children: [text([presenter, date].filter((part) => part !== '').join(', '))], spacing: { after: 240 } }),
          ...parts.flatMap(({ heading, from, paragraphs, viewerNotes }) => [
            new Paragraph({
              heading: HeadingLevel.HEADING_1,
              children: [text(heading), text(`  ${clockText(from)}`, { color: '5D6A66' })],
            }),
            ...paragraphs.map((paragraph) => new Paragraph({ children: [text(paragraph)], spacing: { after: 160 } })),
            ...wordsOf(viewerNotes)
              .split('\n')
              .filter((line) => line.trim() !== '')
              .map((line) => new Paragraph({ children: [text(line, { italics: true })], indent: { left: 400 }, spacing: { after: 120 } })),
          ]),
        ],
      },
    ],
  })
  return await Packer.toBuffer(document)
}
