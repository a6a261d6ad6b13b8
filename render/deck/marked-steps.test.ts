import { createCanvas } from '@napi-rs/canvas'
import type { SKRSContext2D } from '@napi-rs/canvas'
import { describe, expect, it } from 'vitest'
import { CONTENT_COLUMNS, CONTENT_ROWS, MOST_COVERED, contentOf, insetExtent, insetMargin, placeInset } from '@core/layout'
import type { ContentGrid } from '@core/layout'
import type { Rect } from '@core/model'
import { registerFonts } from '@render/type'

/*
 * Forty steps drawn on grounds of every kind, each with marks set by hand round what a viewer looks at. The marks are
 * the measure, not what the detector finds.
 */
registerFonts()
const WIDTH = 256
const HEIGHT = 144
const WIDE = { width: 16, height: 9 }

interface Marked {
  readonly name: string
  readonly draw: (ctx: SKRSContext2D) => void
  /** What is content, in fractions of the slide. */
  readonly marks: readonly Rect[]
}

type Ground = (ctx: SKRSContext2D) => void
let seed = 1
const random = (): number => {
  seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
  return seed / 2_147_483_648
}

const flat =
  (colour: string): Ground =>
  (ctx) => {
    ctx.fillStyle = colour
    ctx.fillRect(0, 0, 960, 540)
  }
const gradient =
  (from: string, to: string, across: boolean): Ground =>
  (ctx) => {
    const fill = ctx.createLinearGradient(0, 0, across ? 960 : 300, across ? 0 : 540)
    fill.addColorStop(0, from)
    fill.addColorStop(1, to)
    ctx.fillStyle = fill
    ctx.fillRect(0, 0, 960, 540)
  }
const glow =
  (middle: string, edge: string): Ground =>
  (ctx) => {
    const fill = ctx.createRadialGradient(480, 270, 40, 480, 270, 620)
    fill.addColorStop(0, middle)
    fill.addColorStop(1, edge)
    ctx.fillStyle = fill
    ctx.fillRect(0, 0, 960, 540)
  }
/** A photograph of sky over water: slow colours, grain, ripples. */
const photo =
  (sky: readonly [number, number, number], water: readonly [number, number, number], grain: number): Ground =>
  (ctx) => {
    const picture = ctx.createImageData(960, 540)
    for (let y = 0; y < 540; y += 1) {
      for (let x = 0; x < 960; x += 1) {
        const [r, g, b] = y < 330 ? sky : water
        const ripple = y < 330 ? Math.sin(x / 190 + y / 120) * 10 : Math.sin(x / 14 + y * 1.3) * 7
        const noise = (random() - 0.5) * grain
        picture.data.set([r + ripple + noise - y / 16, g + ripple + noise - y / 22, b + ripple + noise - y / 30, 255], (y * 960 + x) * 4)
      }
    }
    ctx.putImageData(picture, 0, 0)
  }

const px = (rect: Rect): [number, number, number, number] => [rect.x * 960, rect.y * 540, rect.w * 960, rect.h * 540]
const rect = (x: number, y: number, w: number, h: number): Rect => ({ x, y, w, h })

/** Lines of words that fill a rectangle. */
function words(ctx: SKRSContext2D, at: Rect, size: number, colour: string): void {
  const [x, y, w, h] = px(at)
  ctx.save()
  ctx.beginPath()
  ctx.rect(x, y, w, h)
  ctx.clip()
  ctx.fillStyle = colour
  ctx.font = `600 ${String(size)}px "Atkinson Hyperlegible Next"`
  const text = 'Low water at the old pier comes twice a day and nobody waits for it there '
  for (let line = 0; (line + 0.9) * size * 1.3 <= h + size; line += 1)
    ctx.fillText(text.slice(line * 7) + text, x, y + size * 0.95 + line * size * 1.3)
  ctx.restore()
}
function chart(ctx: SKRSContext2D, at: Rect, colour: string): void {
  const [x, y, w, h] = px(at)
  ctx.fillStyle = colour
  for (let n = 0; n < 6; n += 1) {
    const high = h * (0.4 + 0.6 * Math.abs(Math.sin(n + 1)))
    ctx.fillRect(x + (n * w) / 6, y + h - high, w / 7, high)
  }
  ctx.fillRect(x, y + h - 3, w, 3)
}
function curve(ctx: SKRSContext2D, at: Rect, colour: string): void {
  const [x, y, w, h] = px(at)
  ctx.strokeStyle = colour
  ctx.lineWidth = 6
  ctx.beginPath()
  for (let n = 0; n <= 60; n += 1) ctx.lineTo(x + (n * w) / 60, y + h / 2 - Math.sin(n / 6) * h * 0.47)
  ctx.stroke()
}
/** A dark, detailed thing before a sky. */
function boat(ctx: SKRSContext2D, at: Rect): void {
  const [x, y, w, h] = px(at)
  ctx.fillStyle = '#2b1d16'
  ctx.fillRect(x, y + h * 0.65, w, h * 0.35)
  for (let n = 0; n < 9; n += 1) {
    ctx.fillStyle = n % 2 === 0 ? '#e9e0cf' : '#8a2f22'
    ctx.fillRect(x + (n * w) / 9, y + (n % 3) * h * 0.12, w / 14, h * 0.66)
  }
}

const GROUNDS: readonly (readonly [string, Ground, string])[] = [
  ['white', flat('#ffffff'), '#222222'],
  ['dark', flat('#14201e'), '#f0eadc'],
  ['slant gradient', gradient('#fdf6e3', '#c9dfe8', false), '#2b2b2b'],
  ['dark gradient', gradient('#102a43', '#3b1d4a', true), '#f5f0e6'],
  ['glow', glow('#fffdf5', '#c8bfa8'), '#30271b'],
]
const PHOTOS: readonly (readonly [string, Ground])[] = [
  ['clear sky', photo([150, 185, 225], [70, 110, 130], 6)],
  ['grainy dusk', photo([190, 140, 120], [80, 70, 95], 14)],
  ['pale morning', photo([225, 225, 220], [170, 185, 190], 8)],
]

const title = rect(0.06, 0.08, 0.5, 0.09)
const column = rect(0.06, 0.26, 0.4, 0.5)
const figure = rect(0.52, 0.3, 0.4, 0.45)
const low = rect(0.08, 0.6, 0.55, 0.3)
const middle = rect(0.2, 0.38, 0.6, 0.22)

const STEPS: readonly Marked[] = [
  ...GROUNDS.flatMap(([name, ground, ink]): Marked[] => [
    {
      name: `${name}: title and column`,
      marks: [title, column],
      draw: (ctx) => {
        ground(ctx)
        words(ctx, title, 40, ink)
        words(ctx, column, 22, ink)
      },
    },
    {
      name: `${name}: title and bars`,
      marks: [title, figure],
      draw: (ctx) => {
        ground(ctx)
        words(ctx, title, 40, ink)
        chart(ctx, figure, '#2b7a8c')
      },
    },
    {
      name: `${name}: column and curve`,
      marks: [column, figure],
      draw: (ctx) => {
        ground(ctx)
        words(ctx, column, 20, ink)
        curve(ctx, figure, '#b4452d')
      },
    },
    {
      name: `${name}: words below`,
      marks: [low],
      draw: (ctx) => {
        ground(ctx)
        words(ctx, low, 26, ink)
      },
    },
    {
      name: `${name}: one claim`,
      marks: [middle],
      draw: (ctx) => {
        ground(ctx)
        words(ctx, middle, 44, ink)
      },
    },
  ]),
  ...PHOTOS.flatMap(([name, ground]): Marked[] => {
    const thing = rect(0.12, 0.3, 0.28, 0.38)
    const other = rect(0.62, 0.22, 0.26, 0.42)
    return [
      {
        name: `${name}: a boat on the left`,
        marks: [thing],
        draw: (ctx) => {
          ground(ctx)
          boat(ctx, thing)
        },
      },
      {
        name: `${name}: a boat on the right`,
        marks: [other],
        draw: (ctx) => {
          ground(ctx)
          boat(ctx, other)
        },
      },
      {
        name: `${name}: a white title`,
        marks: [title],
        draw: (ctx) => {
          ground(ctx)
          words(ctx, title, 42, '#ffffff')
        },
      },
      {
        name: `${name}: words over a boat`,
        marks: [title, thing],
        draw: (ctx) => {
          ground(ctx)
          boat(ctx, thing)
          words(ctx, title, 42, '#1b1b1b')
        },
      },
      {
        name: `${name}: a claim in the middle`,
        marks: [middle],
        draw: (ctx) => {
          ground(ctx)
          words(ctx, middle, 46, '#fffbe8')
        },
      },
    ]
  }),
]

const known = new Map<Marked, ContentGrid>()

function contentOfStep(step: Marked): ContentGrid {
  const found = known.get(step) ?? drawAndLook(step)
  known.set(step, found)
  return found
}

function drawAndLook(step: Marked): ContentGrid {
  seed = 7
  const page = createCanvas(960, 540)
  step.draw(page.getContext('2d'))
  const small = createCanvas(WIDTH, HEIGHT)
  const ctx = small.getContext('2d')
  ctx.imageSmoothingQuality = 'medium'
  ctx.drawImage(page, 0, 0, WIDTH, HEIGHT)
  return contentOf(ctx.getImageData(0, 0, WIDTH, HEIGHT).data, WIDTH, HEIGHT)
}

/** Cells that lie wholly inside a mark. */
function cellsIn(marks: readonly Rect[]): readonly number[] {
  return Array.from({ length: CONTENT_COLUMNS * CONTENT_ROWS }, (_, cell) => cell).filter((cell) => {
    const [x, y] = [(cell % CONTENT_COLUMNS) / CONTENT_COLUMNS, Math.floor(cell / CONTENT_COLUMNS) / CONTENT_ROWS]
    return marks.some(
      (mark) => x >= mark.x && y >= mark.y && x + 1 / CONTENT_COLUMNS <= mark.x + mark.w && y + 1 / CONTENT_ROWS <= mark.y + mark.h,
    )
  })
}

const overlap = (a: Rect, b: Rect): number =>
  Math.max(0, Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)) * Math.max(0, Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y))
/** The share of all that is marked which a rectangle covers. */
const coveredMarks = (marks: readonly Rect[], face: Rect): number =>
  marks.reduce((sum, mark) => sum + overlap(mark, face), 0) / marks.reduce((sum, mark) => sum + mark.w * mark.h, 0)

/** Whether a usual inset fits anywhere without covering more than it may of what is marked. */
function somewhereFree(marks: readonly Rect[]): boolean {
  const { w, h } = insetExtent('card', 0.3556, WIDE)
  const margin = insetMargin(WIDE)
  for (let x = margin.x; x <= 1 - margin.x - w; x += 0.01)
    for (let y = margin.y; y <= 1 - margin.y - h; y += 0.01) if (coveredMarks(marks, { x, y, w, h }) <= MOST_COVERED) return true
  return false
}

describe('forty steps marked by hand', () => {
  it('are forty', () => {
    expect(STEPS.length).toBe(40)
  })

  it('have at least 95% of what is marked found', () => {
    let found = 0
    let all = 0
    const worst: [number, string][] = []
    for (const step of STEPS) {
      const grid = contentOfStep(step)
      const cells = cellsIn(step.marks)
      // A chart or a curve does not fill its mark: what counts as there is a cell with something drawn in or beside it.
      const near = (cell: number): boolean => [0, -1, 1, -CONTENT_COLUMNS, CONTENT_COLUMNS].some((by) => (grid[cell + by] ?? '0') !== '0')
      const hits = cells.filter(near).length
      found += hits
      all += cells.length
      worst.push([hits / cells.length, step.name])
    }
    expect(worst.filter(([share]) => share < 0.6)).toEqual([])
    expect(found / all).toBeGreaterThanOrEqual(0.95)
  })

  it('have a place proposed that covers at most 3% of what is marked wherever there is one', () => {
    const bad = STEPS.filter((step) => somewhereFree(step.marks)).flatMap((step) => {
      const covered = coveredMarks(step.marks, placeInset([contentOfStep(step)], WIDE).rect)
      return covered <= MOST_COVERED ? [] : [[step.name, covered]]
    })
    expect(bad).toEqual([])
    expect(STEPS.filter((step) => somewhereFree(step.marks)).length).toBe(40)
  })

  it('are told from their empty places: nearly all that is far from any mark is free', () => {
    const shares = STEPS.map((step) => {
      const near = new Set(cellsIn(step.marks.map((mark) => ({ x: mark.x - 0.06, y: mark.y - 0.1, w: mark.w + 0.12, h: mark.h + 0.2 }))))
      const outside = Array.from(contentOfStep(step)).filter((_, cell) => !near.has(cell))
      return outside.filter((cell) => cell !== '0').length / outside.length
    })
    expect(shares.reduce((sum, share) => sum + share, 0) / shares.length).toBeLessThan(0.05)
  })
})
