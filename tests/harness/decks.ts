import { createCanvas } from '@napi-rs/canvas'
import { PDFDict, PDFDocument, PDFName, PDFNumber, PDFString, StandardFonts, degrees, rgb } from 'pdf-lib'
import { ZipFile } from 'yazl'

export interface TestPage {
  /** Red, green, blue of the whole page, 0 to 255. */
  readonly colour: readonly [number, number, number]
  readonly title: string
  readonly label?: string
}

/** A deck whose pages are told apart by their colour. */
export async function makePdf(pages: readonly TestPage[]): Promise<Uint8Array> {
  const document = await PDFDocument.create()
  const font = await document.embedFont(StandardFonts.Helvetica)
  for (const {
    colour: [red, green, blue],
    title,
  } of pages) {
    const page = document.addPage([960, 540])
    page.drawRectangle({ x: 0, y: 0, width: 960, height: 540, color: rgb(red / 255, green / 255, blue / 255) })
    page.drawText(title, { x: 60, y: 440, size: 36, font })
  }
  if (pages.some((page) => page.label !== undefined)) {
    const numbers = pages.flatMap((page, at) => {
      const label = PDFDict.withContext(document.context)
      label.set(PDFName.of('P'), PDFString.of(page.label ?? ''))
      return [PDFNumber.of(at), label]
    })
    document.catalog.set(PDFName.of('PageLabels'), document.context.obj({ Nums: document.context.obj(numbers) }))
  }
  return await document.save()
}

export const KNOTS: readonly TestPage[] = [
  { colour: [240, 200, 190], title: 'Bowline', label: '1' },
  { colour: [190, 235, 195], title: 'Clove hitch', label: '2' },
  { colour: [190, 205, 245], title: 'Clove hitch, tightened', label: '2' },
  { colour: [245, 240, 180], title: 'Reef knot', label: '3' },
]

/** A form with one file in it. */
export function fileForm(name: string, bytes: Uint8Array): FormData {
  const form = new FormData()
  form.append('file', new Blob([new Uint8Array(bytes)]), name)
  return form
}

/** The head of a PNG that says it is this large, with no picture behind it. */
export function hugePng(width: number, height: number): Uint8Array {
  const bytes = Buffer.alloc(64)
  Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex').copy(bytes)
  bytes.writeUInt32BE(width, 16)
  bytes.writeUInt32BE(height, 20)
  Buffer.from('0806000000', 'hex').copy(bytes, 24)
  return bytes
}

/** A deck whose pages build up without saying so: the second and third each add a line to the one before, the fourth is another slide. */
export async function buildingPdf(): Promise<Uint8Array> {
  const document = await PDFDocument.create()
  const font = await document.embedFont(StandardFonts.Helvetica)
  const pages = [['Knots', 'Bowline'], ['Knots', 'Bowline', 'Reef knot'], ['Knots', 'Bowline', 'Reef knot', 'Clove hitch'], ['Weather']]
  for (const lines of pages) {
    const page = document.addPage([960, 540])
    for (const [n, line] of lines.entries()) page.drawText(line, { x: 60, y: 450 - n * 90, size: n === 0 ? 44 : 30, font })
  }
  return await document.save()
}

/** A deck with pages that are turned, of other sizes, and titled by an outline. */
export async function awkwardPdf(): Promise<Uint8Array> {
  const document = await PDFDocument.create()
  const font = await document.embedFont(StandardFonts.Helvetica)
  const sizes: readonly (readonly [number, number, number])[] = [
    [960, 540, 0],
    [540, 960, 90],
    [400, 400, 0],
  ]
  for (const [width, height, turn] of sizes) {
    const page = document.addPage([width, height])
    page.setRotation(degrees(turn))
    page.drawText('drawn words', { x: 60, y: height - 120, size: 30, font })
  }
  const refs = document.getPages().map((page) => page.ref)
  const outline = document.context.nextRef()
  const items = refs.map(() => document.context.nextRef())
  for (const [n, ref] of items.entries()) {
    const item = document.context.obj({ Parent: outline, Dest: document.context.obj([refs[n] ?? ref, PDFName.of('Fit')]) })
    item.set(PDFName.of('Title'), PDFString.of(`Outline ${String(n + 1)}`))
    if (items[n + 1] !== undefined) item.set(PDFName.of('Next'), items[n + 1] ?? ref)
    if (items[n - 1] !== undefined) item.set(PDFName.of('Prev'), items[n - 1] ?? ref)
    document.context.assign(ref, item)
  }
  const [first = outline] = items
  document.context.assign(
    outline,
    document.context.obj({ Type: 'Outlines', First: first, Last: items.at(-1) ?? first, Count: items.length }),
  )
  document.catalog.set(PDFName.of('Outlines'), outline)
  return await document.save()
}

/** A PDF that wants a password, as far as anybody can tell who has none. */
export function lockedPdf(): Uint8Array {
  const secret = '0123456789abcdef'.repeat(4)
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 960 540] >>',
    `<< /Filter /Standard /V 1 /R 2 /Length 40 /P -44 /O <${secret}> /U <${secret}> >>`,
  ]
  let body = '%PDF-1.4\n'
  const offsets = objects.map((object, n) => {
    const at = body.length
    body += `${String(n + 1)} 0 obj\n${object}\nendobj\n`
    return at
  })
  const xref = body.length
  body += `xref\n0 5\n0000000000 65535 f \n${offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('')}`
  body +=
    `trailer\n<< /Size 5 /Root 1 0 R /Encrypt 4 0 R /ID [<00112233445566778899aabbccddeeff> ` +
    `<00112233445566778899aabbccddeeff>] >>\nstartxref\n${String(xref)}\n%%EOF\n`
  return Buffer.from(body, 'latin1')
}

/** A picture of one colour. */
export function plainPng(width: number, height: number, colour: string): Buffer {
  const canvas = createCanvas(width, height)
  const ctx = canvas.getContext('2d')
  ctx.fillStyle = colour
  ctx.fillRect(0, 0, width, height)
  return canvas.toBuffer('image/png')
}

/** Packs files under their names. */
export async function makeZip(files: Readonly<Record<string, Uint8Array | string>>): Promise<Buffer> {
  const zip = new ZipFile()
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content), name)
  zip.end()
  const parts: Buffer[] = []
  for await (const part of zip.outputStream) parts.push(Buffer.from(part))
  return Buffer.concat(parts)
}

/** A lesson as a text, with a picture beside it, points that come by item, and notes of both kinds. */
export const LESSON = `# Tides for beginners

Harbour school, third lesson

\`\`\`notes
Welcome back. [pause]
\`\`\`

## Why the water comes back

[by item]

- The moon pulls the sea
- The earth turns under it

\`\`\`viewer-notes
See the harbour almanac.
\`\`\`

## The pier

![The pier at low water](pier.png)
`
