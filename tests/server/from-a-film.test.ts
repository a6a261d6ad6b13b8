import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { visitsOf } from '@core/programme'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { filmOf, filmed } from '../harness/filmed'
import { movingFile } from '../harness/office-decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let client: Client
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

const newTalk = async (name: string): Promise<string> => (await client.get<{ id: string }>('POST', '/talks', { name, limit: null })).id

/** A silent film of colours one after the other, each for so many seconds. @param size as ffmpeg writes it */
const colours = (parts: readonly (readonly [string, number])[], size: string): Promise<Buffer> => {
  const ends = parts.map((_, n) => parts.slice(0, n + 1).reduce((sum, [, seconds]) => sum + seconds, 0))
  const during = (n: number): string => `enable='between(t,${String(ends[n - 1] ?? 0)},${String(ends[n] ?? 0)})'`
  const boxes = parts.map(([colour], n) => `drawbox=t=fill:color=${colour}:${during(n)}`)
  const marks = parts.map((_, n) => `drawbox=x=${String(20 + n * 40)}:y=40:w=120:h=60:t=fill:color=black:${during(n)}`)
  return movingFile(`color=c=white:s=${size}:r=25:d=${String(ends.at(-1) ?? 0)},${[...boxes, ...marks].join(',')}`)
}

describe('a recorded screen without a deck', () => {
  it('becomes slides that are stills of it, and visits within 100 ms; one that is shown again is the same slide', async () => {
    const talk = await newTalk('A screen')
    const film = await colours(
      [
        ['0xD8E8F0', 3],
        ['0xF0E0C8', 2.4],
        ['0xD8E8F0', 2],
        ['0x203040', 1],
        ['0xC8F0D0', 2.6],
      ],
      '640x360',
    )
    const view = await filmed(client, talk, 'screen.mp4', film)
    expect(view.imports[0]).toMatchObject({ state: 'done', sentence: null })
    const visits = visitsOf((await filmOf(client, talk)).programme)
    for (const [n, at] of [0, 3000, 5400, 7400, 8400].entries()) expect(Math.abs((visits[n]?.start ?? 0) - at)).toBeLessThan(100)
    expect(visits).toHaveLength(5)
    expect(view.slides[0]?.title).toBe('In the film at 0:00')
  })

  it('in portrait, with cuts of a second, is taken as it is', async () => {
    const talk = await newTalk('Upright')
    const film = await colours(
      Array.from({ length: 8 }, (_, n) => [['0xE08080', '0x80E080', '0x8080E0', '0xE0E080'][n % 4] ?? 'white', 1] as const),
      '360x640',
    )
    const view = await filmed(client, talk, 'upright.mp4', film)
    expect(view.imports[0]).toMatchObject({ state: 'done' })
    expect(view.shape.height).toBeGreaterThan(view.shape.width)
    const visits = visitsOf((await filmOf(client, talk)).programme)
    expect(visits).toHaveLength(8)
    for (const [n, { start }] of visits.entries()) expect(Math.abs(start - n * 1000)).toBeLessThan(100)
  })
})

describe('what is no film of slides', () => {
  it('is refused with a sentence, and leaves the talk as it was', async () => {
    const talk = await newTalk('No slides')
    const moving = await filmed(client, talk, 'moving.mp4', await movingFile('mandelbrot=s=320x180:r=25,trim=duration=8'))
    expect(moving.imports[0]?.sentence).toMatch(/No slides can be told in this film/)
    const broken = await filmed(client, talk, 'broken.mp4', Buffer.from('no film at all'))
    expect(broken.imports[0]?.state).toBe('failed')
    expect(broken.imports[0]?.sentence).toMatch(/The talk is as it was\./)
    expect(broken.slides).toEqual([])
    const empty = await client.ask('POST', `/talks/${talk}/film`, fileForm('empty.mp4', new Uint8Array()))
    expect([empty.status, sentenceOf(empty.body)]).toEqual([422, expect.stringContaining('is empty')])
  })
})
