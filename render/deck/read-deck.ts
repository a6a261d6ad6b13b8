import { writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { addsOnly, contentOf, groundModel, keepsWords } from '@core/layout'
import type { GroundModel } from '@core/layout'
import { MOST_PICTURES, Refusal } from '@core/model'
import type { Size } from '@core/model'
import { openSources, pagesOf } from './deck-sources'
import type { DeckSource } from './deck-sources'
import type { DeckMessage, ReadDeckOrder, ReadPicture, ReadStep } from './messages'
import { drawPage, outlineTitles, pageSize, pageWords } from './pdf'
import { drawPicture, openPicture } from './picture'
import type { PictureFile } from './picture'
import { kindOf } from './sniff'

/** Pictures for the browser fit into this; thumbs and the search for content into these. */
const SCREEN: Size = { width: 1600, height: 1600 }
const THUMB: Size = { width: 480, height: 480 }
const LOOK: Size = { width: 256, height: 256 }
/** Pictures that are placed on slides made here are kept no larger. */
const PLACED: Size = { width: 3840, height: 3840 }
/** Around pictures that do not have the deck's shape. */
const GROUND = '#14201E'
/** What pages are drawn on. */
const PAPER = '#FFFFFF'
/** Pages that may be waiting to be stored while the next one is drawn. */
const WAITING = 3

/** A smaller picture. Clear parts get the ground, since the formats they are stored in have none. */
function shrink(canvas: Canvas, box: Size, ground: string): Canvas {
  const scale = Math.min(1, box.width / canvas.width, box.height / canvas.height)
  const small = createCanvas(Math.max(32, Math.round(canvas.width * scale)), Math.max(18, Math.round(canvas.height * scale)))
  const ctx = small.getContext('2d')
  ctx.fillStyle = ground
  ctx.fillRect(0, 0, small.width, small.height)
  ctx.imageSmoothingQuality = 'medium'
  ctx.drawImage(canvas, 0, 0, small.width, small.height)
  return small
}

interface Look { readonly pixels: Uint8ClampedArray, readonly width: number, readonly height: number, readonly ground: GroundModel }

/** A small picture of a page to look for things on. @param thumb of the page, since shrinking a large picture costs most */
function lookAt(thumb: Canvas): Look {
  const small = shrink(thumb, LOOK, PAPER)
  const pixels = small.getContext('2d').getImageData(0, 0, small.width, small.height).data
  return { pixels, width: small.width, height: small.height, ground: groundModel(pixels, small.width, small.height) }
}

interface Drawn extends Pick<ReadStep, 'source' | 'kind' | 'page' | 'size' | 'text'> {
  readonly canvas: Canvas
  readonly thumb: Canvas
  readonly name: string
}

/** Stores a step's pictures. */
async function keepStep(drawn: Drawn, look: Look, out: string): Promise<ReadStep> {
  const { canvas, thumb: small, name, ...rest } = drawn
  const ground = drawn.kind === 'page' ? PAPER : GROUND
  // JPEG is packed in a fifth of the time of WebP, and nothing that is exported is made from it.
  const screen = `${name}.jpg`
  const thumb = `${name}.thumb.jpg`
  await Promise.all([
    canvas.encode('jpeg', 91).then((bytes) => writeFile(join(out, screen), bytes)),
    small.encode('jpeg', 86).then((bytes) => writeFile(join(out, thumb), bytes)),
  ])
  return { ...rest, ground, screen, thumb, content: contentOf(look.pixels, look.width, look.height, look.ground) }
}

/** Shape of the deck: its first page's, or 16:9 for pictures and texts. */
async function shapeOf(sources: readonly DeckSource[]): Promise<Size> {
  const first = sources[0]
  if (first?.kind !== 'pdf') return { width: 16, height: 9 }
  const { width, height } = pageSize(await first.pdf.getPage(1))
  const ratio = width / height
  if (!(ratio > 0.2 && ratio < 5)) throw new Refusal('unreadable', 'The pages of this PDF are too long or too narrow for slides.')
  for (const [w, h] of [[16, 9], [4, 3], [16, 10], [1, 1], [9, 16]] as const) {
    if (Math.abs(ratio - w / h) < 0.01) return { width: w, height: h }
  }
  return { width: Math.round(width), height: Math.round(height) }
}

/** Makes a picture ready to be placed on a slide: upright, not larger than any video needs. */
async function keepPlaced(picture: PictureFile, alt: string, name: string, out: string): Promise<ReadPicture> {
  const canvas = await drawPicture(picture, PLACED)
  await writeFile(join(out, name), await canvas.encode('webp', 92))
  return { file: name, size: { width: canvas.width, height: canvas.height }, alt }
}

/** What is told in order, though some of it takes longer: told messages wait for those before them. */
class Telling {
  readonly #tell: (message: DeckMessage) => void
  readonly #waiting: Promise<void>[] = []
  #last: Promise<void> = Promise.resolve()

  constructor(tell: (message: DeckMessage) => void) {
    this.#tell = tell
  }

  /** Tells a message once it is there; returns when few enough are waiting. @throws what making a message threw */
  async put(message: Promise<DeckMessage>): Promise<void> {
    const before = this.#last
    this.#last = Promise.all([message, before]).then(([ready]) => { this.#tell(ready) })
    this.#last.catch(() => undefined)
    this.#waiting.push(this.#last)
    if (this.#waiting.length >= WAITING) await this.#waiting.shift()
  }

  async end(): Promise<void> {
    await this.#last
  }
}

async function readPdf(source: Extract<DeckSource, { kind: 'pdf' }>, number: number, order: ReadDeckOrder, telling: Telling): Promise<void> {
  const titles = await outlineTitles(source.pdf)
  let before: (Look & { readonly text: string }) | null = null
  for (const group of source.groups) {
    const steps: Promise<ReadStep>[] = []
    let title = ''
    let adds = false
    for (const at of group) {
      const page = await source.pdf.getPage(at)
      const words = await pageWords(page)
      title ||= titles.get(at) ?? words.title
      const canvas = await drawPage(page, SCREEN)
      const thumb = shrink(canvas, THUMB, PAPER)
      const look = lookAt(thumb)
      if (at === group[0]) adds = before !== null && keepsWords(before.text, words.text) && addsOnly(before.pixels, before.ground, look.pixels)
      before = { ...look, text: words.text }
      steps.push(keepStep({ source: source.source, kind: 'page', page: at, size: pageSize(page), text: words.text, canvas, thumb, name: `${String(number)}-${String(at)}` }, look, order.out))
      page.cleanup()
    }
    await telling.put(Promise.all(steps).then((made) => ({ kind: 'slide', title, steps: made, adds })))
  }
}

/**
 * Reads a deck: draws every page for the browser, finds its words and where its content is.
 * @param tell hears of the plan first, then of each slide as soon as it is whole
 * @throws Refusal naming the file that cannot be read
 */
export async function readDeck(order: ReadDeckOrder, tell: (message: DeckMessage) => void): Promise<void> {
  if (order.purpose === 'pictures') {
    await readPictures(order, tell)
    return
  }
  const sources = await openSources(order)
  const pages = sources.reduce((sum, source) => sum + pagesOf(source), 0)
  if (pages > order.maxPages) throw new Refusal('too-large', `These files have ${String(pages)} pages together; up to ${String(order.maxPages)} can be taken in.`)
  tell({ kind: 'plan', pages, shape: await shapeOf(sources) })
  const telling = new Telling(tell)
  for (const [number, source] of sources.entries()) {
    switch (source.kind) {
      case 'pdf': await readPdf(source, number, order, telling); break
      case 'picture': {
        const canvas = await drawPicture(source.picture, SCREEN, GROUND)
        const thumb = shrink(canvas, THUMB, GROUND)
        const step = keepStep({ source: source.source, kind: 'image', page: 1, size: source.picture.size, text: '', canvas, thumb, name: `${String(number)}-1` }, lookAt(thumb), order.out)
        await telling.put(step.then((made) => ({ kind: 'slide', title: basename(source.name).replace(/\.[^.]+$/, ''), steps: [made], adds: false })))
        break
      }
      case 'text':
        for (const [n, { draft, pictures }] of source.slides.entries()) {
          const placed = pictures.slice(0, MOST_PICTURES).map((picture, k) => keepPlaced(picture, picture.alt, `${String(number)}-${String(n)}-${String(k)}.webp`, order.out))
          await telling.put(Promise.all(placed).then((ready) => (
            { kind: 'composed', composition: { ...draft.composition, theme: 'paper' }, pictures: ready, notes: draft.notes, viewerNotes: draft.viewerNotes })))
        }
        break
    }
  }
  await telling.end()
  tell({ kind: 'done' })
}

async function readPictures(order: ReadDeckOrder, tell: (message: DeckMessage) => void): Promise<void> {
  for (const [n, { path, name }] of order.files.entries()) {
    if (await kindOf(path, name) !== 'picture') throw new Refusal('unreadable', 'Only pictures can be placed on a slide: PNG, JPEG or WebP.', { file: name })
    tell({ kind: 'picture', picture: await keepPlaced(await openPicture(path), basename(name).replace(/\.[^.]+$/, ''), `${String(n)}.webp`, order.out) })
  }
  tell({ kind: 'done' })
}
