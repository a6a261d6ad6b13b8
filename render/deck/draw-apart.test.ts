import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { deflateSync } from 'node:zlib'
import { PDFDocument, PDFName, PDFRawStream, rgb } from 'pdf-lib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Refusal } from '@core/model'
import { DrawnApart } from '.'

const BOX = { width: 320, height: 180 }
let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-drawn-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

/** A side of a picture that is some kilobytes packed and 300 MB unpacked. */
const HUGE = 10_000

/** A PDF of one page that draws what is given. @param side of a black picture that it may draw as `/Im Do` */
async function pdfOf(name: string, content: string | null, side = 1): Promise<string> {
  const document = await PDFDocument.create()
  const page = document.addPage([960, 540])
  if (content === null) page.drawRectangle({ x: 0, y: 0, width: 960, height: 540, color: rgb(0, 0.5, 1) })
  else {
    const picture = {
      Type: 'XObject',
      Subtype: 'Image',
      Width: side,
      Height: side,
      ColorSpace: 'DeviceRGB',
      BitsPerComponent: 8,
      Filter: 'FlateDecode',
    }
    page.node.setXObject(
      PDFName.of('Im'),
      document.context.register(PDFRawStream.of(document.context.obj(picture), deflateSync(Buffer.alloc(side * side * 3)))),
    )
    page.node.set(
      PDFName.of('Contents'),
      document.context.register(PDFRawStream.of(document.context.obj({}), new TextEncoder().encode(content))),
    )
  }
  const path = join(folder, name)
  await writeFile(path, await document.save())
  return path
}

const bounds = (memory: number) => ({ memory, programs: null, home: process.cwd() })

describe('a page that is drawn apart', () => {
  it('looks as it is, again after its drawing program was killed', async () => {
    const apart = new DrawnApart(bounds(1024))
    const order = { path: await pdfOf('plain.pdf', null), page: 1, box: BOX }
    for (let n = 0; n < 2; n += 1) {
      const canvas = await apart.draw(order)
      expect([canvas.width, canvas.height]).toEqual([BOX.width, BOX.height])
      expect([...canvas.getContext('2d').getImageData(160, 90, 1, 1).data]).toEqual([0, 128, 255, 255])
      apart.close()
    }
  })

  it('is refused in words when it cannot be read or takes too much memory, and the next is drawn', async () => {
    const apart = new DrawnApart(bounds(1024))
    const broken = join(folder, 'broken.pdf')
    await writeFile(broken, '%PDF-1.7 and nothing else')
    await expect(apart.draw({ path: broken, page: 1, box: BOX })).rejects.toThrow(Refusal)
    const plain = { path: await pdfOf('next.pdf', null), page: 1, box: BOX }
    expect((await apart.draw(plain)).width).toBe(BOX.width)
    apart.close()
    const heavy = await pdfOf('heavy.pdf', '/Im Do', HUGE)
    const small = new DrawnApart(bounds(640))
    await expect(small.draw({ path: heavy, page: 1, box: BOX })).rejects.toThrow(/memory/)
    expect((await small.draw(plain)).width).toBe(BOX.width)
    small.close()
  })
})
