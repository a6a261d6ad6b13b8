import { describe, expect, it } from 'vitest'
import { pictureBox } from '@core/model'
import type { Rect } from '@core/model'
import { clip, slide, step } from '@core/testing'
import { CONTENT_COLUMNS, CONTENT_ROWS, FULL_CONTENT, boxForClip, clipRect, contentOfSteps, coverage, framingOf, mergeContent } from '.'

const SHAPE = { width: 16, height: 9 }
const WIDE = { width: 640, height: 360 }
/** Content wherever a test says so, in fractions of the slide. */
const contentWhere = (there: (x: number, y: number) => boolean): string =>
  Array.from({ length: CONTENT_COLUMNS * CONTENT_ROWS }, (_, cell) =>
    there(((cell % CONTENT_COLUMNS) + 0.5) / CONTENT_COLUMNS, (Math.floor(cell / CONTENT_COLUMNS) + 0.5) / CONTENT_ROWS) ? 'f' : '0',
  ).join('')
const slideWith = (content: string) => slide('one', 1, { steps: [step(1, content)] })
const inside = ({ x, y, w, h }: Rect): boolean => x >= 0 && y >= 0 && x + w <= 1 && y + h <= 1

describe('a part of a picture of a clip', () => {
  const whole = { x: 0, y: 0, w: 1, h: 1 }
  const of = (crop: Rect) => clip('c', 1000, { box: whole, crop })

  it('is in whole pixels, inside the picture, and never nothing', () => {
    expect(pictureBox(of({ x: 0.25, y: 0.5, w: 0.5, h: 0.5 }))).toEqual({ x: 160, y: 180, width: 320, height: 180 })
    expect(pictureBox(of({ x: 0.9999, y: 0.9, w: 0.5, h: 0.5 }))).toEqual({ x: 640, y: 324, width: 1, height: 36 })
    expect(pictureBox(clip('c', 1000))).toEqual({ x: 0, y: 0, ...WIDE })
  })

  it('is as large on the slide as its own shape allows', () => {
    expect(clipRect(of({ x: 0.1, y: 0.1, w: 0.5, h: 0.5 }), SHAPE)).toEqual(whole)
    const tall = clipRect(of({ x: 0, y: 0, w: 0.25, h: 1 }), SHAPE)
    expect([tall?.h, tall?.w]).toEqual([1, 0.25])
  })
})

describe('where a clip is put on a slide', () => {
  it('is large and in the middle of an empty one, in its own shape', () => {
    const box = boxForClip(slideWith(contentWhere(() => false)), WIDE, SHAPE)
    expect(box.w).toBeCloseTo(box.h, 6)
    expect(box.w).toBeGreaterThan(0.6)
    expect(Math.abs(box.x + box.w / 2 - 0.5)).toBeLessThan(0.02)
  })

  it('hides nothing where there is room', () => {
    const content = contentWhere((x, y) => y < 0.2 || x < 0.4)
    for (const picture of [WIDE, { width: 360, height: 640 }, { width: 400, height: 400 }]) {
      const box = boxForClip(slideWith(content), picture, SHAPE)
      expect(coverage(content, box)).toBe(0)
      expect(inside(box)).toBe(true)
    }
  })

  it('is over the middle of a full one, and the face is proposed beside it', () => {
    const full = boxForClip(slideWith(FULL_CONTENT), { width: 360, height: 640 }, SHAPE)
    expect(inside(full)).toBe(true)
    const [c, empty] = [clip('c', 1000, { box: { x: 0, y: 0, w: 0.6, h: 1 } }), slideWith(contentWhere(() => false))]
    const { rect } = framingOf({ ...empty, clips: [c] }, SHAPE)
    expect(coverage(mergeContent(contentOfSteps({ ...empty, clips: [c] }, SHAPE)), rect)).toBe(0)
  })
})
