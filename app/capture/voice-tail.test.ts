import 'fake-indexeddb/auto'
import { describe, expect, it } from 'vitest'
import { localTakes } from './local-takes'
import { joinTail, VoiceTail } from './voice-tail'

const part = (at: number, ...samples: number[]) => ({ at, rate: 1000, samples: Int16Array.from(samples).buffer })

describe('what was said last', () => {
  it('is put together in its own time, with silence for what is missing', () => {
    const tail = joinTail([part(500, 1, 2, 3), part(503, 4, 5), part(508, 6)])
    expect([tail?.at, tail?.rate, [...(tail?.samples ?? [])]]).toEqual([500, 1000, [1, 2, 3, 4, 5, 0, 0, 0, 6]])
  })

  it('does not grow by pieces whose times jitter by less than a sample', () => {
    expect([...(joinTail([part(10.2, 1, 2), part(12.1, 3, 4), part(14.3, 5)])?.samples ?? [])]).toEqual([1, 2, 3, 4, 5])
  })

  it('is nothing when nothing was kept', () => {
    expect(joinTail([])).toBeNull()
  })

  it('is kept from its first piece on, and let go once its recording has come far enough', async () => {
    const troubles: unknown[] = []
    const tail = new VoiceTail('first', (error) => {
      troubles.push(error)
    })
    const second = (from: number): void => {
      for (let at = from; at < from + 1000; at += 10)
        tail.hear(at, { at, rate: 1000, samples: new Float32Array(10).fill(0.5), lost: false })
    }
    const kept = async (): Promise<readonly number[]> =>
      (await (await localTakes()).getAllFromIndex('tails', 'stretch', 'first')).map(({ at }) => at)
    second(0)
    await expect.poll(kept).toEqual([0, 250, 500, 750])
    second(1000)
    second(2000)
    second(3000)
    await expect.poll(async () => (await kept()).at(-1)).toBe(3750)
    expect((await kept())[0]).toBe(0)
    // Two seconds more than the recording seems to need are kept.
    tail.reached(3000)
    second(4000)
    await expect.poll(async () => [(await kept())[0], (await kept()).at(-1)]).toEqual([1000, 4750])
    expect(troubles).toEqual([])
  })
})
