import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Page } from 'playwright-core'
import { run } from '@render/process'
import { toFilm } from '@contracts'
import type { DeliveryView, FilmView, TalkView } from '@contracts'
import { NOTHING_DRAWN, asId } from '@core/model'
import type { Drawing, ObjectMotion } from '@core/model'
import { newObject } from '@core/objects'
import { COMES, changesAt, indexFilm, inkOfVisit, sceneAt } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { frameAt, segmentsOf, timeOfFrame } from '@core/plan'
import { visitsOf } from '@core/programme'
import { join } from 'node:path'
import { likeness } from '../tests/harness/likeness'
import { ask, sleep } from '../tests/harness/timed-take'
import { whenTrue } from '../tests/harness/when-true'
import { openPage, startRunning } from './running-product'
import { FIND_PLAYER } from './review-player'
import type { RunningProduct } from './running-product'
import type { Figure } from './figure'

const LINES = 720
const RATE = 30
const WHOLE = 0.985
const TILE = 0.97

interface Compared {
  readonly at: number
  readonly what: string
  readonly mean: number
  readonly worst: number
}

/** Seeks in Review and gives its picture. The player is asked itself, so that the time is exact. */
async function shownAt(page: Page, at: number): Promise<Uint8ClampedArray> {
  const url = (await page.evaluate(`(async () => {
    ${FIND_PLAYER}
    player.seek(${String(at)})
    await sleep(400); player.draw(); await sleep(400)
    return document.querySelector('.stage canvas').toDataURL('image/png')
  })()`)) as string
  const image = await loadImage(Buffer.from(url.slice(url.indexOf(',') + 1), 'base64'))
  return pixelsOf(image, image.width, image.height)
}

function pixelsOf(image: Awaited<ReturnType<typeof loadImage>>, width: number, height: number): Uint8ClampedArray {
  const ctx = createCanvas(width, height).getContext('2d')
  ctx.drawImage(image, 0, 0, width, height)
  return ctx.getImageData(0, 0, width, height).data
}

/** A frame of a file, as RGBA. */
async function frameOf(file: string, frame: number): Promise<Uint8Array> {
  // A quarter of a frame early, so that rounding cannot give the next one.
  const from = Math.max(0, (frame - 0.25) / RATE)
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-ss',
    String(from),
    '-i',
    file,
    '-frames:v',
    '1',
    '-sws_flags',
    'bicubic+accurate_rnd+full_chroma_int',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgba',
    'pipe:1',
  ])
  return stdout
}

/**
 * When each frame of the file lies in the talk, in ms: a segment is sampled from its own beginning, up to half a frame beside the
 * file's grid.
 */
const sampleTimes = (index: FilmIndex): readonly number[] =>
  segmentsOf(index, RATE).flatMap((segment) =>
    Array.from({ length: segment.frames }, (_, n) => (index.starts[segment.piece] ?? 0) + segment.from + timeOfFrame(n, RATE)),
  )

async function fileOf(product: RunningProduct, talk: string): Promise<string> {
  const { id } = await ask<{ id: string }>(product, 'POST', `/talks/${talk}/deliveries`, {
    lines: LINES,
    quality: 'fine',
    name: 'parity',
    limit: { kind: 'none' },
  })
  for (;;) {
    await sleep(500)
    const found = (await ask<DeliveryView[]>(product, 'GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    if (found?.state === 'done') return join(product.data, 'store', 'deliveries', id, 'film.mp4')
    if (found?.state === 'failed') throw new Error(found.sentence ?? 'the delivery failed')
  }
}

/** Frames worth looking at: in the middle of strokes, of transitions, of visits, and of what lies over them, and while that comes. */
function framesToCompare(view: FilmView, index: FilmIndex): readonly { readonly frame: number; readonly what: string }[] {
  const over = index.overlays.flatMap(({ overlay, from, to, begins }) => [
    ...(begins ? [] : [{ at: from + COMES / 2, what: `${overlay.kind} that comes` }]),
    { at: (from + to) / 2, what: overlay.kind },
  ])
  const inVisits = visitsOf(view.programme).flatMap((visit) => {
    const strokes = inkOfVisit(index, visit)
      .slice(0, 3)
      .map(({ stroke, at }) => ({ at: at + (stroke.points.at(-1)?.dt ?? 0) / 2, what: 'stroke' }))
    const { slide } = changesAt(index, visit.pieces[0])
    return [
      ...strokes,
      ...(slide > 0 ? [{ at: visit.start + slide / 2, what: 'transition' }] : []),
      { at: visit.start + visit.length / 2, what: 'visit' },
      ...(index.film.slides.get(visit.slide)?.drawing === undefined ? [] : [{ at: visit.start + MOVES / 2, what: 'motion' }]),
    ]
  })
  return [...inVisits, ...over]
    .filter(({ at }) => at < index.length && sceneAt(index, at) !== null)
    .map(({ at, what }) => ({ frame: frameAt(at, RATE), what }))
}

/** How long what is drawn on a slide moves, in ms. */
const MOVES = 2000

/** Objects of some kinds that move at once as a slide comes. */
function drawing(): Drawing {
  const objects = (['box', 'ellipse', 'arrow', 'callout'] as const).map((kind, n) =>
    newObject(asId(crypto.randomUUID()), kind, { x: 0.2, y: 0.2 + 0.2 * n }),
  )
  const motions = objects.map(({ id: object }, n): ObjectMotion => ({
    id: asId(crypto.randomUUID()),
    object,
    step: 0,
    start: n === 0 ? 'step' : 'together',
    delay: 0,
    duration: MOVES,
    ease: 'calm',
    does: {
      kind: 'path',
      points: [
        { x: 0.2, y: 0.05 },
        { x: 0.4, y: 0 },
      ],
      line: 'curved',
      turns: true,
    },
  }))
  return { ...NOTHING_DRAWN, objects, motions }
}

/**
 * Lays something of every kind over a talk, draws on one of its slides, and gives its faces another light and backdrop.
 * @returns the film that it is then
 */
async function dressed(product: RunningProduct, talk: string): Promise<FilmView> {
  const film = (): Promise<FilmView> => ask<FilmView>(product, 'GET', `/talks/${talk}/film`)
  const [first, second, third] = visitsOf((await film()).programme)
  const over = { length: 2600, theme: 'paper' } as const
  const overlays = [
    { kind: 'card', ...over, visit: first?.id, offset: 0, heading: 'Slack water', body: 'Ilse Marrak' },
    { kind: 'lower-third', ...over, visit: second?.id, offset: 1000, at: null, name: 'Ilse Marrak', place: 'Harbour school' },
    { kind: 'text', ...over, visit: third?.id, offset: 1000, at: null, text: 'Low water 14:32' },
    { kind: 'card', ...over, visit: third?.id, offset: 4000, heading: 'High water', body: '' },
  ].filter(({ visit }) => visit !== undefined)
  const change = async (edit: object): Promise<void> => {
    const { programme } = await film()
    await ask(product, 'POST', `/talks/${talk}/programme`, { revision: programme.revision, author: crypto.randomUUID(), edit })
  }
  for (const overlay of overlays) await change({ kind: 'overlay', overlay: { id: crypto.randomUUID(), ...overlay } })
  const cameras = (await film()).programme.pieces.flatMap((piece) =>
    piece.kind === 'recorded' && piece.camera ? [piece.camera.stretch] : [],
  )
  const faces = { stretches: [...new Set(cameras)], visits: [] }
  if (faces.stretches.length > 0) {
    await change({ kind: 'light', ...faces, light: { brightness: 0.08, contrast: 1.15, warmth: 0.3 } })
    await change({ kind: 'backdrop', ...faces, backdrop: { kind: 'plain', finder: 'outline', colour: '#2F5D62' } })
  }
  if (third !== undefined) {
    const { revision } = await ask<TalkView>(product, 'GET', `/talks/${talk}`)
    const edit = { kind: 'set', slides: [third.slide], fields: { drawing: drawing() } }
    await ask(product, 'POST', `/talks/${talk}/deck`, { revision, edit })
  }
  return await film()
}

/**
 * Frames of an exported file against Review's picture at the same times; and again with one stroke gone from Review, which must be
 * noticed.
 */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4397)
  const { page, close } = await openPage()
  try {
    const talks = await ask<readonly { readonly id: string; readonly name: string }[]>(product, 'GET', '/talks')
    const compared: (Compared & { readonly talk: string })[] = []
    let removed = 1
    for (const { id: talk, name } of talks) {
      const bare = await ask<FilmView>(product, 'GET', `/talks/${talk}/film`)
      if (bare.programme.pieces.length === 0) continue
      const view = await dressed(product, talk)
      const file = await fileOf(product, talk)
      await page.goto(`${product.url}/talks/${talk}/review`)
      await page.locator('.visit').first().waitFor()
      const wanted = Math.round((LINES * view.shape.width) / view.shape.height)
      // The picture is given just the file's size.
      const fit = async (): Promise<void> => {
        await page.evaluate(
          `(() => { const stage = document.querySelector('.stage'); stage.style.boxSizing = 'content-box'; stage.style.width = ` +
            `String(${String(wanted)} / Math.min(2, devicePixelRatio)) + 'px'; stage.style.flex = 'none' })()`,
        )
        await whenTrue(page, `document.querySelector('.stage canvas').width === ${String(wanted)}`)
      }
      await fit()
      const index = indexFilm(toFilm(view))
      const times = sampleTimes(index)
      const alike = async (frame: number): Promise<ReturnType<typeof likeness>> =>
        likeness(await shownAt(page, times[frame] ?? NaN), await frameOf(file, frame), wanted, LINES)
      for (const { frame, what } of framesToCompare(view, index)) {
        const { mean, worst } = await alike(frame)
        const at = times[frame] ?? NaN
        compared.push({ talk: name, at: Math.round(at), what, mean: Number(mean.toFixed(4)), worst: Number(worst.toFixed(4)) })
      }
      const drawn = visitsOf(view.programme).flatMap((visit) => inkOfVisit(index, visit).map((one) => ({ ...one, visit })))[0]
      if (drawn === undefined) continue
      await ask(product, 'POST', `/talks/${talk}/programme`, {
        revision: view.programme.revision,
        author: crypto.randomUUID(),
        edit: { kind: 'ink', visit: drawn.visit.id, strokes: [drawn.stroke.id], change: { kind: 'delete' } },
      })
      await page.reload()
      await page.locator('.visit').first().waitFor()
      await fit()
      const at = drawn.at + (drawn.stroke.points.at(-1)?.dt ?? 0) + 100
      removed = Math.min(removed, (await alike(frameAt(at, RATE))).worst)
    }
    const value = Math.min(...compared.map(({ worst }) => worst))
    const mean = Math.min(...compared.map((one) => one.mean))
    return {
      value,
      unit: 'SSIM of the worst tile',
      target: '0.97 or more, 0.985 on the whole; under 0.97 with one stroke gone',
      ok: value >= TILE && mean >= WHOLE && removed < TILE,
      detail: {
        leastMean: mean,
        withoutOneStroke: Number(removed.toFixed(4)),
        frames: compared.length,
        worst: compared.toSorted((a, b) => a.worst - b.worst).slice(0, 6),
      },
    }
  } finally {
    await close()
    await product.stop()
  }
}
