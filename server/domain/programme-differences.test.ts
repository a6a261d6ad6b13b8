import { describe, expect, it } from 'vitest'
import { changeAtRandom, randomTalk } from '@core/testing'
import type { AlgebraSizes } from '@core/testing'
import { Refusal } from '@core/model'
import type { Programme } from '@core/model'
import { differenceOf, withDifference } from './programme-differences'

const asKept = (programme: Programme): Programme => JSON.parse(JSON.stringify(programme)) as Programme

/** Programmes of a talk after each of some edits at random, as they are kept. */
function historyOf(seed: number, edits: number, sizes: AlgebraSizes): readonly Programme[] {
  const talk = randomTalk(seed, sizes)
  const history = [asKept(talk.programme)]
  for (let n = 0; n < edits; n += 1) {
    try {
      changeAtRandom(talk)
    } catch (error) {
      // Of a part that an edit before it took out.
      if (!(error instanceof Refusal)) throw error
    }
    history.push(asKept(talk.programme))
  }
  return history
}

describe('how a programme differs from the one after it', () => {
  it('leads back to it, whatever was changed', () => {
    let found = 0
    for (let seed = 1; seed <= 30; seed += 1) {
      const history = historyOf(seed, 12, { least: 200, most: 6000 })
      for (const [n, older] of history.slice(0, -1).entries()) {
        const newer = history[n + 1] ?? older
        const difference = differenceOf(newer, older)
        if (difference === null) {
          expect(older).toEqual(newer)
          continue
        }
        found += 1
        expect(withDifference(newer, difference)).toEqual(older)
      }
    }
    expect(found).toBeGreaterThan(150)
  })

  it('takes as much room as what was changed, not as all of it', () => {
    const stroke = (n: number) => ({
      id: `stroke-${String(n)}`,
      points: Array.from({ length: 200 }, (_, at) => ({ x: at / 200, y: n / 400, dt: at * 8 })),
    })
    const [base] = historyOf(3, 8, { least: 200, most: 6000 })
    const inked = (count: number): Programme =>
      asKept({ ...base, inkAdded: Array.from({ length: count }, (_, n) => stroke(n)) } as unknown as Programme)
    const difference = differenceOf(inked(300), inked(299))
    const whole = JSON.stringify(inked(299)).length
    expect(JSON.stringify(difference).length).toBeLessThan(whole / 100)
    // One taken out from among the others costs no more.
    const without = asKept({ ...inked(300), inkAdded: inked(300).inkAdded.filter((_, n) => n !== 100) })
    expect(JSON.stringify(differenceOf(inked(300), without)).length).toBeLessThan(whole / 100)
  })
})
