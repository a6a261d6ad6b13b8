import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, FilmView } from '@contracts'
import { programmeLength } from '@core/programme'
import { probe } from '@render/probe'
import { beginTake, drawWave, endTake, makeFile, newTalk, spoken, startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { Client } from '../harness/client'
import { decodesClean } from '../harness/film-file'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let browser: TestBrowser
let client: Client

beforeAll(async () => {
  product = await startProduct()
  browser = await startBrowser()
  client = new Client(product.url)
})
afterAll(async () => {
  await browser.close()
  await product.stop()
})

describe('what survives', () => {
  it('a take whose page was killed is offered, kept and made into a file', async () => {
    const page = await browser.page()
    const talk = await newTalk(page, product.url, 'Knots')
    await beginTake(page)
    await spoken(page, 2)
    await drawWave(page)
    await page.keyboard.press('ArrowRight')
    await spoken(page, 6)
    await browser.killPage(page)

    const again = await browser.page()
    await again.goto(`${product.url}/talks/${talk}/lectern`)
    await again.getByText('was broken off').waitFor()
    await again.getByRole('button', { name: 'Keep it' }).click()
    const film = await until('the recovered film', async () => {
      const view = await client.get<FilmView>('GET', `/talks/${talk}/film`)
      return view.programme.pieces.length > 0 && view
    })
    const length = programmeLength(film.programme)
    // Six seconds were on the clock, which rounds them from five and a half; at most the last one may be gone.
    expect(length).toBeGreaterThan(4500)
    expect(length).toBeLessThan(8000)
    expect(film.stretches[0]?.cues.map((cue) => cue.kind)).toEqual(['ink', 'show'])
    const file = await makeFile(again, 480)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - length)).toBeLessThanOrEqual(1000 / 30)
    expect(await decodesClean(file)).toBe(true)
  })

  it('a recording goes on while the server is away, and arrives whole', async () => {
    const page = await browser.page()
    const talk = await newTalk(page, product.url, 'Hitches')
    await beginTake(page)
    await spoken(page, 2)
    await product.kill('server')
    await page.getByText('The network is away').waitFor()
    await page.keyboard.press('ArrowRight')
    await spoken(page, 6)
    await product.start('server')
    await endTake(page)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(programmeLength(film.programme)).toBeGreaterThan(5900)
    expect(film.programme.pieces.length).toBe(2)
  })

  it('a delivery goes on after server and worker were killed in the middle of it', async () => {
    const { id: talk } = (await client.get<{ id: string, name: string }[]>('GET', '/talks')).find((one) => one.name === 'Knots') ?? { id: '' }
    const recipe = { lines: 2160, quality: 'fine', name: 'large', limit: { kind: 'none' } }
    const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, recipe)
    const delivery = async (): Promise<DeliveryView | undefined> => (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    await until('the first frames', async () => ((await delivery())?.framesDone ?? 0) > 0)
    await Promise.all([product.kill('server'), product.kill('worker')])
    await Promise.all([product.start('server'), product.start('worker')])
    expect((await delivery())?.state).not.toBe('done')
    const done = await until('the file', async () => {
      const now = await delivery()
      return now !== undefined && ['done', 'failed'].includes(now.state) && now
    }, 400_000)
    expect(done).toMatchObject({ state: 'done', facts: { width: 3840, height: 2160, frames: done.framesTotal } })
  })
})
