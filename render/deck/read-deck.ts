import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { groupPagesByLabel } from '@core/deck'
import { contentOf } from '@core/layout'
import { Refusal } from '@core/model'
import type { Size } from '@core/model'
import type { DeckMessage, ReadDeckOrder, ReadStep } from './messages'
import { drawPage, openPdf, pageSize, pageWords } from './pdf'
import { drawPicture, openPicture } from './picture'
import { kindOf } from './sniff'

/** Pictures for the browser fit into this; thumbs and the search for content into these. */
const SCREEN: Size = { width: 1920, height: 1920 }
const THUMB: Size = { width: 480, height: 480 }
const LOOK: Size = { width: 320, height: 320 }
/** Around pictures that do not have the deck's shape. */
const GROUND = '#14201E'

function shrink(canvas: Canvas, box: Size): Canvas {
  const scale = Math.min(1, box.width / canvas.width, box.height / canvas.height)
  const small = createCanvas(Math.max(1, Math.round(canvas.width * scale)), Math.max(1, Math.round(canvas.height * scale)))
  const ctx = small.getContext('2d')
  ctx.imageSmoothingQuality = 'high'
  ctx.drawImage(canvas, 0, 0, small.width, small.height)
  return small
}

/** Where a picture that is fitted into a deck's shape has content: looked for on the whole slide, not the picture alone. */
function contentOn(canvas: Canvas, shape: Size, ground: string): string {
  const scale = Math.min(LOOK.width / shape.width, LOOK.height / shape.height)
  const look = createCanvas(Math.max(32, Math.round(shape.width * scale)), Math.max(18, Math.round(shape.height * scale)))
  const ctx = look.getContext('2d')
  ctx.fillStyle = ground
  ctx.fillRect(0, 0, look.width, look.height)
  const fit = Math.min(look.width / canvas.width, look.height / canvas.height)
  const width = canvas.width * fit
  const height = canvas.height * fit
  ctx.drawImage(canvas, (look.width - width) / 2, (look.height - height) / 2, width, height)
  return contentOf(ctx.getImageData(0, 0, look.width, look.height).data, look.width, look.height)
}

interface Drawn extends Pick<ReadStep, 'file' | 'kind' | 'page' | 'size' | 'text'> {
  readonly canvas: Canvas
}

async function keepStep(drawn: Drawn, order: ReadDeckOrder, shape: Size): Promise<ReadStep> {
  const { canvas, ...rest } = drawn
  const name = `${String(drawn.file)}-${String(drawn.page)}`
  const ground = drawn.kind === 'page' ? '#FFFFFF' : GROUND
  const screen = `${name}.webp`
  const thumb = `${name}.thumb.webp`
  await Promise.all([
    writeFile(join(order.out, screen), await canvas.encode('webp', 92)),
    writeFile(join(order.out, thumb), await shrink(canvas, THUMB).encode('webp', 85)),
  ])
  return { ...rest, ground, screen, thumb, content: contentOn(canvas, shape, ground) }
}

type Source =
  | { readonly kind: 'pdf', readonly file: number, readonly document: Awaited<ReturnType<typeof openPdf>>, readonly groups: readonly (readonly number[])[] }
  | { readonly kind: 'picture', readonly file: number, readonly picture: Awaited<ReturnType<typeof openPicture>>, readonly title: string }

async function openSource(order: ReadDeckOrder, file: number): Promise<Source> {
  const { path, name } = order.files[file] ?? { path: '', name: '' }
  const kind = await kindOf(path)
  if (kind === 'pdf') {
    const document = await openPdf(path)
    if (document.numPages > order.maxPages) {
      throw new Refusal('too-large', `This PDF has ${String(document.numPages)} pages; up to ${String(order.maxPages)} can be taken in. Split it and bring the part you need.`)
    }
    const labels = await document.getPageLabels()
    return { kind: 'pdf', file, document, groups: groupPagesByLabel(labels, document.numPages) }
  }
  return { kind: 'picture', file, picture: await openPicture(path), title: name.replace(/\.[^.]+$/, '') }
}

/** Shape of the deck: its first page's, or 16:9 for pictures alone. */
async function shapeOf(sources: readonly Source[]): Promise<Size> {
  const first = sources[0]
  if (first?.kind !== 'pdf') return { width: 16, height: 9 }
  const { width, height } = pageSize(await first.document.getPage(1))
  const ratio = width / height
  if (!(ratio > 0.2 && ratio < 5)) throw new Refusal('unreadable', 'The pages of this PDF are too long or too narrow for slides.')
  for (const [w, h] of [[16, 9], [4, 3], [16, 10], [1, 1], [9, 16]] as const) {
    if (Math.abs(ratio - w / h) < 0.01) return { width: w, height: h }
  }
  return { width: Math.round(width), height: Math.round(height) }
}

/**
 * Reads a deck: draws every page for the browser, finds its words and where its content is.
 * @param tell hears of the plan first, then of each slide as soon as it is whole
 * @throws Refusal naming the file that cannot be read
 */
export async function readDeck(order: ReadDeckOrder, tell: (message: DeckMessage) => void): Promise<void> {
  const sources: Source[] = []
  for (const [file, { name }] of order.files.entries()) {
    try {
      sources.push(await openSource(order, file))
    } catch (error) {
      if (error instanceof Refusal) throw new Refusal(error.code, error.message, { file: name })
      throw error
    }
  }
  const pages = sources.reduce((sum, source) => sum + (source.kind === 'pdf' ? source.document.numPages : 1), 0)
  if (pages > order.maxPages) throw new Refusal('too-large', `These files have ${String(pages)} pages together; up to ${String(order.maxPages)} can be taken in.`)
  const shape = await shapeOf(sources)
  tell({ kind: 'plan', pages, shape })
  for (const source of sources) {
    if (source.kind === 'picture') {
      const canvas = await drawPicture(source.picture, SCREEN)
      const step = await keepStep({ file: source.file, kind: 'image', page: 1, size: source.picture.size, text: '', canvas }, order, shape)
      tell({ kind: 'slide', title: source.title, steps: [step] })
      continue
    }
    for (const group of source.groups) {
      const steps: ReadStep[] = []
      let title = ''
      for (const number of group) {
        const page = await source.document.getPage(number)
        const words = await pageWords(page)
        title ||= words.title
        const canvas = await drawPage(page, SCREEN)
        steps.push(await keepStep({ file: source.file, kind: 'page', page: number, size: pageSize(page), text: words.text, canvas }, order, shape))
        page.cleanup()
      }
      tell({ kind: 'slide', title, steps })
    }
  }
  tell({ kind: 'done' })
}
