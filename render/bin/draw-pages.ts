import { once } from 'node:events'
import { createInterface } from 'node:readline'
import type { Canvas } from '@napi-rs/canvas'
import { Refusal } from '@core/model'
import { drawPicture, openPicture } from '@render/deck'
import type { DrawAnswer, DrawOrder } from '@render/deck'
import { drawPage, openPdf, pageOf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'

const documents = new Map<string, Promise<PdfFile>>()

async function draw({ path, page: number, box }: DrawOrder): Promise<Canvas> {
  if (number === null) return await drawPicture(await openPicture(path), box)
  const opening = documents.get(path) ?? openPdf(path)
  documents.set(path, opening)
  const page = await pageOf(await opening, number)
  try {
    return await drawPage(page, box)
  } finally {
    page.cleanup()
  }
}

async function say(answer: DrawAnswer, pixels?: Uint8Array): Promise<void> {
  const whole = process.stdout.write(`${JSON.stringify(answer)}\n`)
  const all = pixels === undefined ? whole : process.stdout.write(pixels)
  if (!all) await once(process.stdout, 'drain')
}

for await (const line of createInterface({ input: process.stdin })) {
  try {
    // Our own server wrote it; it is not a border.
    const canvas = await draw(JSON.parse(line) as DrawOrder)
    const { width, height } = canvas
    await say(
      { kind: 'drawn', size: { width, height } },
      new Uint8Array(canvas.getContext('2d').getImageData(0, 0, width, height).data.buffer),
    )
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    await say({ kind: 'refused', code: error.code, sentence: error.message })
  }
}
