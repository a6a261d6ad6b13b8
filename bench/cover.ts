import { mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { randomLcg } from 'd3'
import { PDFDocument, StandardFonts, rgb } from 'pdf-lib'
import type { PDFFont, PDFPage } from 'pdf-lib'
import { USUAL_SIZE, freeOnAll, insetExtent, insetPlaces, placeOverDeck, summedArea, sumWithin } from '@core/layout'
import type { Rect, Size } from '@core/model'
import { readDeckApart } from '@render/deck'
import { drawPage, openPdf, pageOf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import { ensureBuilt } from '../scripts/start/build'
import { PROGRAMS_FOLDER } from '../scripts/start/programs'
import type { Figure } from './figure'

const SLIDES = 60
const WIDE: Size = { width: 960, height: 540 }
const PLACES = insetPlaces(WIDE)
const WORDS = 'swift harbour wall ringing dusk count tide gauge nest eaves screaming party fledge moult roost wind'.split(' ')

/** Whether two rectangles, in fractions of a slide, touch. */
const touch = (a: Rect, b: Rect): boolean => a.x < b.x + b.w && a.x + a.w > b.x && a.y < b.y + b.h && a.y + a.h > b.y

interface Dense {
  readonly page: PDFPage
  readonly font: PDFFont
  readonly holes: readonly Rect[]
  readonly random: () => number
}

/** Fills a page with small type and thin strokes, but for its holes. */
function fill({ page, font, holes, random }: Dense): void {
  const clear = (box: Rect): boolean => holes.every((hole) => !touch(box, hole))
  const { width, height } = WIDE
  const size = 7 + random() * 9
  const tinted = random() < 0.4
  if (tinted) page.drawRectangle({ x: 0, y: 0, width, height, color: rgb(0.93, 0.96, 0.95) })
  page.drawText('What the ringing group saw', { x: 40, y: height - 44, size: 26, font })
  for (let y = height - 70; y > 16; y -= size * 1.5) {
    let x = 30
    while (x < width - 60) {
      const word = WORDS[Math.floor(random() * WORDS.length)] ?? ''
      const long = font.widthOfTextAtSize(word, size)
      const box = { x: x / width, y: (height - y - size) / height, w: long / width, h: (size * 1.4) / height }
      if (clear(box) && random() < 0.92) page.drawText(word, { x, y, size, font, color: rgb(0.35, 0.4, 0.45) })
      x += long + size * 0.6
    }
  }
  for (let n = 0; n < 12; n += 1) {
    const [x1, y1, x2, y2] = [random(), random(), random(), random()]
    const box = { x: Math.min(x1, x2), y: Math.min(y1, y2), w: Math.abs(x1 - x2), h: Math.abs(y1 - y2) }
    if (!clear(box)) continue
    page.drawLine({
      ...{ start: { x: x1 * width, y: (1 - y1) * height }, end: { x: x2 * width, y: (1 - y2) * height } },
      ...{ thickness: 0.6, color: rgb(0.7, 0.5, 0.4) },
    })
  }
}

/** A room somewhere below the heading, larger than the face by some. */
function roomOf(random: () => number): Rect {
  const { w, h } = insetExtent('card', USUAL_SIZE * (0.8 + random() * 1.2), WIDE)
  const room = { w: Math.min(0.9, w + 0.08), h: Math.min(0.8, h + 0.1) }
  return { x: random() * (1 - room.w), y: 0.14 + random() * (0.86 - room.h), ...room }
}

/** The same room as words leave it that end where they end: each of its edges is a little elsewhere on every slide. */
function ragged({ x, y, w, h }: Rect, random: () => number): Rect {
  const [left, top, right, bottom] = [0.04, 0.05, 0.04, 0.05].map((most) => random() * most)
  return { x: x - (left ?? 0), y: y - (top ?? 0), w: w + (left ?? 0) + (right ?? 0), h: h + (top ?? 0) + (bottom ?? 0) }
}

/** A deck of dense pages with room for a face somewhere: a place that stays for some slides, and then is another one. */
async function denseDeck(path: string): Promise<void> {
  const random = randomLcg(0.3173)
  const deck = await PDFDocument.create()
  const font = await deck.embedFont(StandardFonts.Helvetica)
  let room = roomOf(random)
  for (let n = 0; n < SLIDES; n += 1) {
    if (random() < 0.2) room = roomOf(random)
    const page = deck.addPage([WIDE.width, WIDE.height])
    const { w, h } = insetExtent('card', USUAL_SIZE * 1.25, WIDE)
    // Some slides have a second place free, so that there is something to choose; some have none.
    const corner = random() < 0.4 ? [{ x: 1 - w, y: 1 - h, w, h }] : []
    fill({ page, font, random, holes: [...(n % 11 === 10 ? [] : [ragged(room, random)]), ...corner] })
  }
  await writeFile(path, await deck.save())
}

/** How many pixels of a page, drawn large, are glyphs or strokes within a rectangle. */
async function inkOf(pdf: PdfFile, number: number): Promise<(rect: Rect) => number> {
  const canvas = await drawPage(await pageOf(pdf, number), { width: 1600, height: 1600 })
  const { width, height } = canvas
  const { data } = canvas.getContext('2d').getImageData(0, 0, width, height)
  const dark = (at: number): number => (Math.min(data[at * 4] ?? 0, data[at * 4 + 1] ?? 0, data[at * 4 + 2] ?? 0) < 225 ? 1 : 0)
  const area = summedArea(width, height, dark)
  return ({ x, y, w, h }) =>
    sumWithin(area, Math.floor(x * width), Math.floor(y * height), Math.ceil((x + w) * width), Math.ceil((y + h) * height))
}

/** The corner that is free, the lower right one before the others; else the place that is liked best. Each slide for itself. */
function nearestFree(ink: (rect: Rect) => number): number | null {
  let best: number | null = null
  for (const [n, place] of PLACES.entries()) {
    if (ink(place.rect) === 0 && (best === null || place.cost < (PLACES[best]?.cost ?? Infinity))) best = n
  }
  return best
}

const changesOf = (places: readonly (number | null)[]): number => {
  const there = places.filter((place) => place !== null)
  return there.filter((place, n) => n > 0 && place !== there[n - 1]).length
}

/**
 * Where the face is proposed on a deck of dense pages: what it touches of glyphs and strokes, drawn large, wherever some place of at least
 * 60% of the usual size is free; and how often it changes its place against a rule that takes the nearest free place of each slide.
 */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const folder = mkdtempSync(join(tmpdir(), 'aisle-cover-'))
  try {
    const path = join(folder, 'deck.pdf')
    await denseDeck(path)
    const free: (string | null)[] = []
    await readDeckApart(
      { files: [{ path, name: 'deck.pdf' }], out: folder, purpose: 'slides', maxPages: 1000, maxUnpacked: 0, converter: null },
      { time: 600_000, memory: 1536, programs: resolve(PROGRAMS_FOLDER), home: process.cwd() },
      (message) => {
        if (message.kind !== 'slide') return Promise.resolve()
        free.push(freeOnAll(message.steps.map((step) => step.free)))
        return Promise.resolve()
      },
    )
    const chosen = placeOverDeck(free, PLACES)
    const pdf = await openPdf(path)
    const nearest: (number | null)[] = []
    let [touched, withRoom, without] = [0, 0, 0]
    for (let n = 0; n < SLIDES; n += 1) {
      const ink = await inkOf(pdf, n + 1)
      const rule = nearestFree(ink)
      nearest.push(rule)
      if (rule === null) continue
      withRoom += 1
      const place = PLACES[chosen[n] ?? -1]
      if (place === undefined) without += 1
      else if (ink(place.rect) > 0) touched += 1
    }
    const [moves, ruleMoves] = [changesOf(chosen), changesOf(nearest)]
    const least = changesOf(
      placeOverDeck(
        free,
        PLACES.map((place) => ({ ...place, cost: 0 })),
      ),
    )
    return {
      value: touched + without,
      unit: 'slides',
      target: '0 touched wherever a place of 60% is free; changes at most half of the rule',
      ok: touched + without === 0 && moves <= ruleMoves / 2,
      detail: { slides: SLIDES, withRoom, touched, without, moves, ruleMoves, leastMoves: least },
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
