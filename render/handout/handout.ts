import { PDFDocument } from '@napi-rs/canvas'
import type { SKRSContext2D } from '@napi-rs/canvas'
import { cssFont } from '@core/compose'
import { setText } from '@core/compose'
import { blocksOf, withoutPauses } from '@core/markup'
import type { Run } from '@core/markup'
import { objectsAt } from '@core/objects'
import { paintObject, paintPicture, paintStroke } from '@core/paint'
import type { PaintContext, PictureShelf } from '@core/paint'
import type { Deck, Slide, SlideId, Stroke } from '@core/model'
import type { Drawn } from '@render/video'
import { registerFonts } from '@render/type'

/** A4, upright, in points; and how it is divided. */
const PAGE = { width: 595, height: 842 }
const MARGIN = 42
const PICTURE = 210
const GAP = 18
const SIZE = 10.5
const LEADING = 1.42

export interface HandoutOrder {
  readonly name: string
  readonly deck: Deck
  /** Only these words are in it. */
  readonly kind: 'notes' | 'viewerNotes'
  /** What was drawn on its slides. */
  readonly ink: Readonly<Record<SlideId, readonly Stroke[]>>
  /** Gets what a slide's last step shows ready. */
  readonly shelfFor: (slide: Slide) => Promise<PictureShelf<Drawn>>
}

interface Line {
  readonly runs: readonly { readonly x: number; readonly text: string; readonly font: string }[]
  readonly rtl: boolean
}

/** A slide's words in lines of the column beside its picture. */
function linesOf(slide: Slide, kind: HandoutOrder['kind'], width: number): readonly Line[] {
  const text = kind === 'notes' ? withoutPauses(slide.notes) : slide.viewerNotes
  const font = { face: 'read', bold: false, italic: false, size: SIZE } as const
  const set = (runs: readonly Run[], indent: number): readonly Line[] =>
    setText(runs, font, SIZE * LEADING, (top) => ({ left: indent, right: width, top })).map((line) => ({
      rtl: line.rtl,
      runs: line.runs.map((run) => ({ x: run.x, text: run.text, font: cssFont(run.font, 1) })),
    }))
  return blocksOf(text).flatMap((block): readonly Line[] => {
    switch (block.kind) {
      case 'rule':
        return []
      case 'code':
        return block.lines.map((line) => ({ rtl: false, runs: [{ x: 0, text: line, font: cssFont({ ...font, face: 'code' }, 0.9) }] }))
      case 'table':
        return [block.head, ...block.rows].flatMap((row) =>
          set(
            row.flatMap((cell) => [...cell, { text: '   ', bold: false, italic: false, code: false }]),
            0,
          ),
        )
      case 'item': {
        const indent = 12 * (block.depth + 1)
        const mark = block.ordinal === null ? '•' : `${String(block.ordinal)}.`
        return set(block.runs, indent).map((line, n) =>
          n > 0 ? line : { ...line, runs: [{ x: indent - 11, text: mark, font: cssFont(font, 1) }, ...line.runs] },
        )
      }
      default:
        return [...set(block.runs, 0), { rtl: false, runs: [] }]
    }
  })
}

function write(ctx: SKRSContext2D, line: Line, x: number, y: number): void {
  ctx.direction = line.rtl ? 'rtl' : 'ltr'
  ctx.textAlign = 'left'
  for (const run of line.runs) {
    ctx.font = run.font
    ctx.fillText(run.text, x + run.x, y)
  }
}

/** Begins a page. The library's own types speak of the browser's context; what it gives is its own. */
const beginPage = (pdf: PDFDocument): SKRSContext2D => pdf.beginPage(PAGE.width, PAGE.height) as never

/** Makes a handout: each slide with its words beside it, as many to a page as they need. @returns a PDF */
export async function makeHandout(order: HandoutOrder): Promise<Buffer> {
  registerFonts()
  const { deck } = order
  const pdf = new PDFDocument({ title: order.name })
  const width = PAGE.width - 2 * MARGIN
  const picture = { width: PICTURE, height: (PICTURE * deck.shape.height) / deck.shape.width }
  const column = width - PICTURE - GAP
  let ctx = beginPage(pdf)
  let y = MARGIN
  const turn = (): void => {
    pdf.endPage()
    ctx = beginPage(pdf)
    y = MARGIN
  }
  ctx.fillStyle = '#1D2A29'
  ctx.font = cssFont({ face: 'display', bold: true, italic: false, size: 20 }, 1)
  ctx.fillText(order.name, MARGIN, y + 16, width)
  y += 40
  for (const [n, slide] of deck.slides.entries()) {
    const lines = linesOf(slide, order.kind, column)
    if (y + picture.height + 20 > PAGE.height - MARGIN) turn()
    const top = y
    ctx.fillStyle = '#1D2A29'
    ctx.font = cssFont({ face: 'read', bold: true, italic: false, size: 11 }, 1)
    ctx.fillText(`${String(n + 1)}  ${slide.title}`, MARGIN, y + 10, width)
    y += 18
    const step = slide.steps.at(-1)
    if (step !== undefined) {
      ctx.save()
      ctx.translate(MARGIN, y)
      ctx.beginPath()
      ctx.rect(0, 0, picture.width, picture.height)
      ctx.clip()
      const paint: PaintContext<Drawn> = ctx
      const shelf = await order.shelfFor(slide)
      paintPicture(paint, step.picture, picture, shelf)
      const drawn = objectsAt(slide, slide.steps.length - 1, Infinity, deck.shape)
      for (const object of drawn) paintObject(paint, object, picture, shelf)
      for (const stroke of order.ink[slide.id] ?? []) paintStroke(paint, { stroke, elapsed: null }, picture)
      ctx.restore()
      ctx.strokeStyle = '#DCD4C3'
      ctx.strokeRect(MARGIN, y, picture.width, picture.height)
    }
    let at = y + SIZE
    let bottom = y + picture.height
    for (const line of lines) {
      if (at > PAGE.height - MARGIN) {
        turn()
        at = y + SIZE
        bottom = y
      }
      ctx.fillStyle = '#1D2A29'
      write(ctx, line, MARGIN + PICTURE + GAP, at)
      at += SIZE * LEADING
    }
    y = Math.max(bottom, at - SIZE, top) + 22
  }
  pdf.endPage()
  return pdf.close()
}
