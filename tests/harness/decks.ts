import { PDFDict, PDFDocument, PDFName, PDFNumber, PDFString, StandardFonts, rgb } from 'pdf-lib'

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
  for (const { colour: [red, green, blue], title } of pages) {
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
