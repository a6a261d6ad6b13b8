import { expect, it } from 'vitest'
import { oneAtATime } from './one-at-a-time'

/** A load whose answers come when they are let. */
function slowLoad() {
  const lets: ((error?: Error) => void)[] = []
  const load = oneAtATime(
    () =>
      new Promise((resolve, reject) => {
        lets.push((error) => {
          if (error === undefined) resolve()
          else reject(error)
        })
      }),
  )
  const turn = (): Promise<void> =>
    new Promise((resolve) => {
      setTimeout(resolve)
    })
  return { lets, load, turn }
}

it('asks once more after what is under way, however often it is asked meanwhile', async () => {
  const { lets, load, turn } = slowLoad()
  const first = load()
  const [second, third] = [load(), load()]
  await turn()
  expect(lets.length).toBe(1)
  lets[0]?.()
  await first
  await turn()
  expect(lets.length).toBe(2)
  lets[1]?.()
  await Promise.all([second, third])
  const fourth = load()
  expect(lets.length).toBe(3)
  lets[2]?.()
  await fourth
})

it('goes on after a load that failed', async () => {
  const { lets, load, turn } = slowLoad()
  const first = load()
  const second = load()
  lets[0]?.(new Error('away'))
  await expect(first).rejects.toThrow('away')
  await turn()
  lets[1]?.()
  await expect(second).resolves.toBeUndefined()
})
