import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Point, Stroke } from '@core/model'
import { labelBox, shapeOf, strokeBounds, tidied, touchesStroke } from '.'

const WIDE = { width: 16, height: 9 }
const RATIO = 16 / 9
type Spot = readonly [number, number]

/** A path through corners given in heights of the slide, wobbling by up to `wobble` of a height. */
const through = (corners: readonly Spot[], wobble: number): readonly Point[] =>
  corners.slice(1).flatMap((to, n) => {
    const from = corners[n] ?? to
    return Array.from({ length: 20 }, (_, k): Point => {
      const share = k / 20
      const off = wobble * Math.sin((n * 20 + k) * 1.7)
      return { x: (from[0] + (to[0] - from[0]) * share + off) / RATIO, y: from[1] + (to[1] - from[1]) * share - off }
    })
  })
const round = (cx: number, cy: number, rx: number, ry: number, wobble: number): readonly Point[] =>
  Array.from({ length: 61 }, (_, n) => {
    const angle = (n / 60) * Math.PI * 1.96
    const off = 1 + wobble * Math.sin(n * 1.3)
    return { x: (cx + rx * off * Math.cos(angle)) / RATIO, y: cy + ry * off * Math.sin(angle) }
  })
const stroke = (points: readonly Point[]): Stroke => ({
  id: asId('k'),
  slide: asId('one'),
  colour: 'brick',
  width: 'fine',
  pressure: false,
  points: points.map((point, n) => ({ ...point, dt: n * 16, p: 0.5 })),
})
const wobble = fc.double({ min: 0, max: 0.006, noNaN: true })
const angle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true })

describe('a hand that holds still', () => {
  it('meant a line when it drew nearly one, whatever its direction', () => {
    fc.assert(
      fc.property(angle, wobble, (turn, by) => {
        const end: Spot = [0.8 + 0.35 * Math.cos(turn), 0.5 + 0.35 * Math.sin(turn)]
        const shape = shapeOf(through([[0.8, 0.5], end], by), WIDE)
        expect(shape?.kind).toBe('line')
        if (shape?.kind === 'line') expect(Math.hypot(shape.from.x * RATIO - 0.8, shape.from.y - 0.5)).toBeLessThan(0.02)
      }),
    )
  })

  it('meant an arrow when it drew a head at the end', () => {
    fc.assert(
      fc.property(angle, wobble, (turn, by) => {
        const tip: Spot = [0.8 + 0.35 * Math.cos(turn), 0.5 + 0.35 * Math.sin(turn)]
        const wing = (side: number): Spot => [tip[0] - 0.09 * Math.cos(turn + side * 0.6), tip[1] - 0.09 * Math.sin(turn + side * 0.6)]
        const shape = shapeOf(through([[0.8, 0.5], tip, wing(1), tip, wing(-1), wing(-1)], by), WIDE)
        expect(shape?.kind).toBe('arrow')
        if (shape?.kind === 'arrow') expect(Math.hypot(shape.to.x * RATIO - tip[0], shape.to.y - tip[1])).toBeLessThan(0.03)
      }),
    )
  })

  it('meant a box or an ellipse when its ends meet', () => {
    const half = fc.double({ min: 0.08, max: 0.3, noNaN: true })
    fc.assert(
      fc.property(half, half, wobble, (a, b, by) => {
        const box: readonly Spot[] = [
          [0.8 - a, 0.5 - b],
          [0.8 + a, 0.5 - b],
          [0.8 + a, 0.5 + b],
          [0.8 - a, 0.5 + b],
          [0.8 - a, 0.5 - b],
        ]
        expect(shapeOf(through(box, by), WIDE)?.kind).toBe('box')
        const ellipse = shapeOf(round(0.8, 0.5, a, b, by), WIDE)
        expect(ellipse?.kind).toBe('ellipse')
        if (ellipse?.kind === 'ellipse') expect(Math.abs(ellipse.rect.h - 2 * b)).toBeLessThan(0.02)
      }),
    )
  })

  it('meant nothing of these when it wrote, waved or dotted', () => {
    const wave = Array.from({ length: 60 }, (_, n): Point => ({ x: 0.2 + n * 0.006, y: 0.5 + 0.06 * Math.sin(n / 4) }))
    const zigzag = through(
      [
        [0.4, 0.4],
        [0.5, 0.6],
        [0.6, 0.4],
        [0.7, 0.6],
      ],
      0,
    )
    expect([shapeOf(wave, WIDE), shapeOf(zigzag, WIDE), shapeOf([{ x: 0.5, y: 0.5 }], WIDE)]).toEqual([null, null, null])
    expect(tidied(stroke(wave), WIDE)).toBeNull()
  })

  it('gets a clean stroke that takes as long as its own, and lies where it lay', () => {
    const drawn = stroke(round(0.8, 0.5, 0.2, 0.15, 0.01))
    const clean = tidied(drawn, WIDE)
    expect(clean).toMatchObject({ clean: true, id: drawn.id, colour: 'brick' })
    expect(clean?.points.at(-1)?.dt).toBe(drawn.points.at(-1)?.dt)
    const [was, is] = [strokeBounds(drawn, WIDE), strokeBounds(clean ?? drawn, WIDE)]
    for (const edge of ['left', 'top', 'right', 'bottom'] as const) expect(Math.abs(was[edge] - is[edge])).toBeLessThan(0.02)
    // Time only goes on.
    expect(clean?.points.every((point, n) => n === 0 || point.dt >= (clean.points[n - 1]?.dt ?? 0))).toBe(true)
  })
})

describe('a label', () => {
  const label: Stroke = { ...stroke([{ x: 0.3, y: 0.4 }]), tool: 'label', text: 'high water' }

  it('is as wide as its words, and is touched anywhere on its plate', () => {
    const box = labelBox(label, WIDE)
    expect(labelBox({ ...label, text: 'high water at noon' }, WIDE).w).toBeGreaterThan(box.w * 1.4)
    // Long words near the edge are moved back onto the slide.
    const far = labelBox({ ...label, text: 'high water at noon', points: [{ dt: 0, x: 0.95, y: 0.99, p: 0.5 }] }, WIDE)
    expect([far.x + far.w <= 1 + 1e-9, far.y + far.h <= 1 + 1e-9]).toEqual([true, true])
    expect(labelBox({ ...label, width: 'broad' }, WIDE).h).toBeGreaterThan(box.h)
    expect(touchesStroke(label, { x: box.x + box.w * 0.9, y: 0.4 }, 0.01, WIDE)).toBe(true)
    expect(touchesStroke(label, { x: box.x + box.w + 0.03, y: 0.4 }, 0.01, WIDE)).toBe(false)
    expect(strokeBounds(label, WIDE)).toEqual({ left: box.x, top: box.y, right: box.x + box.w, bottom: box.y + box.h })
  })
})
