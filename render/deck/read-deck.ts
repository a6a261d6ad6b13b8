import { writeFile } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { basename, join } from 'node:path'
import { addsOnly, keepsWords } from '@core/layout'
import { MOST_PICTURES, Refusal } from '@core/model'
import type { Size } from '@core/model'
import { outlineTitles, pageOf, pageSize } from '@render/pdf'
import { about, documentOf, filmOfAnimation, openSources, pagesOf, slidesOf } from './deck-sources'
import type { DeckSource } from './deck-sources'
import type { DeckMessage, ReadDeckOrder, ReadPicture, SlideFacts } from './messages'
import { officeMessage, slideOf } from './office-slides'
import { drawPicture, openPicture } from './picture'
import type { PictureFile } from './picture'
import { keepStep, PICTURE_GROUND, SCREEN } from './read-pages'
import type { ReadPage } from './read-pages'
import { sharePages } from './share-pages'
import type { StartHelper } from './share-pages'
import { kindOf } from './sniff'

/** Pictures that are placed on slides made here are kept no larger. */
const PLACED: Size = { width: 3840, height: 3840 }
/** Slides that may be waiting to be told while the next one is read. */
const WAITING = 3
/** Most threads that help to read a PDF: each holds the file once more. */
const MOST_HELPERS = 3

/** Shape of the deck: its first page's, or 16:9 for pictures and texts. */
async function shapeOf(sources: readonly DeckSource[]): Promise<Size> {
  const first = sources[0]
  if (first?.kind !== 'pdf' && first?.kind !== 'office') return { width: 16, height: 9 }
  const { width, height } = pageSize(await pageOf(documentOf(first).pdf, 1))
  const ratio = width / height
  if (!(ratio > 0.2 && ratio < 5)) throw new Refusal('unreadable', 'The pages of this PDF are too long or too narrow for slides.')
  for (const [w, h] of [
    [16, 9],
    [4, 3],
    [16, 10],
    [1, 1],
    [9, 16],
  ] as const) {
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
    this.#last = Promise.all([message, before]).then(([ready]) => {
      this.#tell(ready)
    })
    this.#last.catch(() => undefined)
    this.#waiting.push(this.#last)
    if (this.#waiting.length >= WAITING) await this.#waiting.shift()
  }

  async end(): Promise<void> {
    await this.#last
  }
}

/** How many threads help this one: every further processor has one. */
const helpers = (): number => Math.min(MOST_HELPERS, availableParallelism() - 1)

async function readPdf(
  source: Extract<DeckSource, { kind: 'pdf' | 'office' }>,
  number: number,
  order: ReadDeckOrder,
  shape: Size,
  telling: Telling,
  startHelper: StartHelper,
): Promise<void> {
  const { pdf, path, groups } = documentOf(source)
  const titles = source.kind === 'office' ? new Map<number, string>() : await outlineTitles(pdf)
  let before: ReadPage | undefined
  for (const [n, reading] of sharePages(
    pdf,
    path,
    groups,
    { source: source.source, number, out: order.out, shape },
    helpers(),
    startHelper,
  ).entries()) {
    const { pages, steps } = await reading
    const first = pages[0]
    const said = source.kind === 'office' ? slideOf(source.office, n, steps) : { title: '', steps, facts: notedFacts(pages, source.notes) }
    const title = said.title || (pages.map((page) => titles.get(page.page) ?? page.title).find((words) => words !== '') ?? '')
    await telling.put(Promise.resolve({ kind: 'slide', ...said, title, adds: addsTo(before, first) }))
    before = pages.at(-1)
  }
}

/** The notes of a slide of a PDF: what hangs on its pages, and what stands on their notes pages. */
function notedFacts(pages: readonly ReadPage[], behind: readonly string[] | null): SlideFacts | null {
  const notes = pages
    .flatMap((page) => [page.notes, behind?.[page.page - 1] ?? ''])
    .filter((words, n, all) => words !== '' && all.indexOf(words) === n)
    .join('\n\n')
  return notes === '' ? null : { section: '', notes, description: '', skip: false, transition: 'cut', planned: null }
}

/** Whether a page only adds to the one before it. */
function addsTo(before: ReadPage | undefined, page: ReadPage | undefined): boolean {
  if (before === undefined || page === undefined) return false
  return keepsWords(before.text, page.text) && addsOnly(before.image.pixels, before.image.ground, page.image.pixels)
}

/**
 * Reads a deck: draws every page for the browser, finds its words and where its content is.
 * @param tell hears of the plan first, then of each slide as soon as it is whole
 * @param startHelper starts a thread that helps with a long PDF
 * @throws Refusal naming the file that cannot be read
 */
export async function readDeck(order: ReadDeckOrder, tell: (message: DeckMessage) => void, startHelper: StartHelper): Promise<void> {
  if (order.purpose === 'pictures') {
    await readPictures(order, tell)
    return
  }
  if (order.purpose === 'clips') {
    await findClips(order, tell)
    return
  }
  const sources = await openSources(order)
  const pages = sources.reduce((sum, source) => sum + pagesOf(source), 0)
  if (pages > order.maxPages)
    throw new Refusal('too-large', `These files have ${String(pages)} pages together; up to ${String(order.maxPages)} can be taken in.`)
  const shape = await shapeOf(sources)
  tell({ kind: 'plan', pages, shape })
  const telling = new Telling(tell)
  let slides = 0
  for (const [number, source] of sources.entries()) {
    switch (source.kind) {
      case 'pdf':
        await readPdf(source, number, order, shape, telling, startHelper)
        break
      case 'office': {
        const first = slides
        await readPdf(source, number, order, shape, telling, startHelper)
        await telling.put(officeMessage(source.office, source.name, first, order))
        break
      }
      case 'picture': {
        const canvas = await drawPicture(source.picture, SCREEN, PICTURE_GROUND)
        const picture = {
          source: source.source,
          kind: 'image',
          page: 1,
          size: source.picture.size,
          text: '',
          canvas,
          name: `${String(number)}-1`,
        } as const
        const title = basename(source.name).replace(/\.[^.]+$/, '')
        await telling.put(
          keepStep(picture, order.out).step.then((made) => ({ kind: 'slide', title, steps: [made], adds: false, facts: null })),
        )
        break
      }
      case 'film':
        await telling.put(Promise.resolve({ kind: 'film', source: source.source, name: source.name }))
        break
      case 'text':
        for (const [n, { draft, pictures }] of source.slides.entries()) {
          const placed = pictures
            .slice(0, MOST_PICTURES)
            .map((picture, k) => keepPlaced(picture, picture.alt, `${String(number)}-${String(n)}-${String(k)}.webp`, order.out))
          await telling.put(
            Promise.all(placed).then((ready) => ({
              kind: 'composed',
              composition: { ...draft.composition, theme: 'paper' },
              pictures: ready,
              notes: draft.notes,
              viewerNotes: draft.viewerNotes,
            })),
          )
        }
        break
    }
    slides += slidesOf(source)
  }
  await telling.end()
  tell({ kind: 'done' })
}

async function readPictures(order: ReadDeckOrder, tell: (message: DeckMessage) => void): Promise<void> {
  for (const [n, { path, name }] of order.files.entries()) {
    // A moving picture stands still where it is placed.
    if (!['picture', 'animation'].includes(await kindOf(path, name)))
      throw new Refusal('unreadable', 'Only pictures can be placed on a slide: PNG, JPEG or WebP.', { file: name })
    tell({
      kind: 'picture',
      picture: await keepPlaced(await openPicture(path), basename(name).replace(/\.[^.]+$/, ''), `${String(n)}.webp`, order.out),
    })
  }
  tell({ kind: 'done' })
}

const NO_CLIP = 'Only films, moving pictures and sounds can be clips: MP4, MOV, WebM, GIF, WebP, MP3, WAV and their like.'
const STILL_PICTURE = 'A still picture goes on a slide that is made here. Drop it between the slides, and it becomes a slide of its own.'

/** Tells films and sounds that are for a slide; they are opened by whoever makes clips of them. */
async function findClips(order: ReadDeckOrder, tell: (message: DeckMessage) => void): Promise<void> {
  for (const [file, { path, name }] of order.files.entries()) {
    const kind = await kindOf(path, name).catch(() => null)
    if (kind === 'picture') throw new Refusal('unreadable', STILL_PICTURE, { file: name })
    if (kind !== 'film' && kind !== 'animation') throw new Refusal('unreadable', NO_CLIP, { file: name })
    const source = kind === 'film' ? ({ kind: 'file', file } as const) : await about(name, () => filmOfAnimation(path, file, order))
    tell({ kind: 'film', source, name })
  }
  tell({ kind: 'done' })
}
