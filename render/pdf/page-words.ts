import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { storableText } from '@core/model'
import type { Rect } from '@core/model'

/** Longest title that is kept, in signs and in lines. */
const TITLE = 120
const TITLE_LINES = 3
/** Type as large as the largest, but for roundings. */
const AS_LARGE = 0.95
/** Lines of one title stand no further apart than this, in heights of their letters. */
const LEADING = 1.45
/** What ends a sentence ends a title. */
const ENDED = /[.:;!?…]["'”’)\]]*$/u
/** What begins a point of a list. */
const POINT = /^([•‣▪■●○–—*-]|\d{1,2}[.)])(\s|$)/u

export interface PageWords {
  /** The first lines in the largest type of the upper half of the page, else of all; or an empty string. */
  readonly title: string
  readonly text: string
  /** Where its words stand, in fractions of the page as it is seen. */
  readonly boxes: readonly Rect[]
}

interface Item {
  readonly text: string
  readonly size: number
  readonly x: number
  readonly y: number
}

interface Line {
  readonly text: string
  readonly size: number
  readonly y: number
}

/** Items that stand on one line, in the order in which the page says them. */
function linesOf(items: readonly Item[]): readonly Line[] {
  const lines: { text: string; size: number; y: number }[] = []
  for (const { text, size, y } of items) {
    const last = lines.at(-1)
    if (last !== undefined && Math.abs(last.y - y) < 0.5 * Math.max(size, last.size)) {
      last.text += ` ${text}`
      last.size = Math.max(last.size, size)
    } else lines.push({ text, size, y })
  }
  return lines
}

/** The title among the lines of a page: it ends with the largest type, with a sentence, or where more room follows than between lines. */
export function titleAmong(lines: readonly Line[]): string {
  const largest = lines.reduce((most, line) => Math.max(most, line.size), 0)
  const first = lines.findIndex((line) => line.size > largest * AS_LARGE)
  if (first === -1) return ''
  const title: string[] = []
  let before: Line | undefined
  for (const line of lines.slice(first)) {
    const goesOn =
      before === undefined ||
      (line.size > largest * AS_LARGE &&
        Math.abs(before.y - line.y) <= LEADING * largest &&
        !ENDED.test(before.text) &&
        !POINT.test(line.text))
    if (!goesOn) break
    title.push(line.text)
    before = line
  }
  // So many lines in one type are a text, of which the first line is as good as a title.
  const kept = title.length > TITLE_LINES ? title.slice(0, 1) : title
  return kept.join(' ').slice(0, TITLE)
}

/** How far letters reach above and below their line, in heights of their type. */
const [ASCENT, DESCENT] = [0.8, 0.22]

/** Boxes around the runs of a page's words, turned or not. */
function boxesOf(items: Awaited<ReturnType<PDFPageProxy['getTextContent']>>['items'], page: PDFPageProxy): readonly Rect[] {
  const viewport = page.getViewport({ scale: 1 })
  return items.flatMap((item): readonly Rect[] => {
    if (!('str' in item) || item.str.trim() === '') return []
    const [a = 1, b = 0, c = 0, d = 1, e = 0, f = 0] = item.transform.map(Number)
    const size = Math.hypot(c, d) || 1
    const along = Math.hypot(a, b) || 1
    const corner = (x: number, y: number): readonly number[] =>
      viewport.convertToViewportPoint(e + (a / along) * x + c * y, f + (b / along) * x + d * y) as readonly number[]
    const corners = [corner(0, -DESCENT), corner(item.width, -DESCENT), corner(0, ASCENT), corner(item.width, ASCENT)]
    const [xs, ys] = [corners.map(([x = 0]) => x / viewport.width), corners.map(([, y = 0]) => y / viewport.height)]
    const [left, top] = [Math.min(...xs), Math.min(...ys)]
    return size > 0 ? [{ x: left, y: top, w: Math.max(...xs) - left, h: Math.max(...ys) - top }] : []
  })
}

/** Reads the words of a page. */
export async function pageWords(page: PDFPageProxy): Promise<PageWords> {
  const content = await page.getTextContent()
  const items = content.items.flatMap((item): readonly Item[] =>
    'str' in item && item.str.trim() !== ''
      ? [
          {
            text: storableText(item.str.trim()),
            size: Math.hypot(Number(item.transform[2]), Number(item.transform[3])),
            x: Number(item.transform[4]),
            y: Number(item.transform[5]),
          },
        ]
      : [],
  )
  const [, bottom = 0, , top = 0] = page.view
  const upper = items.filter((item) => item.y > bottom + (top - bottom) * 0.5)
  return {
    title: titleAmong(linesOf(upper.length > 0 ? upper : items)),
    text: items.map((item) => item.text).join(' '),
    boxes: boxesOf(content.items, page),
  }
}
