import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { spokenLines } from '@core/markup'
import { SPEAKING_RATE, atFirstLine, atLine, followed, movedByRate, scriptOf, setRight } from '.'
import type { Reading, Script } from '.'

const scriptOfWords = (counts: readonly number[]): Script =>
  scriptOf(spokenLines(counts.map((count) => `${Array.from({ length: count }, () => 'word').join(' ')}.`).join(' ')))

const TICK = 50

/**
 * Somebody who reads a script aloud: each sentence at a rate of its own around theirs, a pause after each, sometimes one
 * within. What is heard of it comes in ticks.
 * @returns the largest distance, in lines, between where they were and where the prompter was
 */
function worstDistance(
  script: Script,
  rate: number,
  sentences: readonly { readonly haste: number; readonly pause: number; readonly inside: number }[],
  start: number,
): number {
  let reading: Reading = atFirstLine(start)
  let silence = 0
  let worst = 0
  const tick = (line: number, speaking: boolean): void => {
    reading = followed(script, reading, TICK, speaking, speaking && silence > 0 ? silence : null)
    silence = speaking ? 0 : silence + TICK
    worst = Math.max(worst, Math.abs(reading.line - line))
  }
  for (const [line, { haste, pause, inside }] of sentences.entries()) {
    const words = (script.starts[line + 1] ?? 0) - (script.starts[line] ?? 0)
    const ticks = Math.round(((words / (rate * haste)) * 60_000) / TICK)
    for (let n = 0; n < ticks; n += 1) {
      if (n === Math.floor(ticks / 2)) for (let quiet = 0; quiet < inside; quiet += TICK) tick(line, false)
      tick(line, true)
    }
    for (let quiet = 0; quiet < pause; quiet += TICK) tick(line, false)
  }
  return worst
}

describe('a prompter that follows the voice', () => {
  const sentence = fc.record({
    words: fc.integer({ min: 6, max: 22 }),
    haste: fc.double({ min: 0.88, max: 1.12, noNaN: true }),
    pause: fc.integer({ min: 350, max: 2500 }),
    inside: fc.oneof({ weight: 3, arbitrary: fc.constant(0) }, { weight: 1, arbitrary: fc.integer({ min: 300, max: 1500 }) }),
  })
  const reading = fc.array(sentence, { minLength: 18, maxLength: 22 })

  it('stays within one line of a reader through two minutes, whatever their haste and their pauses', () => {
    fc.assert(
      fc.property(reading, fc.integer({ min: 115, max: 150 }), (sentences, rate) => {
        expect(worstDistance(scriptOfWords(sentences.map((one) => one.words)), rate, sentences, SPEAKING_RATE)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 300, seed: 11 },
    )
  })

  it('does so for nearly all of those whose rate it guessed wrong by a third', () => {
    const all = fc.sample(fc.tuple(reading, fc.integer({ min: 100, max: 175 })), { numRuns: 300, seed: 11 })
    const lost = all.filter(
      ([sentences, rate]) => worstDistance(scriptOfWords(sentences.map((one) => one.words)), rate, sentences, SPEAKING_RATE) > 1,
    )
    expect(lost.length).toBeLessThanOrEqual(9)
  })

  it('takes a line for as long as its letters take to say, not its words', () => {
    const { starts } = scriptOf(spokenLines('It is as it is, so be it. Extraordinary responsibilities notwithstanding, 1800 applied.'))
    const [, second = 0, all = 0] = starts
    expect(all).toBe(13)
    // Eight words of 16 letters and a breath, and five of 51 letters, four digits and a breath.
    expect(second).toBeLessThan(all / 3)
  })

  it('waits while nobody speaks', () => {
    const script = scriptOfWords([10, 10])
    let reading = followed(script, atFirstLine(120), 2000, true, null)
    const there = reading.words
    for (let n = 0; n < 200; n += 1) reading = followed(script, reading, TICK, false, null)
    expect(reading.words).toBe(there)
    expect(there).toBeCloseTo(4)
  })

  it('learns the rate of a reader from where sentences end', () => {
    const script = scriptOfWords([14, 14, 14, 14])
    let reading = atFirstLine(SPEAKING_RATE)
    for (let n = 0; n < 3; n += 1) {
      reading = followed(script, reading, (14 / 160) * 60_000, true, n === 0 ? null : 500)
    }
    expect(followed(script, reading, 0, true, 500).wordsPerMinute).toBeGreaterThan(145)
  })

  it('never goes past the last line, nor before the first', () => {
    const script = scriptOfWords([5, 5])
    expect(followed(script, atFirstLine(200), 600_000, true, null).line).toBe(1)
    expect(atLine(script, atFirstLine(100), 9).line).toBe(1)
    expect(atLine(script, atFirstLine(100), -3).line).toBe(0)
    expect(setRight(script, followed(script, atFirstLine(100), 2800, true, null)).line).toBe(1)
  })
})

describe('a prompter that moves by itself', () => {
  it('takes as long over each line as its words at the rate, and waits at a pause as long as it says', () => {
    const script = scriptOf(spokenLines('One two three four. [pause 3] Five six.'))
    const seen: number[] = []
    let reading = atFirstLine(120)
    for (let n = 0; n < 100; n += 1) {
      reading = movedByRate(script, reading, 100)
      seen.push(reading.line)
    }
    const times = [0, 1, 2].map((line) => seen.filter((one) => one === line).length * 100)
    expect(Math.abs((times[0] ?? 0) - 2000)).toBeLessThanOrEqual(200)
    expect(Math.abs((times[1] ?? 0) - 3000)).toBeLessThanOrEqual(200)
    expect(seen.at(-1)).toBe(2)
  })
})
