import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PDFDocument, PDFString } from 'pdf-lib'
import { expect, it } from 'vitest'
import { readDeck, readDeckApart } from '@render/deck'
import type { DeckMessage } from '@render/deck'

const PAGES = 20

/** Every page says its number, and has a block at a place of its own. */
async function numberedDeck(path: string, pages = PAGES): Promise<void> {
  const deck = await PDFDocument.create()
  for (let n = 1; n <= pages; n += 1) {
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

/** What is told of some files that are brought together. */
async function told(folder: string, names: readonly string[]): Promise<readonly Extract<DeckMessage, { kind: 'slide' }>[]> {
  const slides: Extract<DeckMessage, { kind: 'slide' }>[] = []
  const files = names.map((name) => ({ path: join(folder, name), name }))
  const helper = (): never => {
    throw new Error('a short deck needs no help')
  }
  await readDeck(
    { files, out: folder, purpose: 'slides', maxPages: 100, converter: null, maxUnpacked: 0 },
    (message) => {
      if (message.kind === 'slide') slides.push(message)
    },
    helper,
  )
  return slides
}

it('reads a long PDF that is brought together with a short one behind it', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-two-'))
  try {
    await numberedDeck(join(folder, 'a.pdf'), 7)
    await numberedDeck(join(folder, 'b.pdf'), 2)
    const titles = (await told(folder, ['a.pdf', 'b.pdf'])).map(({ title }) => title)
    expect(titles).toEqual([...Array.from({ length: 7 }, (_, n) => n + 1), 1, 2].map((n) => `Ringing number ${String(n)}`))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
})

it('takes the notes of a PDF from its notes pages, and from notes that hang on its pages', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-notes-'))
  try {
    const behind = await PDFDocument.create()
    const titles = ['Ebb', 'Flow']
    for (const title of titles) behind.addPage([960, 540]).drawText(title, { x: 60, y: 460, size: 40 })
    for (const [n, title] of titles.entries()) {
      const page = behind.addPage([540, 780])
      page.drawText(title, { x: 60, y: 700, size: 16 })
      if (n === 0) page.drawText('Ask who has seen it go out.', { x: 60, y: 300, size: 12 })
      page.drawText(String(n + 1), { x: 500, y: 20, size: 10 })
    }
    await writeFile(join(folder, 'behind.pdf'), await behind.save())
    // An appendix of upright pages is none.
    const appendix = await PDFDocument.create()
    for (const title of titles) appendix.addPage([960, 540]).drawText(title, { x: 60, y: 460, size: 40 })
    for (const title of ['Tables', 'Sources']) appendix.addPage([540, 780]).drawText(title, { x: 60, y: 700, size: 16 })
    await writeFile(join(folder, 'appendix.pdf'), await appendix.save())
    const hanging = await PDFDocument.create()
    const page = hanging.addPage([960, 540])
    page.drawText('Spring tides', { x: 60, y: 460, size: 40 })
    const note = hanging.context.obj({ Type: 'Annot', Subtype: 'Text', Rect: [0, 0, 20, 20], Contents: PDFString.of('Twice a month.') })
    page.node.addAnnot(hanging.context.register(note))
    await writeFile(join(folder, 'hanging.pdf'), await hanging.save())
    const notes = async (name: string) => (await told(folder, [name])).map(({ facts }) => facts?.notes ?? '')
    expect(await notes('behind.pdf')).toEqual(['Ask who has seen it go out.', ''])
    expect(await notes('hanging.pdf')).toEqual(['Twice a month.'])
    expect(await notes('appendix.pdf')).toEqual(['', '', '', ''])
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
})
