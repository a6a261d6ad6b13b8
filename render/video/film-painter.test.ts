import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { asId } from '@core/model'
import type { Drawing, InkPoint, ObjectMotion, PathLine, Point, Slide, SlideObject, Stroke } from '@core/model'
import { PALETTES } from '@core/compose'
import { newObject, withDrawnSteps } from '@core/objects'
import { indexFilm, sceneIn, withCaptions } from '@core/scene'
import type { Scene } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { FilmPainter, PictureSource } from '.'
import { changedBox } from './changed-box'

const SIZE = { width: 640, height: 360 }
/** How often a frame is looked at, in ms. */
const FRAME = 1000 / 30

let folder: string
let source: PictureSource
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-painter-'))
  source = new PictureSource((name) => join(folder, name))
  const canvas = createCanvas(SIZE.width, SIZE.height)
  const ctx = canvas.getContext('2d')
  for (let n = 0; n < 36; n += 1) {
    ctx.fillStyle = `hsl(${String(n * 10)} 40% 80%)`
    ctx.fillRect(n * 18, 0, 18, SIZE.height)
  }
  await writeFile(join(folder, 'paper'), await canvas.encode('png'))
})
afterAll(async () => {
  source.close()
  await rm(folder, { recursive: true })
})

const plain = slide('paper', 1)
const PAPER = {
  ...plain,
  steps: plain.steps.map((step) => ({
    ...step,
    picture: {
      kind: 'image' as const,
      source: asId<'asset'>('paper'),
      size: SIZE,
      ground: '#000000',
      screen: asId<'asset'>('paper'),
      thumb: asId<'asset'>('paper'),
    },
  })),
}

const strokeOf = (id: string, tool: 'pen' | 'marker', points: readonly InkPoint[]): Stroke => ({
  id: asId(id),
  slide: asId('paper'),
  tool,
  colour: 'brick',
  width: 'broad',
  pressure: false,
  points,
})

/** What is seen of some strokes, frame by frame. */
function scenesOf(strokes: readonly { readonly at: number; readonly stroke: Stroke }[], frames: number): readonly Scene[] {
  const index = indexFilm(
    film(
      [PAPER],
      [
        stretch(
          's',
          frames * FRAME,
          asId('paper'),
          strokes.map(({ at, stroke }) => ({ kind: 'ink', at, stroke })),
        ),
      ],
    ),
  )
  return Array.from({ length: frames }, (_, n) => sceneIn(index, 0, n * FRAME))
}

/** How many samples of two pictures differ by more than a shade, and by how much at most. */
function difference(a: Buffer, b: Buffer): { readonly most: number; readonly count: number } {
  let [most, count] = [0, 0]
  for (let n = 0; n < a.length; n += 1) {
    const off = Math.abs((a[n] ?? 0) - (b[n] ?? 0))
    most = Math.max(most, off)
    if (off > 2) count += 1
  }
  return { most, count }
}

const point = fc.record({
  x: fc.double({ min: 0.02, max: 0.98, noNaN: true }),
  y: fc.double({ min: 0.02, max: 0.98, noNaN: true }),
  p: fc.constant(0.5),
})
/** A hand's path: from somewhere to somewhere, by small steps. */
const path = fc
  .tuple(
    point,
    fc.array(fc.record({ dx: fc.integer({ min: -25, max: 25 }), dy: fc.integer({ min: -25, max: 25 }) }), { minLength: 2, maxLength: 40 }),
  )
  .map(([start, steps]) => {
    let [x, y] = [start.x, start.y]
    return [
      start,
      ...steps.map(({ dx, dy }) => {
        x = Math.min(0.98, Math.max(0.02, x + dx / 1000))
        y = Math.min(0.98, Math.max(0.02, y + dy / 1000))
        return { x, y, p: 0.5 }
      }),
    ].map((one, n) => ({ ...one, dt: n * 16 }))
  })

const partsOfColour = (hex: string): readonly number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))

/** How far from a place something of a colour is looked for: edges of others may be of that colour too. In pixels. */
const REACH = 60

/** The middle of all that is of a colour near a place. */
function middleOf(data: Uint8ClampedArray, colour: readonly number[], near: Point): Point {
  let [x, y, count] = [0, 0, 0]
  for (let at = 0; at < data.length; at += 4) {
    const [left, top] = [(at / 4) % SIZE.width, Math.floor(at / 4 / SIZE.width)]
    if (Math.max(Math.abs(left - near.x), Math.abs(top - near.y)) > REACH) continue
    if (colour.some((part, n) => Math.abs((data[at + n] ?? 0) - part) > 4)) continue
    x += left
    y += top
    count += 1
  }
  return { x: x / count + 0.5, y: y / count + 0.5 }
}

describe('a painter', () => {
  it('paints a stroke that grows at its tip alone, and no more than a few pixels are lighter or darker for it', async () => {
    const [painter, fresh] = [new FilmPainter(SIZE, source), new FilmPainter(SIZE, source)]
    await fc.assert(
      fc.asyncProperty(path, path, fc.constantFrom('pen' as const, 'marker' as const), async (one, other, tool) => {
        const scenes = scenesOf(
          [
            { at: 30, stroke: strokeOf('one', tool, one) },
            { at: 400, stroke: strokeOf('other', 'pen', other) },
          ],
          36,
        )
        for (const [n, scene] of scenes.entries()) {
          const last = scenes[n - 1]
          const picture = last === undefined ? await painter.paint(scene) : await painter.paintNext(scene, changedBox(last, scene, SIZE))
          if (n % 6 !== 5) continue
          const { most, count } = difference(picture, await fresh.paint(scene))
          expect(most).toBeLessThan(64)
          expect(count).toBeLessThan(100)
        }
      }),
      { numRuns: 15, endOnFailure: true },
    )
  })

  it('paints the same picture whatever it painted before', async () => {
    await fc.assert(
      fc.asyncProperty(path, path, async (one, other) => {
        const scenes = scenesOf(
          [
            { at: 30, stroke: strokeOf('one', 'pen', one) },
            { at: 400, stroke: strokeOf('other', 'marker', other) },
          ],
          36,
        )
        const painter = new FilmPainter(SIZE, source)
        for (const [n, scene] of scenes.entries()) {
          const last = scenes[n - 1]
          await (last === undefined ? painter.paint(scene) : painter.paintNext(scene, changedBox(last, scene, SIZE)))
        }
        for (const scene of [scenes[20], scenes[3], scenes[35]]) {
          if (scene === undefined) throw new Error('a scene')
          expect((await painter.paint(scene)).equals(await new FilmPainter(SIZE, source).paint(scene))).toBe(true)
        }
      }),
      { numRuns: 5, endOnFailure: true },
    )
  })

  it('paints captions anew where they change alone, over ink and without leaving anything behind', async () => {
    const pen = strokeOf(
      'pen',
      'pen',
      Array.from({ length: 40 }, (_, n) => ({ dt: n * 16, x: 0.1 + n * 0.02, y: 0.9, p: 0.5 })),
    )
    const plain = indexFilm(film([PAPER], [stretch('s', 1200, asId('paper'), [{ kind: 'ink', at: 100, stroke: pen }])]))
    const index = withCaptions(plain, [
      { from: 150, until: 500, lines: ['Calm tonight'] },
      { from: 500, until: 900, lines: ['The tide turns twice a day, and the harbour', 'is dry for an hour.'] },
    ])
    const scenes = Array.from({ length: 36 }, (_, n) => sceneIn(index, 0, n * FRAME))
    const [painter, fresh] = [new FilmPainter(SIZE, source), new FilmPainter(SIZE, source)]
    for (const [n, scene] of scenes.entries()) {
      const last = scenes[n - 1]
      const picture = last === undefined ? await painter.paint(scene) : await painter.paintNext(scene, changedBox(last, scene, SIZE))
      expect(difference(picture, await fresh.paint(scene)).count).toBeLessThan(100)
    }
    const before = Buffer.from(await fresh.paint({ ...(scenes[20] as Scene), caption: null }))
    expect(difference(before, await fresh.paint(scenes[20] as Scene)).count).toBeGreaterThan(10_000)
  })

  describe('of what moves on a slide', () => {
    const boat = (name: string, y: number, colour: SlideObject['colour']): SlideObject => ({
      ...newObject(asId(name), 'box', { x: 0.15, y }),
      box: { x: 0.1, y: y - 0.03, w: 0.08, h: 0.06 },
      colour,
    })
    const way = (name: string, points: readonly Point[], line: PathLine, fields: Partial<ObjectMotion> = {}): ObjectMotion => ({
      id: asId(`way of ${name}`),
      object: asId(name),
      step: 1,
      start: 'together',
      delay: 0,
      duration: 1000,
      ease: 'calm',
      does: { kind: 'path', points, line, turns: false },
      ...fields,
    })
    const drawing: Drawing = {
      objects: [boat('ferry', 0.2, 'mark'), boat('pilot', 0.5, 'text'), boat('tug', 0.8, 'soft')],
      motions: [
        way('ferry', [{ x: 0.7, y: 0.05 }], 'straight'),
        way(
          'pilot',
          [
            { x: 0.3, y: -0.05 },
            { x: 0.6, y: 0.05 },
          ],
          'curved',
          { duration: 700 },
        ),
        way(
          'tug',
          [
            { x: 0.2, y: 0 },
            { x: 0.5, y: -0.1 },
          ],
          'freehand',
          { delay: 300, ease: 'even' },
        ),
      ],
      starts: [],
      theme: 'paper',
    }
    const slideOf = (drawn: Drawing): Slide => withDrawnSteps({ ...PAPER, drawing: drawn })
    const moving = (drawn: Drawing): readonly Scene[] => {
      const index = indexFilm(
        film([slideOf(drawn)], [stretch('s', 1500, asId('paper'), [{ kind: 'show', at: 150, slide: asId('paper'), step: 1 }])]),
      )
      return Array.from({ length: 45 }, (_, n) => sceneIn(index, 0, n * FRAME))
    }

    it('paints the frames as if each were the first, and only where something moves', async () => {
      const scenes = moving(drawing)
      const [painter, fresh] = [new FilmPainter(SIZE, source), new FilmPainter(SIZE, source)]
      for (const [n, scene] of scenes.entries()) {
        const last = scenes[n - 1]
        const box = last === undefined ? null : changedBox(last, scene, SIZE)
        const picture = last === undefined ? await painter.paint(scene) : await painter.paintNext(scene, box)
        expect(difference(picture, await fresh.paint(scene)).count).toBeLessThan(200)
        if (n < 4 || n > 44) expect(box).toBeNull()
      }
    })

    it('has each where it was said to be, to two pixels', async () => {
      for (const [n, scene] of moving(drawing).entries()) {
        if (n % 5 !== 0) continue
        const painter = new FilmPainter(SIZE, source)
        await painter.paint(scene)
        const { data } = painter.canvas.getContext('2d').getImageData(0, 0, SIZE.width, SIZE.height)
        for (const { object, at, theme } of scene.objects) {
          const meant = { x: at.x * SIZE.width, y: at.y * SIZE.height }
          const found = middleOf(data, partsOfColour(PALETTES[theme][object.colour]), meant)
          expect(Math.hypot(found.x - meant.x, found.y - meant.y), `${object.id} in ${String(n)}`).toBeLessThan(2)
        }
      }
    })
  })

  it('paints much less than the strokes that grow', () => {
    const long = strokeOf(
      'long',
      'pen',
      Array.from({ length: 60 }, (_, n) => ({ dt: n * 16, x: 0.05 + n * 0.015, y: 0.2 + n * 0.01, p: 0.5 })),
    )
    const scenes = scenesOf([{ at: 0, stroke: long }], 29)
    for (const [n, scene] of scenes.entries()) {
      const last = scenes[n - 1]
      if (last === undefined || n < 3) continue
      const box = changedBox(last, scene, SIZE)
      expect(box === null ? 0 : box.width * box.height).toBeLessThan(8000)
    }
  })
})
