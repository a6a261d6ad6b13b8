import { describe, expect, it } from 'vitest'
import { clip, slide, step } from '@core/testing'
import { SHORTEST_SHOWING, countWords, plannedTime, proposedTime } from '.'

const words = (count: number): string => Array.from({ length: count }, (_, n) => `word${String(n)}`).join(' ')

describe('planned time', () => {
  it("is the notes at the presenter's rate", () => {
    expect(proposedTime(slide('a', 1, { notes: words(130) }))).toBe(60_000)
    expect(proposedTime(slide('a', 1, { notes: words(130) }), { wordsPerMinute: 65 })).toBe(120_000)
  })

  it('is the time to read the slide when that takes longer, and grows with its steps', () => {
    const wordy = slide('a', 1, { steps: [{ ...step(1), text: words(100) }] })
    expect(proposedTime(wordy)).toBe(30_000)
    expect(proposedTime(slide('a', 4))).toBe(SHORTEST_SHOWING + 3000)
  })

  it("is the presenter's own figure where there is one, and nothing when skipped", () => {
    expect(plannedTime(slide('a', 1, { planned: 7000, notes: words(500) }))).toBe(7000)
    expect(plannedTime(slide('a', 1, { planned: 7000, skip: true }))).toBe(0)
  })

  it('counts a clip that is played on a slide, and not a recording that lies over it', () => {
    const film = clip('film', 90_000)
    const bare = proposedTime(slide('a'))
    expect(proposedTime(slide('a', 1, { clips: [film] }))).toBe(90_000)
    expect(proposedTime(slide('a', 1, { clips: [{ ...film, captured: true }] }))).toBe(bare)
  })

  it('counts words in any script that spaces them', () => {
    expect(countWords("Low water: 0.8 m, it's early – really.")).toBe(7)
    expect(countWords('  ')).toBe(0)
    expect(countWords('Ебб и прилив')).toBe(3)
    // By script, whatever language is set.
    const chinese = countWords('潮水每天涨落两次。'.repeat(125))
    expect(chinese).toBeGreaterThan(450)
    expect(chinese).toBeLessThan(900)
    expect(countWords('Low water 潮水 น้ำลง at noon')).toBeGreaterThanOrEqual(6)
  })
})
