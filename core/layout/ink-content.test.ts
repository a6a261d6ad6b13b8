import { describe, expect, it } from 'vitest'
import { PLAIN_FRAMING } from '@core/model'
import { slide, stroke } from '@core/testing'
import { CONTENT_COLUMNS, contentOfInk, coveredShare } from '.'

const SHAPE = { width: 16, height: 9 }
const board = slide('board')
const line = {
  ...stroke('line', board.id),
  points: [
    { dt: 0, x: 0.1, y: 0.5, p: 0.5 },
    { dt: 900, x: 0.9, y: 0.5, p: 0.5 },
  ],
}

describe('ink on a slide', () => {
  it('fills every cell that its line passes, also between the points of a quick hand', () => {
    const row = contentOfInk([line]).slice(9 * CONTENT_COLUMNS, 10 * CONTENT_COLUMNS)
    expect(row.slice(3, 29)).toBe('f'.repeat(26))
    expect(contentOfInk([])).not.toContain('f')
  })

  it('counts as covered when the face lies on it', () => {
    const face = { ...PLAIN_FRAMING, rect: { x: 0.5, y: 0.4, w: 0.5, h: 0.2 } }
    expect(coveredShare(board, face, SHAPE)).toBe(0)
    expect(coveredShare(board, face, SHAPE, [line])).toBeCloseTo(0.5, 1)
    expect(coveredShare(board, { ...face, off: true }, SHAPE, [line])).toBe(0)
  })
})
