import { createCanvas } from '@napi-rs/canvas'
import { median } from 'd3'
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { PDFDocument } from 'pdf-lib'
import { readDeckApart } from '@render/deck'
import { ensureBuilt } from '../scripts/start/build'
import { bundle, programFile, PROGRAMS_FOLDER } from '../scripts/start/programs'
import { medianPair } from './pairs'
import type { Figure } from './figure'

const PAGES = 100
const PAIRS = 3

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
    const wave = Math.sin(((at / 4) % width) / (30 + seed) + y * 40) * 20
    picture.data.set([120 + 90 * y + grain + wave, 150 + 30 * y + grain, 200 - 120 * y + grain, 255], at)
  }
  ctx.putImageData(picture, 0, 0)
  return canvas.toBuffer('image/jpeg', 88)
}

/** A deck of a hundred pages out of the two that ship. @param photos every second page has a photograph on it */
async function longDeck(path: string, photos: boolean): Promise<void> {
  const out = await PDFDocument.create()
  const pictures = photos ? await Promise.all([1, 2, 3, 4, 5].map(async (seed) => await out.embedJpg(photograph(seed)))) : []
  const sources = await Promise.all(
    ['twelfths', 'swifts'].map(async (name) => await PDFDocument.load(readFileSync(`demo/talks/${name}/deck.pdf`))),
  )
  const pages = sources.flatMap((source) => source.getPageIndices().map((page) => ({ source, page })))
  for (let n = 0; n < PAGES; n += 1) {
    const { source, page } = pages[n % pages.length] ?? { source: out, page: 0 }
    const [copy] = await out.copyPages(source, [page])
    const added = copy === undefined ? undefined : out.addPage(copy)
    const picture = pictures[n % 5]
    if (n % 2 === 1 && picture !== undefined)
      added?.drawImage(picture, { x: 40, y: 40, width: added.getWidth() * 0.7, height: added.getHeight() * 0.7 })
  }
  await writeFile(path, await out.save())
}

interface Reading {
  readonly first: number
  readonly all: number
  readonly pages: number
}

/** Reads a deck as the worker has it read. @returns ms to the first slide and to the last, and how many pages there were */
async function readWhole(path: string, folder: string): Promise<Reading> {
  const began = performance.now()
  let first = 0
  let pages = 0
  await readDeckApart(
    { files: [{ path, name: 'deck.pdf' }], out: folder, purpose: 'slides', maxPages: 1000, converter: null, maxUnpacked: 0 },
    { time: 600_000, memory: 1536, programs: resolve(PROGRAMS_FOLDER), home: process.cwd() },
    (message) => {
      if (message.kind === 'slide') {
        pages += message.steps.length
        if (first === 0) first = performance.now() - began
      }
      return Promise.resolve()
    },
  )
  return { first: Math.round(first), all: Math.round(performance.now() - began), pages }
}

const drawBare = (path: string): number =>
  Math.round(Number(execFileSync(process.execPath, [programFile('draw-bare'), path], { encoding: 'utf8' })))

async function measureDeck(
  folder: string,
  photos: boolean,
): Promise<ReturnType<typeof medianPair> & { readonly bare: readonly number[]; readonly readings: readonly Reading[] }> {
  const path = join(folder, `${String(photos)}.pdf`)
  await longDeck(path, photos)
  const bare: number[] = []
  const readings: Reading[] = []
  for (let n = 0; n < PAIRS; n += 1) {
    bare.push(drawBare(path))
    readings.push(await readWhole(path, folder))
  }
  return {
    ...medianPair(
      readings.map((reading) => reading.all),
      bare,
    ),
    bare,
    readings,
  }
}

/**
 * Reading a deck of a hundred pages as the worker has it read, in its own process and with everything stored, against
 * drawing its pages and nothing else, in turn. Every second page has a photograph; a deck of lines and letters alone
 * is measured beside it.
 */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  bundle('draw-bare')
  const folder = mkdtempSync(join(tmpdir(), 'aisle-import-'))
  try {
    const mixed = await measureDeck(folder, true)
    const plain = await measureDeck(folder, false)
    const first = median([...mixed.readings, ...plain.readings].map((reading) => reading.first)) ?? NaN
    return {
      value: mixed.value,
      unit: 'x',
      target: '1.2 or less of bare drawing, first slide within 2 s',
      ok: mixed.value <= 1.2 && first <= 2000,
      detail: { first, mixed, plain },
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
