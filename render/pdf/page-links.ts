import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { isWebAddress } from '@core/model'
import type { PageLink } from '@core/model'

/** Most links of a page, and longest address of one, in signs: more is no link that anybody made by hand. */
const MOST_LINKS = 100
const LONGEST = 2000

const within = (value: number): number => Math.min(1, Math.max(0, value))

/** What an annotation of a page is told by, as far as it is of use here; the file may say anything. */
export interface Annotation {
  readonly subtype?: unknown
  readonly contentsObj?: { readonly str?: unknown }
  readonly url?: unknown
  readonly rect?: unknown
}

const isLink = (url: unknown): url is string => typeof url === 'string' && url.length <= LONGEST && isWebAddress(url)
const isRectangle = (rect: unknown): rect is readonly [number, number, number, number] =>
  Array.isArray(rect) && rect.length === 4 && rect.every(Number.isFinite)

/** What hangs on a page (ISO 32000-1, 12.5). */
export const annotationsOf = async (page: PDFPageProxy): Promise<readonly Annotation[]> =>
  (await page.getAnnotations()) as readonly Annotation[]

/** Places on a page that lead to an address in the web (ISO 32000-1, 12.5.6.5); those that lead elsewhere in the document are left out. */
export function pageLinks(page: PDFPageProxy, annotations: readonly Annotation[]): readonly PageLink[] {
  const viewport = page.getViewport({ scale: 1 })
  return annotations
    .flatMap(({ subtype, url, rect }) => {
      if (subtype !== 'Link' || !isLink(url) || !isRectangle(rect)) return []
      const [ax = 0, ay = 0, bx = 0, by = 0] = viewport.convertToViewportRectangle([...rect]) as readonly number[]
      const [left, right] = [within(Math.min(ax, bx) / viewport.width), within(Math.max(ax, bx) / viewport.width)]
      const [top, bottom] = [within(Math.min(ay, by) / viewport.height), within(Math.max(ay, by) / viewport.height)]
      return right > left && bottom > top ? [{ box: { x: left, y: top, w: right - left, h: bottom - top }, address: url }] : []
    })
    .slice(0, MOST_LINKS)
}
