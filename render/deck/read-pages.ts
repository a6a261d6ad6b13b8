import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { contentOf, freePlaces, groundModel, insetPlaces, takenOf } from '@core/layout'
import type { GroundModel } from '@core/layout'
import type { Size } from '@core/model'
import { annotationsOf, drawPage, notesAmong, pageLinks, pageOf, pageSize, pageWords } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import type { ReadStep } from './messages'

/** Pictures for the browser fit into this; thumbs and the search for content into these. */
export const SCREEN: Size = { width: 1600, height: 1600 }
const THUMB: Size = { width: 480, height: 480 }
const ANALYSIS: Size = { width: 256, height: 256 }
/** Around pictures that do not have the deck's shape. */
export const PICTURE_GROUND = '#14201E'
/** What pages are drawn on. */
const PAPER = '#FFFFFF'

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

/** A small picture of a step, in which things are looked for. */
export interface AnalysisImage {
  /** RGBA, row by row. */
  readonly pixels: Uint8ClampedArray
  readonly width: number
  readonly height: number
  readonly ground: GroundModel
}

/** @param thumb of the step, since shrinking a large picture costs most */
function analysisImage(thumb: Canvas): AnalysisImage {
  const small = shrink(thumb, ANALYSIS, PAPER)
  const pixels = small.getContext('2d').getImageData(0, 0, small.width, small.height).data
  return { pixels, width: small.width, height: small.height, ground: groundModel(pixels, small.width, small.height) }
}

interface Drawn extends Pick<ReadStep, 'source' | 'kind' | 'page' | 'size' | 'text' | 'links'> {
  readonly canvas: Canvas
  /** Its files' names without their endings. */
  readonly name: string
}

/**
 * Stores a step's pictures in the folder `out`.
 * @returns its small picture at once, and the step once its files are written
 */
export function keepStep(drawn: Drawn, out: string): { readonly image: AnalysisImage; readonly step: Promise<ReadStep> } {
  const { canvas, name, ...rest } = drawn
  const ground = drawn.kind === 'page' ? PAPER : PICTURE_GROUND
  const small = shrink(canvas, THUMB, ground)
  const image = analysisImage(small)
  // JPEG is packed in a fifth of the time of WebP, and nothing that is exported is made from it.
  const screen = `${name}.jpg`
  const thumb = `${name}.thumb.jpg`
  const written = Promise.all([
    canvas.encode('jpeg', 91).then((bytes) => writeFile(join(out, screen), bytes)),
    small.encode('jpeg', 86).then((bytes) => writeFile(join(out, thumb), bytes)),
  ])
  const content = contentOf(image.pixels, image.width, image.height, image.ground)
  return { image, step: written.then(() => ({ ...rest, ground, screen, thumb, content })) }
}

/** What is needed to read the pages of one PDF. */
export interface PagesOrder {
  readonly source: ReadStep['source']
  /** Which of the deck's files it is: names of pictures begin with it. */
  readonly number: number
  /** Folder for the pictures. */
  readonly out: string
  /** Of the slides that the pages become. */
  readonly shape: Size
}

/** A page that was read: what comparing it with its neighbour needs. */
export interface ReadPage {
  readonly page: number
  /** By its words; the outline is not asked. */
  readonly title: string
  readonly text: string
  /** What hangs on it as notes. */
  readonly notes: string
  readonly image: AnalysisImage
}

/** A slide that was read: pages that are its steps. */
export interface ReadGroup {
  readonly pages: readonly ReadPage[]
  readonly steps: readonly ReadStep[]
}

/** Draws and stores the pages of one slide. @param group numbers of pages, counted from 1 */
export async function readGroup(pdf: PdfFile, group: readonly number[], order: PagesOrder): Promise<ReadGroup> {
  const places = insetPlaces(order.shape)
  const pages: ReadPage[] = []
  const steps: Promise<ReadStep>[] = []
  for (const at of group) {
    const page = await pageOf(pdf, at)
    const { title, text, boxes } = await pageWords(page)
    const annotations = await annotationsOf(page)
    const links = pageLinks(page, annotations)
    const canvas = await drawPage(page, SCREEN)
    const name = `${String(order.number)}-${String(at)}`
    const found = links.length > 0 ? { links } : {}
    const drawn = { source: order.source, kind: 'page', page: at, size: pageSize(page), text, canvas, name, ...found } as const
    const { image, step } = keepStep(drawn, order.out)
    const mask = takenOf(image.ground, image.width, image.height, boxes)
    const free = mask === null ? {} : { free: freePlaces(mask, places, drawn.size, order.shape) }
    pages.push({ page: at, title, text, notes: notesAmong(annotations), image })
    steps.push(step.then((kept) => ({ ...kept, ...free })))
    page.cleanup()
  }
  return { pages, steps: await Promise.all(steps) }
}
