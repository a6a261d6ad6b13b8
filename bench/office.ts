import { mkdtempSync, rmSync } from 'node:fs'
import { mkdir, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { min } from 'd3'
import { readDeckApart } from '@render/deck'
import { drawPage, openPdf, pageOf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import { AS_PDF, convertOffice } from '@render/office'
import type { OfficeConverter } from '@render/office'
import { ensureBuilt } from '../scripts/start/build'
import { PROGRAMS_FOLDER } from '../scripts/start/programs'
import { likeness } from '../tests/harness/likeness'
import { makeOfficeDeck } from '../tests/harness/office-decks'
import type { MadeSlide } from '../tests/harness/office-decks'
import type { Figure } from './figure'

const SLIDES = 30
const COLOURS = { red: 'CC3333', green: '339933', blue: '3333CC' } as const
type Colour = keyof typeof COLOURS
/** Where an object's middle is seen, in fractions of the slide; null: anywhere. */
type Seen = Readonly<Partial<Record<Colour, readonly [number, number] | null>>>

interface Pattern {
  readonly slide: MadeSlide
  /** What is seen before the first click and after each, marked by hand. */
  readonly marks: readonly Seen[]
  /** Its last state is what its page shows when nothing of it moves. */
  readonly endsWhole: boolean
}

const [WIDTH, HEIGHT] = [13.333, 7.5]
const HOME: Readonly<Record<Colour, readonly [number, number]>> = {
  red: [2 / WIDTH, 5 / HEIGHT],
  green: [6 / WIDTH, 5 / HEIGHT],
  blue: [10 / WIDTH, 5 / HEIGHT],
}

const boxes: MadeSlide['put'] = (slide) => {
  for (const colour of ['red', 'green', 'blue'] as const) {
    const [x, y] = HOME[colour]
    slide.addShape('rect', { x: x * WIDTH - 1, y: y * HEIGHT - 1, w: 2, h: 2, fill: { color: COLOURS[colour] } })
  }
  slide.addText('The swifts of the harbour wall come back in May, and leave when the nights grow cool', {
    ...{ x: 0.6, y: 0.5, w: 12, h: 1.6, fontSize: 30, bold: true },
  })
}
/** Ids of what `boxes` puts on a slide. */
const [RED, GREEN, BLUE] = [2, 3, 4]
const points: MadeSlide['put'] = (slide) => {
  slide.addText(
    (['red', 'green', 'blue'] as const).map((colour) => ({
      text: `■■■ ${colour} and what is said of it at some length`,
      options: { bullet: true, breakLine: true, color: COLOURS[colour] },
    })),
    { x: 0.6, y: 1.5, w: 9, h: 5, fontSize: 30, valign: 'middle' },
  )
}

const PATTERNS: readonly Pattern[] = [
  {
    slide: {
      put: boxes,
      effects: [
        { shape: RED, does: 'entrance', begins: 'click' },
        { shape: GREEN, does: 'entrance', how: 'fade', begins: 'click' },
      ],
    },
    marks: [{ blue: HOME.blue }, { blue: HOME.blue, red: HOME.red }, { ...HOME }],
    endsWhole: true,
  },
  {
    slide: {
      put: points,
      effects: [
        { shape: 2, paragraphs: [1, 1], does: 'entrance', begins: 'click' },
        { shape: 2, paragraphs: [2, 2], does: 'entrance', begins: 'click' },
      ],
    },
    marks: [{ red: null }, { red: null, green: null }, { red: null, green: null, blue: null }],
    endsWhole: true,
  },
  {
    slide: {
      put: boxes,
      effects: [
        { shape: RED, does: 'exit', begins: 'click' },
        { shape: GREEN, does: 'entrance', begins: 'with' },
        { shape: BLUE, does: 'path', path: 'M 0 0 L 0.1 -0.2 E', begins: 'click' },
      ],
    },
    marks: [
      { red: HOME.red, blue: HOME.blue },
      { green: HOME.green, blue: HOME.blue },
      { green: HOME.green, blue: [HOME.blue[0] + 0.1, HOME.blue[1] - 0.2] },
    ],
    endsWhole: false,
  },
  {
    slide: {
      put: boxes,
      effects: [
        { shape: BLUE, does: 'entrance', begins: 'after' },
        { shape: RED, does: 'entrance', how: 'fly', begins: 'click' },
        { shape: GREEN, does: 'entrance', begins: 'after' },
        { shape: RED, does: 'exit', begins: 'click' },
      ],
    },
    marks: [{ blue: HOME.blue }, { ...HOME }, { blue: HOME.blue, green: HOME.green }],
    endsWhole: false,
  },
  {
    slide: {
      put: boxes,
      effects: [
        { shape: GREEN, does: 'entrance', begins: 'click' },
        { shape: BLUE, does: 'emphasis', begins: 'with' },
        { shape: RED, does: 'entrance', begins: 'click' },
      ],
    },
    marks: [{ blue: HOME.blue }, { blue: HOME.blue, green: HOME.green }, { ...HOME }],
    endsWhole: true,
  },
]

const patternOf = (slide: number): Pattern => PATTERNS[slide % PATTERNS.length] as Pattern

/** Middles of the colours that are seen on a page, in fractions of it. */
async function coloursOn(pdf: PdfFile, page: number): Promise<ReadonlyMap<Colour, readonly [number, number]>> {
  const canvas = await drawPage(await pageOf(pdf, page), { width: 480, height: 480 })
  const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height)
  const found = new Map<Colour, readonly [number, number]>()
  for (const colour of Object.keys(COLOURS) as Colour[]) {
    const wanted = [0, 2, 4].map((at) => Number.parseInt(COLOURS[colour].slice(at, at + 2), 16))
    let [count, x, y] = [0, 0, 0]
    for (let n = 0; n < data.length; n += 4) {
      if (wanted.some((value, k) => Math.abs((data[n + k] ?? 0) - value) > 24)) continue
      count += 1
      x += (n / 4) % canvas.width
      y += Math.floor(n / 4 / canvas.width)
    }
    if (count > 40) found.set(colour, [x / count / canvas.width, y / count / canvas.height])
  }
  return found
}

/** How many objects of a page are not where they were marked, or are there though they were not. */
function wrongOn(found: ReadonlyMap<Colour, readonly [number, number]>, mark: Seen): number {
  return (Object.keys(COLOURS) as Colour[]).filter((colour) => {
    const [at, wanted] = [found.get(colour), mark[colour]]
    if (wanted === undefined || at === undefined) return (wanted === undefined) !== (at === undefined)
    return wanted !== null && Math.hypot(at[0] - wanted[0], at[1] - wanted[1]) > 0.01
  }).length
}

interface Reading {
  readonly first: number
  readonly all: number
  readonly steps: readonly number[]
}

/** Brings the deck in as the worker does. */
async function read(path: string, out: string, converter: OfficeConverter): Promise<Reading> {
  const began = performance.now()
  let first = 0
  const steps: number[] = []
  await readDeckApart(
    { files: [{ path, name: 'deck.pptx' }], out, purpose: 'slides', maxPages: 1000, converter, maxUnpacked: 500_000_000 },
    { time: 600_000, memory: 1536, programs: resolve(PROGRAMS_FOLDER), home: process.cwd() },
    (message) => {
      if (message.kind !== 'slide') return Promise.resolve()
      if (first === 0) first = performance.now() - began
      steps.push(message.steps.length)
      return Promise.resolve()
    },
  )
  return { first: Math.round(first), all: Math.round(performance.now() - began), steps }
}

/**
 * An office deck of thirty slides with sixty click steps: how soon it is there, with a new profile of what converts it and with a used
 * one; what each step shows against a list marked by hand; and last states against the deck as it is converted unrewritten.
 */
export async function measure(): Promise<Figure> {
  ensureBuilt()
  const folder = mkdtempSync(join(tmpdir(), 'aisle-office-'))
  try {
    const converter: OfficeConverter = {
      program: process.env['AISLE_OFFICE'] ?? '/usr/lib/libreoffice/program/soffice.bin',
      ...{ profile: join(folder, 'profile'), time: 600_000, memory: 3072 },
    }
    const path = join(folder, 'deck.pptx')
    await writeFile(path, await makeOfficeDeck(Array.from({ length: SLIDES }, (_, n) => patternOf(n).slide)))
    const outs = ['cold', 'warm', 'plain'].map((name) => join(folder, name))
    await Promise.all(outs.map((out) => mkdir(out)))
    const [coldOut = '', warmOut = '', plainOut = ''] = outs
    const cold = await read(path, coldOut, converter)
    const warm = await read(path, warmOut, converter)
    const pdf = await openPdf(join(warmOut, 'office-0-still.pdf'))
    const plain = await openPdf(await convertOffice(path, AS_PDF, plainOut, converter))
    let [page, wrong, states] = [0, 0, 0]
    const alike: number[] = []
    for (let n = 0; n < SLIDES; n += 1) {
      const { marks, endsWhole } = patternOf(n)
      const made = warm.steps[n] ?? 0
      if (made !== marks.length) wrong += 1
      const first = page
      page += made
      for (const [k, mark] of marks.slice(0, made).entries()) {
        states += 1
        wrong += wrongOn(await coloursOn(pdf, first + k + 1), mark)
      }
      if (!endsWhole) continue
      const [mine, theirs] = await Promise.all([drawn(pdf, page), drawn(plain, n + 1)])
      alike.push(likeness(mine.data, theirs.data, mine.width, mine.height).mean)
    }
    const least = min(alike) ?? 0
    const inTime = cold.first <= 10_000 && cold.all <= 25_000 && warm.first <= 6000 && warm.all <= 20_000
    return {
      value: warm.all,
      unit: 'ms',
      target: 'first and all within 10 and 25 s cold, 6 and 20 s warm; nothing wrong; likeness 0.99',
      ok: inTime && wrong === 0 && least >= 0.99,
      detail: {
        cold: { first: cold.first, all: cold.all },
        warm: { first: warm.first, all: warm.all },
        ...{ states, clicks: states - SLIDES, wrong, likeness: { least, pages: alike.length } },
      },
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

async function drawn(
  pdf: PdfFile,
  page: number,
): Promise<{ readonly data: Uint8ClampedArray; readonly width: number; readonly height: number }> {
  const canvas = await drawPage(await pageOf(pdf, page), { width: 960, height: 960 })
  const { width, height } = canvas
  return { data: canvas.getContext('2d').getImageData(0, 0, width, height).data, width, height }
}
