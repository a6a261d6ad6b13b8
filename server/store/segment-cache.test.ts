import { mkdir, mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'

let data: string
const HOUR = 3_600_000
const now = Date.now()
beforeAll(async () => {
  data = await mkdtemp(join(tmpdir(), 'aisle-cache-'))
  process.env['AISLE_DATA'] = data
  process.env['DATABASE_URL'] ??= 'postgres://nobody@127.0.0.1:1/none'
})
afterAll(async () => {
  await rm(data, { recursive: true })
})

it('loses what was used longest ago, as much as is over its limit, and nothing that may be in use', async () => {
  const { foundInCache, segmentFolder, trimSegmentCache } = await import('.')
  const folder = segmentFolder()
  await mkdir(folder, { recursive: true })
  for (const [name, hours] of [
    ['a', 9],
    ['b', 7],
    ['c', 5],
    ['d', 3],
    ['e', 0.2],
  ] as const) {
    await writeFile(join(folder, name), Buffer.alloc(1000))
    const used = new Date(now - hours * HOUR)
    await utimes(join(folder, name), used, used)
  }
  // Used again, it is the last to go.
  expect(await foundInCache(join(folder, 'a'))).toBe(true)
  expect(await foundInCache(join(folder, 'z'))).toBe(false)
  expect(await trimSegmentCache(5000, now)).toBe(0)
  expect(await trimSegmentCache(3500, now)).toBe(2000)
  expect((await readdir(folder)).sort()).toEqual(['a', 'd', 'e'])
  expect(await trimSegmentCache(0, now)).toBe(1000)
  expect((await readdir(folder)).sort()).toEqual(['a', 'e'])
})
