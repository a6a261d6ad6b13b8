import { afterEach, expect, it, vi } from 'vitest'

afterEach(() => {
  vi.unstubAllEnvs()
  // Whoever comes next in this process has settings of its own.
  vi.resetModules()
})

it.each([
  [undefined, [19, 19, 5]],
  ['off', [0, 0, 0]],
] as const)('films, listening and outlines let others go first unless the operator wants otherwise: %s', async (yields, niceness) => {
  vi.resetModules()
  vi.stubEnv('DATABASE_URL', 'postgres://nobody@127.0.0.1:1/none')
  vi.stubEnv('AISLE_YIELD', yields)
  const { nicenessOf } = await import('./niceness')
  expect([nicenessOf('film'), nicenessOf('listening'), nicenessOf('backdrop')]).toEqual(niceness)
})
