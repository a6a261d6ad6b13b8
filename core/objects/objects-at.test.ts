import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EASES, NOTHING_DRAWN, PATH_LINES, asId } from '@core/model'
import type { Drawing, MotionDeed, ObjectMotion, SlideObject } from '@core/model'
import { boundsOfObject } from './bounds'
import { easedBy, objectsAt } from './objects-at'
import { headingOn, placeOn, wayBy } from './path'
import { beginsAfter, motionsOf, movesFor } from './timeline'

const SHAPE = { width: 16, height: 9 }
const ferry: SlideObject = {
  id: asId('ferry'),
  form: { kind: 'box', filled: true, breadth: 0.006, label: '' },
  box: { x: 0.1, y: 0.4, w: 0.2, h: 0.1 },
  turn: 0,
  colour: 'mark',
  opacity: 1,
  locked: false,
  group: null,
}
const motion = (id: string, does: MotionDeed, fields: Partial<ObjectMotion> = {}): ObjectMotion => ({
  id: asId(id),
  object: ferry.id,
  step: 1,
  start: 'step',
  delay: 0,
  duration: 1000,
  ease: 'even',
  does,
  ...fields,
})
const drawn = (motions: readonly ObjectMotion[], fields: Partial<Drawing> = {}): Drawing => ({
  ...NOTHING_DRAWN,
  objects: [ferry],
  motions,
  ...fields,
})
const seen = (drawing: Drawing, step: number, elapsed: number) => objectsAt({ drawing, composition: null }, step, elapsed, SHAPE)[0]
const out: MotionDeed = { kind: 'path', points: [{ x: 0.4, y: 0 }], line: 'straight', turns: false }

describe('what is drawn on a slide', () => {
  it('goes along its way with its step, and stays where that ends in all steps behind', () => {
    const drawing = drawn([motion('out', out)])
    expect(seen(drawing, 0, Infinity)).toMatchObject({ at: { x: 0.2, y: 0.45 }, moving: false })
    expect(seen(drawing, 1, 0)).toMatchObject({ at: { x: 0.2 }, moving: true })
    expect(seen(drawing, 1, 500)?.at.x).toBeCloseTo(0.4)
    expect(seen(drawing, 1, 1000)).toMatchObject({ at: { x: 0.6000000000000001 }, moving: false })
    expect(seen(drawing, 2, 0)?.at.x).toBeCloseTo(0.6)
  })

  it('is not there before it comes, and no more once it went', () => {
    const drawing = drawn([motion('in', { kind: 'comes', how: 'fade' }), motion('off', { kind: 'goes', how: 'grow' }, { step: 2 })])
    expect(seen(drawing, 0, Infinity)).toBeUndefined()
    expect(seen(drawing, 1, 250)?.opacity).toBeCloseTo(0.25)
    expect(seen(drawing, 1, Infinity)).toMatchObject({ opacity: 1, scale: 1 })
    expect(seen(drawing, 2, 750)?.scale).toBeCloseTo(0.25)
    expect(seen(drawing, 2, 1000)).toBeUndefined()
    expect(seen(drawing, 3, 0)).toBeUndefined()
  })

  it('does one thing after another, together, and after a while', () => {
    const drawing = drawn([
      motion('out', out, { delay: 200 }),
      motion('larger', { kind: 'grows', to: 2 }, { start: 'together', duration: 400 }),
      motion('pale', { kind: 'fades', to: 0.5 }, { start: 'after', delay: 100 }),
    ])
    expect(motionsOf(drawing, 1).map(({ from, to }) => [from, to])).toEqual([
      [200, 1200],
      [0, 400],
      [500, 1500],
    ])
    expect(movesFor(drawing, 1)).toBe(1500)
    expect(seen(drawing, 1, 200)?.scale).toBeCloseTo(1.5)
    expect(seen(drawing, 1, 1000)?.opacity).toBeCloseTo(0.75)
  })

  it('has steps begin by themselves: after a while, or after all has come to rest', () => {
    const drawing = drawn([motion('out', out)], {
      starts: [
        { step: 1, after: 'begun', wait: 3000 },
        { step: 2, after: 'ended', wait: 500 },
      ],
    })
    expect([0, 1, 2].map((step) => beginsAfter(drawing, step))).toEqual([3000, 1500, null])
  })

  it('turns as its way does, from how it was turned', () => {
    const round: MotionDeed = {
      kind: 'path',
      points: [
        { x: 0.2, y: 0 },
        { x: 0.2, y: 0.4 },
      ],
      line: 'straight',
      turns: true,
    }
    const drawing = drawn([motion('round', round)])
    expect(seen(drawing, 1, 100)?.turn).toBeCloseTo(0)
    expect(seen(drawing, 1, 900)?.turn).toBeCloseTo(90)
    expect(seen(drawing, 2, 0)?.turn).toBeCloseTo(90)
  })

  it('takes what is odd: nothing to do in no time, a way to where it is, one of ten thousand points', () => {
    const still = drawn([motion('none', { kind: 'path', points: [{ x: 0, y: 0 }], line: 'curved', turns: true }, { duration: 0 })])
    expect(seen(still, 1, 0)).toMatchObject({ at: { x: 0.2, y: 0.45 }, turn: 0, moving: false })
    const points = Array.from({ length: 10_000 }, (_, n) => ({ x: Math.sin(n / 100) * 0.2, y: n / 20_000 }))
    for (const line of PATH_LINES) {
      const long = drawn([motion('long', { kind: 'path', points, line, turns: true })])
      const at = seen(long, 1, Infinity)?.at
      expect(at?.x).toBeCloseTo(0.2 + (points.at(-1)?.x ?? 0), 6)
    }
  })

  it('whatever moves is where its step ended when the next begins, and comes to each place without a jump', () => {
    const share = fc.double({ min: -1, max: 1, noNaN: true })
    const deed: fc.Arbitrary<MotionDeed> = fc.oneof(
      fc.record({ kind: fc.constant('grows' as const), to: fc.double({ min: 0.1, max: 5, noNaN: true }) }),
      fc.record({ kind: fc.constant('fades' as const), to: fc.double({ min: 0, max: 1, noNaN: true }) }),
      fc.record({
        kind: fc.constant('path' as const),
        points: fc.array(fc.record({ x: share, y: share }), { minLength: 1, maxLength: 6 }),
        line: fc.constantFrom(...PATH_LINES),
        turns: fc.constant(false),
      }),
    )
    const one = fc.record({
      does: deed,
      step: fc.integer({ min: 1, max: 3 }),
      start: fc.constantFrom('step' as const, 'together' as const, 'after' as const),
      delay: fc.integer({ min: 0, max: 2000 }),
      duration: fc.integer({ min: 200, max: 3000 }),
      ease: fc.constantFrom(...EASES),
    })
    fc.assert(
      fc.property(fc.array(one, { maxLength: 5 }), fc.integer({ min: 0, max: 3 }), (list, step) => {
        const drawing = drawn(list.map(({ does, ...fields }, n) => motion(String(n), does, fields)))
        expect(seen(drawing, step, Infinity)).toEqual({ ...seen(drawing, step + 1, -1), moving: false })
        for (let t = 0; t < movesFor(drawing, step); t += 97) {
          const [before, after] = [seen(drawing, step, t), seen(drawing, step, t + 1)]
          // A hundredth of the slide in a millisecond is faster than anything here goes.
          expect(Math.abs((after?.at.x ?? 0) - (before?.at.x ?? 0))).toBeLessThan(0.2)
        }
      }),
      { numRuns: 60 },
    )
  })

  it('covers what it is drawn on: turned, grown, with a tip and lines that reach over its edge', () => {
    const turned = { ...ferry, turn: 90 }
    const bounds = boundsOfObject(seen({ ...drawn([]), objects: [turned] }, 0, Infinity) as never, SHAPE)
    // As high as it was wide, in pixels.
    expect(bounds.h).toBeGreaterThan((0.2 * 16) / 9)
    expect(bounds.w).toBeLessThan(0.2)
  })
})

describe('a way', () => {
  it('is gone along by its length, whatever lies between its points', () => {
    const way = wayBy(
      [
        { x: 0.1, y: 0 },
        { x: 0.4, y: 0 },
      ],
      'straight',
      SHAPE,
    )
    expect(placeOn(way, 0.5).x).toBeCloseTo(0.2)
    expect(placeOn(way, 1)).toEqual({ x: 0.4, y: 0 })
  })

  it('that is curved comes by all its points', () => {
    const points = [
      { x: 0.2, y: 0.3 },
      { x: 0.5, y: -0.2 },
      { x: 0.7, y: 0.1 },
    ]
    const { points: all } = wayBy(points, 'curved', SHAPE)
    for (const { x, y } of points) expect(Math.min(...all.map((at) => Math.hypot(at.x - x, at.y - y)))).toBeLessThan(1e-9)
    expect(headingOn(wayBy([{ x: 0, y: 0.5 }], 'straight', SHAPE), 0.5, SHAPE)).toBeCloseTo(90)
  })

  it('begins and ends where it should, however its speed goes', () => {
    for (const ease of EASES) {
      expect([easedBy(ease, 0), easedBy(ease, 1)]).toEqual([0, 1])
      for (let at = 0; at < 1; at += 0.05) expect(easedBy(ease, at + 0.05)).toBeGreaterThan(easedBy(ease, at))
    }
  })
})
