import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { getDocument, PasswordResponses } from 'pdfjs-dist/legacy/build/pdf.mjs'
import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { Refusal, storableText } from '@core/model'
import type { Size } from '@core/model'

/** Longest title that is kept. */
const TITLE = 120

const library = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'))

interface CanvasAndContext {
  canvas: Canvas | null
  context: unknown
}

/** Gives the library canvases of the one copy that everything here draws with. */
class OneCanvasFactory {
  create(width: number, height: number): CanvasAndContext {
    const canvas = createCanvas(Math.max(1, width), Math.max(1, height))
    return { canvas, context: canvas.getContext('2d') }
  }

  reset(pair: CanvasAndContext, width: number, height: number): void {
    if (pair.canvas === null) return
    pair.canvas.width = Math.max(1, width)
    pair.canvas.height = Math.max(1, height)
  }

  destroy(pair: CanvasAndContext): void {
    pair.canvas = null
    pair.context = null
  }
}

/**
 * Opens a PDF. Scripts in it are not run, and nothing it names is fetched.
 * @throws Refusal `unreadable` when it is damaged, empty or locked
 */
export async function openPdf(path: string): Promise<PDFDocumentProxy> {
  const data = new Uint8Array(await readFile(path))
  try {
    return await getDocument({
      data,
      CanvasFactory: OneCanvasFactory,
      isEvalSupported: false,
      disableFontFace: true,
      useSystemFonts: false,
      enableXfa: false,
      disableAutoFetch: true,
      standardFontDataUrl: `${join(library, 'standard_fonts')}/`,
      cMapUrl: `${join(library, 'cmaps')}/`,
      cMapPacked: true,
      wasmUrl: `${join(library, 'wasm')}/`,
      verbosity: 0,
    }).promise
  } catch (error) {
    const name = error instanceof Error ? error.name : ''
    if (name === 'PasswordException') {
      const locked = (error as { code?: number }).code === PasswordResponses.NEED_PASSWORD
      throw new Refusal(
        'unreadable',
        locked
          ? 'This PDF is locked with a password. Save a copy without one and bring that.'
          : 'This PDF is locked. Save a copy without a password and bring that.',
      )
    }
    throw new Refusal('unreadable', 'This PDF is damaged and cannot be read. Export it again from the program it was made with.')
  }
}

/** An open PDF. */
export type PdfFile = PDFDocumentProxy

/** The page that an entry of an outline leads to, counted from 0: by reference or by its number; -1 when it leads nowhere. */
async function pageAt(document: PdfFile, target: unknown): Promise<number> {
  if (typeof target === 'number') return target
  if (target === null || typeof target !== 'object') return -1
  return await document.getPageIndex(target as never).catch(() => -1)
}

/** Titles that the document's own outline gives to pages, by page counted from 1; the outermost entry of a page counts. */
export async function outlineTitles(document: PdfFile): Promise<ReadonlyMap<number, string>> {
  const titles = new Map<number, string>()
  type Entries = Awaited<ReturnType<PdfFile['getOutline']>>
  const visit = async (entries: Entries | null | undefined, depth: number): Promise<void> => {
    if (entries == null || depth > 4) return
    for (const entry of entries.slice(0, 2000)) {
      const dest: unknown = typeof entry.dest === 'string' ? await document.getDestination(entry.dest) : entry.dest
      const target: unknown = Array.isArray(dest) ? dest[0] : null
      const at = await pageAt(document, target)
      const title = entry.title.replace(/\s+/g, ' ').trim().slice(0, TITLE)
      if (at >= 0 && title !== '' && !titles.has(at + 1)) titles.set(at + 1, title)
    }
    for (const entry of entries.slice(0, 2000)) await visit(entry.items as Entries, depth + 1)
  }
  await visit(await document.getOutline().catch(() => null), 0)
  return titles
}

/** A page's size as it is seen, turned where the file says so, in points. */
export function pageSize(page: PDFPageProxy): Size {
  const { width, height } = page.getViewport({ scale: 1 })
  return { width, height }
}

/** Draws a page as large as fits into `box`, on white. */
export async function drawPage(page: PDFPageProxy, box: Size): Promise<Canvas> {
  const natural = pageSize(page)
  const scale = Math.min(box.width / natural.width, box.height / natural.height)
  const viewport = page.getViewport({ scale })
  const canvas = createCanvas(Math.max(1, Math.round(viewport.width)), Math.max(1, Math.round(viewport.height)))
  // The library's types speak of the browser's canvas; this one has what it draws with.
  await page.render({ canvas: canvas as never, viewport, background: '#FFFFFF' }).promise
  return canvas
}

export interface PageWords {
  /** The largest text in the upper half of the page, else of all; or an empty string. */
  readonly title: string
  readonly text: string
}

/** Reads the words of a page. */
export async function pageWords(page: PDFPageProxy): Promise<PageWords> {
  const content = await page.getTextContent()
  const items = content.items.flatMap((item) =>
    'str' in item && item.str.trim() !== ''
      ? [
          {
            text: storableText(item.str.trim()),
            size: Math.hypot(Number(item.transform[2]), Number(item.transform[3])),
            y: Number(item.transform[5]),
          },
        ]
      : [],
  )
  const [, bottom = 0, , top = 0] = page.view
  const upper = items.filter((item) => item.y > bottom + (top - bottom) * 0.5)
  const heads = upper.length > 0 ? upper : items
  const largest = heads.reduce((most, item) => Math.max(most, item.size), 0)
  const from = heads.findIndex((item) => item.size > largest * 0.95)
  const rest = heads.slice(Math.max(0, from))
  const end = rest.findIndex((item) => item.size <= largest * 0.95)
  const title = rest
    .slice(0, end === -1 ? rest.length : end)
    .map((item) => item.text)
    .join(' ')
  return { title: title.slice(0, TITLE), text: items.map((item) => item.text).join(' ') }
}
