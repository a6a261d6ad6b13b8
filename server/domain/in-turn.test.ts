import { describe, expect, it } from 'vitest'
import { inTurn } from './in-turn'

describe('work that needs much memory', () => {
  it('is done two at a time, each in its turn, and refused when too much waits', async () => {
    let [running, most] = [0, 0]
    const finish: (() => void)[] = []
    const work = async (): Promise<void> => {
      running += 1
      most = Math.max(most, running)
      await new Promise<void>((resolve) => {
        finish.push(resolve)
      })
      running -= 1
    }
    const asked = Array.from({ length: 26 }, () => inTurn(work))
    await expect.poll(() => finish.length).toBe(2)
    await expect(inTurn(work)).rejects.toMatchObject({ code: 'unavailable' })
    for (let n = 0; n < 26; n += 1) {
      await expect.poll(() => finish.length).toBeGreaterThan(n)
      finish[n]?.()
    }
    await Promise.all(asked)
    expect(most).toBe(2)
    const failing = inTurn(() => Promise.reject(new Error('no picture')))
    await expect(failing).rejects.toThrow('no picture')
    await expect(inTurn(() => Promise.resolve('again'))).resolves.toBe('again')
  })
})
