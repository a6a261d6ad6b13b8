import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PDFDocument } from 'pdf-lib'
import { expect, it } from 'vitest'
import { readDeckApart } from '@render/deck'
import type { DeckMessage } from '@render/deck'

const PAGES = 20

/** Every page says its number, and has a block at a place of its own. */
async function numberedDeck(path: string): Promise<void> {
  const deck = await PDFDocument.create()
  for (let n = 1; n <= PAGES; n += 1) {
    const page = deck.addPage([960, 540])
    page.drawText(`Ringing number ${String(n)}`, { x: 60, y: 460, size: 40 })
    page.drawRectangle({ x: 40 * n, y: 60, width: 30, height: 30 })
  }
  await writeFile(path, await deck.save())
}

it('tells the slides of a long PDF in order, each with its own words and pictures, however many threads read them', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-share-pages-'))
  try {
    const path = join(folder, 'deck.pdf')
    await numberedDeck(path)
    const told: DeckMessage[] = []
    await readDeckApart(
      { files: [{ path, name: 'deck.pdf' }], out: folder, purpose: 'slides', maxPages: 100, converter: null, maxUnpacked: 0 },
      { time: 60_000, memory: 1536, programs: null, home: process.cwd() },
      (message) => {
        told.push(message)
        return Promise.resolve()
      },
    )
    expect(told.map((message) => message.kind)).toEqual(['plan', ...Array.from({ length: PAGES }, () => 'slide'), 'done'])
    const slides = told.flatMap((message) => (message.kind === 'slide' ? [message] : []))
    expect(slides.map((slide) => slide.title)).toEqual(Array.from({ length: PAGES }, (_, n) => `Ringing number ${String(n + 1)}`))
    expect(slides.map((slide) => slide.steps.map((step) => step.page))).toEqual(Array.from({ length: PAGES }, (_, n) => [n + 1]))
    expect(slides.every((slide) => !slide.adds)).toBe(true)
    const written = await readdir(folder)
    expect(
      slides.flatMap((slide) => slide.steps.flatMap((step) => [step.screen, step.thumb])).filter((file) => !written.includes(file)),
    ).toEqual([])
    expect(new Set(slides.map((slide) => slide.steps[0]?.content)).size).toBeGreaterThan(PAGES / 2)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
})
