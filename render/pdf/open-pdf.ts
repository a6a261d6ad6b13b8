import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { getDocument, PagesMapper, PasswordResponses } from 'pdfjs-dist/legacy/build/pdf.mjs'
import type { PDFDocumentProxy, PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { Refusal } from '@core/model'
import type { Size } from '@core/model'

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

/**
 * A page of an open PDF. The library counts the pages of all open documents in one place, which holds those of the one opened last: it is
 * told anew for every page.
 * @param number counted from 1
 */
export async function pageOf(document: PdfFile, number: number): Promise<PDFPageProxy> {
  PagesMapper.instance.pagesNumber = document.numPages
  return await document.getPage(number)
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
