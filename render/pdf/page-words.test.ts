import { describe, expect, it } from 'vitest'
import { titleAmong } from './page-words'

const line = (text: string, size: number, y: number) => ({ text, size, y })

describe('titleAmong', () => {
  it('takes the line in the largest type, and goes on in the next where the title does', () => {
    expect(
      titleAmong([line('Harbour school', 12, 500), line('Tides and what', 40, 450), line('moves them', 40, 404), line('by Mara', 20, 360)]),
    ).toBe('Tides and what moves them')
  })

  it('ends where a sentence ends, a list begins, or there is more room', () => {
    const body = (y: number) => [line('Inputs', 24, y), line('A matrix of heights', 24, y - 30)]
    expect(titleAmong([line('What the gauge says.', 24, 460), ...body(430)])).toBe('What the gauge says.')
    expect(titleAmong([line('What the gauge says', 24, 460), ...body(400)])).toBe('What the gauge says')
    expect(titleAmong([line('Gauges', 24, 460), line('• in the harbour', 24, 430)])).toBe('Gauges')
  })

  it('takes the first line of a page that is all one text', () => {
    expect(titleAmong([1, 2, 3, 4, 5].map((n) => line(`line ${String(n)}`, 20, 500 - n * 24)))).toBe('line 1')
  })

  it('has none where there are no words', () => {
    expect(titleAmong([])).toBe('')
  })
})
