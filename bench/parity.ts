import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Page } from 'playwright-core'
import { run } from '@render/process'
import { toFilm } from '@contracts'
import type { DeliveryView, FilmView } from '@contracts'
import { changesAt, indexFilm, inkOfVisit, sceneAt } from '@core/scene'
import { visitsOf } from '@core/programme'
import { join } from 'node:path'
import { likeness } from '../tests/harness/likeness'
import { ask, sleep } from '../tests/harness/timed-take'
import { whenTrue } from '../tests/harness/when-true'
import { openPage, startRunning } from './running-product'
import { FIND_PLAYER } from './review-player'
import type { RunningProduct } from './running-product'
import type { Figure } from './run'

const LINES = 720
const RATE = 30
const WHOLE = 0.98
const TILE = 0.95

interface Compared { readonly at: number, readonly what: string, readonly mean: number, readonly worst: number }

/** Seeks in Review and gives its picture. The player is asked itself, so that the time is exact. */
async function shownAt(page: Page, at: number): Promise<Uint8ClampedArray> {
  const url = await page.evaluate(`(async () => {
    ${FIND_PLAYER}
    player.seek(${String(at)})
    await sleep(400); player.draw(); await sleep(400)
    return document.querySelector('.stage canvas').toDataURL('image/png')
  })()`) as string
  const image = await loadImage(Buffer.from(url.slice(url.indexOf(',') + 1), 'base64'))
  return pixelsOf(image, image.width, image.height)
}

function pixelsOf(image: Awaited<ReturnType<typeof loadImage>>, width: number, height: number): Uint8ClampedArray {
  const ctx = createCanvas(width, height).getContext('2d')
  ctx.drawImage(image, 0, 0, width, height)
  return ctx.getImageData(0, 0, width, height).data
}

/** One frame of a file. */
async function frameAt(file: string, at: number): Promise<Uint8Array> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-ss', String(at / 1000), '-i', file, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'])
  return stdout
}

/** How alike Review's picture is to the file's: a part of a film is sampled from its own beginning, up to half a frame beside the film's grid, and so is the camera; the most alike of the frame and its neighbours counts. */
async function alike(shown: Uint8ClampedArray, file: string, at: number, width: number): Promise<{ readonly mean: number, readonly worst: number }> {
  const near = await Promise.all([at - 1000 / RATE, at, at + 1000 / RATE].map((time) => frameAt(file, Math.max(0, time))))
  return near.filter((frame) => frame.length === shown.length).map((frame) => likeness(shown, frame, width, LINES)).sort((a, b) => b.worst - a.worst)[0] ?? { mean: 0, worst: 0 }
}

async function fileOf(product: RunningProduct, talk: string): Promise<string> {
  const { id } = await ask<{ id: string }>(product, 'POST', `/talks/${talk}/deliveries`, { lines: LINES, quality: 'fine', name: 'parity', limit: { kind: 'none' } })
  for (;;) {
    await sleep(500)
    const found = (await ask<DeliveryView[]>(product, 'GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    if (found?.state === 'done') return join(product.data, 'store', 'deliveries', id, 'film.mp4')
    if (found?.state === 'failed') throw new Error(found.sentence ?? 'the delivery failed')
  }
}

/** Times worth looking at: in the middle of strokes and transitions, and in the middle of visits. */
function times(view: FilmView): readonly { readonly at: number, readonly what: string }[] {
  const index = indexFilm(toFilm(view))
  const onFrame = (at: number): number => (Math.round((at * RATE) / 1000) * 1000) / RATE + 2
  return visitsOf(view.programme).flatMap((visit) => {
    const strokes = inkOfVisit(index, visit).slice(0, 3).map(({ stroke, at }) => ({ at: onFrame(at + (stroke.points.at(-1)?.dt ?? 0) / 2), what: 'stroke' }))
    const { slide } = changesAt(index, visit.pieces[0])
    return [...strokes, ...(slide > 0 ? [{ at: onFrame(visit.start + slide / 2), what: 'transition' }] : []), { at: onFrame(visit.start + visit.length / 2), what: 'visit' }]
  }).filter(({ at }) => at < index.length && sceneAt(index, at) !== null)
}

/** Frames of an exported file against Review's picture at the same times; and again with one stroke gone from Review, which must be noticed. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4397)
  const { page, close } = await openPage()
  try {
    const talks = await ask<readonly { readonly id: string, readonly name: string }[]>(product, 'GET', '/talks')
    const compared: (Compared & { readonly talk: string })[] = []
    let removed = 1
    for (const { id: talk, name } of talks) {
      const view = await ask<FilmView>(product, 'GET', `/talks/${talk}/film`)
      if (view.programme.pieces.length === 0) continue
      const file = await fileOf(product, talk)
      await page.goto(`${product.url}/talks/${talk}/review`)
      await page.locator('.visit').first().waitFor()
      const wanted = Math.round((LINES * view.shape.width) / view.shape.height)
      // The picture is given just the file's size.
      const fit = async (): Promise<void> => {
        await page.evaluate(`(() => { const stage = document.querySelector('.stage'); stage.style.boxSizing = 'content-box'; stage.style.width = String(${String(wanted)} / Math.min(2, devicePixelRatio)) + 'px'; stage.style.flex = 'none' })()`)
        await whenTrue(page, `document.querySelector('.stage canvas').width === ${String(wanted)}`)
      }
      await fit()
      for (const { at, what } of times(view)) {
        const { mean, worst } = await alike(await shownAt(page, at), file, at, wanted)
        compared.push({ talk: name, at: Math.round(at), what, mean: Number(mean.toFixed(4)), worst: Number(worst.toFixed(4)) })
      }
      const index = indexFilm(toFilm(view))
      const drawn = visitsOf(view.programme).flatMap((visit) => inkOfVisit(index, visit).map((one) => ({ ...one, visit })))[0]
      if (drawn === undefined) continue
      await ask(product, 'POST', `/talks/${talk}/programme`, { revision: view.programme.revision, author: crypto.randomUUID(), edit: { kind: 'ink', visit: drawn.visit.id, strokes: [drawn.stroke.id], change: { kind: 'delete' } } })
      await page.reload()
      await page.locator('.visit').first().waitFor()
      await fit()
      const at = drawn.at + (drawn.stroke.points.at(-1)?.dt ?? 0) + 100
      removed = Math.min(removed, (await alike(await shownAt(page, at), file, at, wanted)).worst)
    }
    const value = Math.min(...compared.map(({ worst }) => worst))
    const mean = Math.min(...compared.map((one) => one.mean))
    return {
      value, unit: 'SSIM of the worst tile', target: '0.95 or more, 0.98 on the whole; under 0.95 with one stroke gone', ok: value >= TILE && mean >= WHOLE && removed < TILE,
      detail: { leastMean: mean, withoutOneStroke: Number(removed.toFixed(4)), frames: compared.length, worst: compared.toSorted((a, b) => a.worst - b.worst).slice(0, 6) },
    }
  } finally {
    await close()
    await product.stop()
  }
}
