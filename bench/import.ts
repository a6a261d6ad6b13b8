import { createCanvas } from '@napi-rs/canvas'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { PDFDocument } from 'pdf-lib'
import { drawPage, openPdf, readDeckApart } from '@render/deck'
import { ensureBuilt } from '../scripts/start/build'
import { PROGRAMS_FOLDER } from '../scripts/start/programs'
import type { Figure } from './run'

const PAGES = 100
/** Bare drawing is drawing at 1080 lines, as an export does. */
const SCREEN = { width: 1920, height: 1920 }

/** A photograph, as far as packing and drawing can tell: a sky, a shore, and grain. */
function photograph(seed: number): Buffer {
  const [width, height] = [1600, 1000]
  const canvas = createCanvas(width, height)
  const ctx = canvas.getContext('2d')
  const picture = ctx.createImageData(width, height)
  let noise = seed * 7919 + 1
  for (let at = 0; at < picture.data.length; at += 4) {
    noise = (noise * 1_103_515_245 + 12_345) % 2_147_483_648
    const y = Math.floor(at / 4 / width) / height
    const grain = (noise / 2_147_483_648 - 0.5) * 26
    const wave = Math.sin((at / 4) % width / (30 + seed) + y * 40) * 20
    picture.data.set([120 + 90 * y + grain + wave, 150 + 30 * y + grain, 200 - 120 * y + grain, 255], at)
  }
  ctx.putImageData(picture, 0, 0)
  return canvas.toBuffer('image/jpeg', 88)
}

/** A deck of a hundred pages out of the two that ship. @param photos every second page has a photograph on it */
async function longDeck(path: string, photos: boolean): Promise<void> {
  const out = await PDFDocument.create()
  const pictures = photos ? await Promise.all([1, 2, 3, 4, 5].map(async (seed) => await out.embedJpg(photograph(seed)))) : []
  const sources = await Promise.all(['twelfths', 'swifts'].map(async (name) => await PDFDocument.load(readFileSync(`demo/talks/${name}/deck.pdf`))))
  const pages = sources.flatMap((source) => source.getPageIndices().map((page) => ({ source, page })))
  for (let n = 0; n < PAGES; n += 1) {
    const { source, page } = pages[n % pages.length] ?? { source: out, page: 0 }
    const [copy] = await out.copyPages(source, [page])
    const added = copy === undefined ? undefined : out.addPage(copy)
    const picture = pictures[n % 5]
    if (n % 2 === 1 && picture !== undefined) added?.drawImage(picture, { x: 40, y: 40, width: added.getWidth() * 0.7, height: added.getHeight() * 0.7 })
  }
  await writeFile(path, await out.save())
}

interface Measured { readonly first: number, readonly all: number, readonly bare: number, readonly pages: number }

async function measureDeck(folder: string, photos: boolean): Promise<Measured> {
  const path = join(folder, `${String(photos)}.pdf`)
  await longDeck(path, photos)
  // Whoever is first pays for loading the library's code; that is not counted.
  const document = await openPdf(path)
  await drawPage(await document.getPage(1), SCREEN)
  const bareBegan = performance.now()
  for (let n = 1; n <= document.numPages; n += 1) {
    const page = await document.getPage(n)
    await drawPage(page, SCREEN)
    page.cleanup()
  }
  const bare = performance.now() - bareBegan
  await document.destroy()
  const began = performance.now()
  let first = 0
  let pages = 0
  await readDeckApart(
    { files: [{ path, name: 'deck.pdf' }], out: folder, purpose: 'slides', maxPages: 1000, maxUnpacked: 0 },
    { time: 600_000, memory: 1536, programs: resolve(PROGRAMS_FOLDER), home: process.cwd() },
    (message) => {
      if (message.kind === 'slide') {
        pages += message.steps.length
        if (first === 0) first = performance.now() - began
      }
      return Promise.resolve()
    },
  )
  return { first: Math.round(first), all: Math.round(performance.now() - began), bare: Math.round(bare), pages }
}

/**
 * Reading a deck of a hundred pages as the worker has it read, in its own process and with everything stored, against
 * drawing its pages and nothing else, in one run. Every second page has a photograph; a deck of lines and letters alone
 * is measured beside it.
 */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const folder = mkdtempSync(join(tmpdir(), 'aisle-import-'))
  try {
    const mixed = await measureDeck(folder, true)
    const plain = await measureDeck(folder, false)
    const value = Number((mixed.all / mixed.bare).toFixed(2))
    return {
      value, unit: 'x', target: '1.2 or less of bare drawing, first slide within 2 s', ok: value <= 1.2 && Math.max(mixed.first, plain.first) <= 2000,
      detail: { mixed, plain, plainRatio: Number((plain.all / plain.bare).toFixed(2)) },
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
