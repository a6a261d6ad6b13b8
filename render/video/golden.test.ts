import { existsSync } from 'node:fs'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { BORDERS, INK_COLOURS, OUTLINES, PLAIN_FRAMING, asId } from '@core/model'
import type { Cue, Drawing, Framing, MotionDeed, ObjectForm, Overlay, Slide, SlideObject, Stroke, Transition } from '@core/model'
import { withDrawnSteps } from '@core/objects'
import { tidied } from '@core/ink'
import { indexFilm, sceneAt } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { FilmPainter, PictureSource } from '.'

/*
 * Frames as they were when somebody looked at them. Drawn anew with GOLDEN=write in the environment; look at them again then.
 */
const TILE = { width: 320, height: 180 }
const ACROSS = 4
const REVIEWED = 'render/video/golden'

let folder: string
let source: PictureSource

/** A slide whose every corner can be told from the others. */
async function pageOf(ground: string, mark: string): Promise<Buffer> {
  const canvas = createCanvas(960, 540)
  const ctx = canvas.getContext('2d')
  ctx.fillStyle = ground
  ctx.fillRect(0, 0, 960, 540)
  ctx.fillStyle = mark
  ctx.fillRect(48, 48, 420, 40)
  for (let n = 0; n < 4; n += 1) ctx.fillRect(80, 160 + n * 60, 520 - n * 60, 18)
  ctx.beginPath()
  ctx.arc(780, 150, 80, 0, Math.PI * 2)
  ctx.fill()
  return await canvas.encode('png')
}

/** A camera's picture, not alike in any two quarters. */
function faceOf(): Canvas {
  const canvas = createCanvas(320, 180)
  const ctx = canvas.getContext('2d')
  for (const [n, colour] of ['#B04030', '#3060A0', '#308050', '#C0A030'].entries()) {
    ctx.fillStyle = colour
    ctx.fillRect((n % 2) * 160, Math.floor(n / 2) * 90, 160, 90)
  }
  ctx.fillStyle = '#F0D0B0'
  ctx.beginPath()
  ctx.arc(160, 90, 55, 0, Math.PI * 2)
  ctx.fill()
  return canvas
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-golden-'))
  await writeFile(join(folder, 'one'), await pageOf('#F4EFE2', '#2C4A46'))
  await writeFile(join(folder, 'two'), await pageOf('#24506A', '#F0E4C0'))
  source = new PictureSource((name) => join(folder, name))
})
afterAll(async () => {
  source.close()
  await rm(folder, { recursive: true })
})

const pictured = (name: string, more: Partial<Slide> = {}): Slide => {
  const plain = slide(name, 1, more)
  const [step] = plain.steps
  if (step === undefined) throw new Error('a slide has a step')
  return {
    ...plain,
    steps: [
      {
        ...step,
        picture: {
          kind: 'image',
          source: asId(name),
          size: { width: 960, height: 540 },
          ground: '#000000',
          screen: asId(name),
          thumb: asId(name),
        },
      },
    ],
  }
}

/** One frame of a stretch of slides. @param over what lies over it */
async function frame(
  slides: readonly Slide[],
  cues: readonly Cue[],
  at: number,
  face = false,
  over: readonly Overlay[] = [],
): Promise<Canvas> {
  const [first] = slides
  if (first === undefined) throw new Error('a slide')
  const bare = film(slides, [stretch('s', 10_000, first.id, cues, { camera: face })])
  const visit = bare.programme.pieces[0]?.visit
  const overlays = over.flatMap((one) => (visit === undefined ? [] : [{ ...one, visit }]))
  const index = indexFilm({ ...bare, programme: { ...bare.programme, ...(overlays.length === 0 ? {} : { overlays }) } })
  const scene = sceneAt(index, at)
  if (scene === null) throw new Error('nothing is seen')
  const painter = new FilmPainter(TILE, source)
  if (face) await painter.paintWithFace(scene, { image: faceOf(), width: 320, height: 180 })
  else await painter.paint(scene)
  return painter.canvas
}

const RECT = { x: 0.62, y: 0.45, w: 0.3, h: 0.4 }
const framed = (more: Partial<Framing>): Promise<Canvas> =>
  frame([pictured('two', { framing: { ...PLAIN_FRAMING, rect: RECT, ...more } })], [], 1000, true)

const wave = (name: string, y: number, more: Partial<Stroke> = {}): Stroke => ({
  id: asId(name),
  slide: asId('one'),
  colour: 'brick',
  width: 'fine',
  pressure: false,
  points: Array.from({ length: 21 }, (_, n) => ({ dt: n * 50, x: 0.1 + n * 0.035, y: y + 0.06 * Math.sin(n), p: 0.2 + (n % 5) * 0.18 })),
  ...more,
})
const corners = (...points: readonly (readonly [number, number])[]): Stroke['points'] =>
  points.map(([x, y], n) => ({ dt: n * 10, x, y, p: 0.5 }))
/** What is made of a box that was drawn by hand. */
function clean(...points: readonly (readonly [number, number])[]): Stroke {
  const made = tidied(wave('a', 0, { points: corners(...points), width: 'broad' }), TILE)
  if (made === null) throw new Error('this is no shape')
  return made
}
const inked = (at: number, ...strokes: readonly Stroke[]): Promise<Canvas> =>
  frame(
    [pictured('one')],
    strokes.map((stroke) => ({ kind: 'ink', at: 0, stroke })),
    at,
  )

const LYING = { id: asId<'overlay'>('over'), visit: asId<'visit'>('v'), offset: 2000, length: 4000, theme: 'harbour' } as const
const lowerThird = { kind: 'lower-third', ...LYING, at: null, name: 'Ilse Marrak', place: 'Harbour school, Tidewick' } as const
const lain = (overlay: Overlay, at: number, face = false): Promise<Canvas> => {
  const one = pictured('one', { framing: { ...PLAIN_FRAMING, rect: { x: 0.03, y: 0.6, w: 0.3, h: 0.36 } } })
  return frame([one], [], at, face, [overlay])
}
/** An object that lies on a slide from the first. */
const placed = (form: ObjectForm, more: Partial<SlideObject> = {}): SlideObject => ({
  id: asId('object'),
  form,
  box: { x: 0.3, y: 0.35, w: 0.36, h: 0.3 },
  turn: 0,
  colour: 'mark',
  opacity: 1,
  locked: false,
  group: null,
  ...more,
})
/** A step after which something is drawn. @param after in ms */
const stepped = (objects: readonly SlideObject[], motions: readonly MotionDeed[], after: number): Promise<Canvas> => {
  const drawing: Drawing = {
    objects,
    motions: motions.map((does, n) => ({
      id: asId(String(n)),
      object: asId('object'),
      step: 1,
      start: 'together',
      delay: 0,
      duration: 1000,
      ease: 'calm',
      does,
    })),
    starts: [],
    theme: 'harbour',
  }
  const drawn = withDrawnSteps(pictured('two', { drawing }))
  return frame([drawn], [{ kind: 'show', at: 1000, slide: drawn.id, step: 1 }], 1000 + after)
}
const drawn = (...objects: readonly SlideObject[]): Promise<Canvas> => stepped(objects, [], 0)
const moving = (after: number, ...deeds: readonly MotionDeed[]): Promise<Canvas> =>
  stepped([placed({ kind: 'arrow', slant: 'rising', back: false, breadth: 0.02 })], deeds, after)

const LONG = 'Why the tide at Tidewick comes twice, and what that means for whoever moors there overnight without a second line '

const SHEETS: Readonly<Record<string, () => Promise<readonly Canvas[]>>> = {
  framings: () =>
    Promise.all([
      ...OUTLINES.flatMap((outline) => BORDERS.map((border) => framed({ outline, border }))),
      framed({ mirrored: true, zoom: 2, centre: { x: 0, y: 1 } }),
      framed({ placing: 'beside' }),
      framed({ placing: 'beside', outline: 'round', border: 'broad' }),
      framed({ placing: 'full' }),
    ]),
  transitions: () =>
    Promise.all(
      (['fade', 'push', 'wipe', 'cut'] as const satisfies readonly Transition[]).flatMap((transition) =>
        [1, 90, 200, 420].map((into) =>
          frame([pictured('one'), pictured('two', { transition })], [{ kind: 'show', at: 2000, slide: asId('two'), step: 0 }], 2000 + into),
        ),
      ),
    ),
  overlays: () => {
    const card = { kind: 'card', ...LYING, heading: 'Slack water', body: 'Ilse Marrak' } as const
    return Promise.all([
      lain(card, 2150, true),
      lain(card, 4000, true),
      lain({ ...card, theme: 'paper', heading: LONG.repeat(2) }, 4000),
      lain({ ...card, theme: 'dusk', heading: 'الماء الراكد', body: 'إلسه مرّاك' }, 4000),
      lain(lowerThird, 2150),
      lain(lowerThird, 4000),
      lain({ ...lowerThird, theme: 'paper' }, 4000, true),
      lain({ ...lowerThird, theme: 'dusk', at: { x: 0.1, y: 0.08 }, name: 'إلسه مرّاك', place: 'مدرسة الميناء' }, 4000),
      lain({ kind: 'text', ...LYING, at: null, text: 'Low water 14:32' }, 4000),
      lain({ kind: 'text', ...LYING, at: null, text: LONG.repeat(2) }, 4000),
      lain(
        {
          kind: 'picture',
          ...LYING,
          asset: asId('two'),
          size: { width: 960, height: 540 },
          alt: 'a lock',
          box: { x: 0.3, y: 0.2, w: 0.4, h: 0.6 },
        },
        4000,
      ),
      lain({ ...card, offset: 0, length: 10_000, theme: 'paper' }, 0),
    ])
  },
  objects: () => {
    const breadth = 0.012
    const points = Array.from({ length: 30 }, (_, n) => ({ x: n / 29, y: 0.5 + 0.5 * Math.sin(n / 3) }))
    const text = { kind: 'text', text: 'Slack **water**\n\n- at six\n- at noon', letters: 0.07, align: 'start' } as const
    return Promise.all([
      drawn(placed(text, { colour: 'text' })),
      drawn(placed({ ...text, align: 'middle', text: 'الماء الراكد' }, { colour: 'soft' })),
      drawn(placed({ ...text, text: LONG.repeat(2) }, { colour: 'text' })),
      drawn(placed({ kind: 'picture', asset: asId('one'), size: { width: 960, height: 540 }, alt: '' }, { turn: 12, opacity: 0.7 })),
      drawn(placed({ kind: 'line', slant: 'falling', breadth })),
      drawn(placed({ kind: 'arrow', slant: 'rising', back: true, breadth })),
      drawn(placed({ kind: 'box', filled: true, breadth, label: 'Lock' })),
      drawn(placed({ kind: 'box', filled: false, breadth, label: 'Lock' }, { turn: -30 })),
      drawn(placed({ kind: 'ellipse', filled: true, breadth, label: '' }, { colour: 'shade' })),
      drawn(placed({ kind: 'ellipse', filled: false, breadth, label: 'Buoy' })),
      drawn(placed({ kind: 'callout', label: 'Mind the sill', tip: { x: 0.1, y: 1.6 } })),
      drawn(placed({ kind: 'callout', label: 'Here', tip: { x: 1.4, y: 0.5 } }, { colour: 'soft' })),
      drawn(placed({ kind: 'freehand', points, breadth })),
      drawn(placed({ kind: 'box', filled: true, breadth, label: '' }, { box: { x: 0.85, y: 0.8, w: 0.4, h: 0.5 } })),
      moving(500, { kind: 'comes', how: 'fade' }),
      moving(500, { kind: 'comes', how: 'grow' }),
      moving(300, { kind: 'goes', how: 'fade' }),
      moving(500, { kind: 'path', points: [{ x: 0.3, y: 0.2 }], line: 'straight', turns: false }),
      moving(800, {
        kind: 'path',
        points: [
          { x: 0.2, y: 0 },
          { x: 0.2, y: 0.3 },
        ],
        line: 'curved',
        turns: true,
      }),
      moving(500, { kind: 'grows', to: 1.8 }, { kind: 'fades', to: 0.3 }),
    ])
  },
  ink: () =>
    Promise.all([
      ...INK_COLOURS.map((colour) => inked(2000, wave('a', 0.4, { colour }))),
      inked(2000, wave('a', 0.4, { width: 'broad' })),
      inked(2000, wave('a', 0.4, { pressure: true, width: 'broad' })),
      inked(500, wave('a', 0.4, { width: 'broad' })),
      inked(2000, wave('a', 0.4, { tool: 'marker', colour: 'marigold' })),
      inked(2000, { ...wave('a', 0), tool: 'label', text: 'hold fast', points: corners([0.3, 0.6]) }),
      inked(2000, clean([0.2, 0.3], [0.45, 0.29], [0.7, 0.3], [0.71, 0.5], [0.7, 0.7], [0.45, 0.71], [0.2, 0.7], [0.19, 0.5], [0.2, 0.31])),
      frame(
        [pictured('one')],
        [
          { kind: 'ink', at: 0, stroke: wave('a', 0.3) },
          { kind: 'ink', at: 0, stroke: wave('b', 0.6) },
          { kind: 'erase', at: 1500, stroke: asId('a') },
        ],
        2000,
      ),
      frame(
        [pictured('one')],
        [
          { kind: 'ink', at: 0, stroke: wave('a', 0.3) },
          { kind: 'wipe', at: 1500, slide: asId('one') },
        ],
        2000,
      ),
      frame(
        [pictured('one')],
        [
          {
            kind: 'point',
            at: 0,
            path: [
              { dt: 0, x: 0.4, y: 0.4 },
              { dt: 2000, x: 0.6, y: 0.6 },
            ],
          },
        ],
        1000,
      ),
      frame([pictured('one')], [{ kind: 'blank', at: 0, on: true }], 1000),
    ]),
}

/** How much two frames differ: the mean of all channels, of 255, and the share of pixels that are clearly another colour. */
function difference(a: Uint8ClampedArray, b: Uint8ClampedArray): { readonly mean: number; readonly share: number } {
  let [sum, clear] = [0, 0]
  for (let n = 0; n < a.length; n += 4) {
    const gaps = [0, 1, 2].map((k) => Math.abs((a[n + k] ?? 0) - (b[n + k] ?? 0)))
    sum += gaps.reduce((all, gap) => all + gap, 0)
    if (Math.max(...gaps) > 40) clear += 1
  }
  return { mean: sum / (a.length * 0.75), share: clear / (a.length / 4) }
}
const pixelsOf = (canvas: Canvas, n: number): Uint8ClampedArray =>
  canvas.getContext('2d').getImageData((n % ACROSS) * TILE.width, Math.floor(n / ACROSS) * TILE.height, TILE.width, TILE.height).data

function sheetOf(tiles: readonly Canvas[]): Canvas {
  const sheet = createCanvas(TILE.width * ACROSS, TILE.height * Math.ceil(tiles.length / ACROSS))
  for (const [n, tile] of tiles.entries())
    sheet.getContext('2d').drawImage(tile, (n % ACROSS) * TILE.width, Math.floor(n / ACROSS) * TILE.height)
  return sheet
}

async function reviewed(name: string): Promise<Canvas> {
  const image = await loadImage(join(REVIEWED, `${name}.png`))
  const canvas = createCanvas(image.width, image.height)
  canvas.getContext('2d').drawImage(image, 0, 0)
  return canvas
}

describe('frames', () => {
  it.each(Object.keys(SHEETS))('of %s are as they were when they were looked at', async (name) => {
    const tiles = (await SHEETS[name]?.()) ?? []
    const sheet = sheetOf(tiles)
    if (process.env['GOLDEN'] === 'write') await writeFile(join(REVIEWED, `${name}.png`), await sheet.encode('png'))
    expect(existsSync(join(REVIEWED, `${name}.png`))).toBe(true)
    const before = await reviewed(name)
    expect([before.width, before.height]).toEqual([sheet.width, sheet.height])
    const worst = tiles
      .map((_, n) => ({ tile: n, ...difference(pixelsOf(before, n), pixelsOf(sheet, n)) }))
      .filter(({ mean, share }) => mean > 0.6 || share > 0.0003)
    expect(worst).toEqual([])
  })

  it('that differ by one thing are told apart by this', async () => {
    for (const name of Object.keys(SHEETS)) {
      const sheet = await reviewed(name)
      const tiles = (sheet.width / TILE.width) * (sheet.height / TILE.height)
      for (let n = 1; n < tiles; n += 1) {
        // A cut shows the same at all of its times, and a lying outline in this box is the upright one.
        if ((name === 'transitions' && n > 12) || (name === 'framings' && n === 3)) continue
        const { mean, share } = difference(pixelsOf(sheet, n - 1), pixelsOf(sheet, n))
        expect([name, n, mean > 0.6 || share > 0.0003]).toEqual([name, n, true])
      }
    }
  })
})
