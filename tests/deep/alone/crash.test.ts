import { describe, expect, it } from 'vitest'
import type { DeliveryView, FilmView } from '@contracts'
import { programmeLength } from '@core/programme'
import { probe } from '@render/probe'
import { beginTake, drawWave, endTake, makeFile, newTalk, onClock, spokenMore } from '../../harness/browser'
import { decodesClean } from '../../harness/film-file'
import { until } from '../../harness/product'
import { inBrowser } from '../../harness/stand'

const stand = inBrowser()

describe('what survives', () => {
  it('a take whose page was killed is offered, kept and made into a file', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots')
    await beginTake(page)
    await spokenMore(page, 1)
    await drawWave(page)
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 6)
    const said = await onClock(page)
    await stand.browser.killPage(page)

    const again = await stand.browser.page()
    await again.goto(`${stand.product.url}/talks/${talk}/lectern`)
    await again.getByText('was broken off').waitFor()
    await again.getByRole('button', { name: 'Keep it' }).click()
    const film = await until('the recovered film', async () => {
      const view = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
      return view.programme.pieces.length > 0 && view
    })
    const length = programmeLength(film.programme)
    // What the encoder had not caught up with goes with the page; what was said meanwhile does not.
    expect(length).toBeGreaterThan((said - 1.2) * 1000)
    expect(length).toBeLessThan((said + 20) * 1000)
    expect(film.stretches[0]?.cues.map((cue) => cue.kind).filter((kind) => kind !== 'inset')).toEqual(['ink', 'show'])
    const file = await makeFile(again, 480)
    expect(Math.abs(Number((await probe(file)).format.duration) * 1000 - length)).toBeLessThanOrEqual(1000 / 30)
    expect(await decodesClean(file)).toBe(true)
  })

  it('a recording goes on while the server is away, and arrives whole', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Hitches')
    await beginTake(page)
    await spokenMore(page, 1)
    await stand.product.kill('server')
    await page.getByText('The network is away').waitFor()
    await page.keyboard.press('ArrowRight')
    await spokenMore(page, 3)
    const said = await onClock(page)
    await stand.product.start('server')
    await endTake(page)
    const film = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(programmeLength(film.programme)).toBeGreaterThan((said - 0.5) * 1000)
    expect(film.programme.pieces.length).toBe(2)
  })

  it('a delivery goes on after server and worker were killed in the middle of it', async () => {
    const { id: talk } = (await stand.client.get<{ id: string; name: string }[]>('GET', '/talks')).find((one) => one.name === 'Knots') ?? {
      id: '',
    }
    const recipe = { lines: 2160, quality: 'fine', name: 'large', limit: { kind: 'none' } }
    const { id } = await stand.client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, recipe)
    const delivery = async (): Promise<DeliveryView | undefined> =>
      (await stand.client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    await until('the first frames', async () => ((await delivery())?.framesDone ?? 0) > 0)
    await Promise.all([stand.product.kill('server'), stand.product.kill('worker')])
    await Promise.all([stand.product.start('server'), stand.product.start('worker')])
    expect((await delivery())?.state).not.toBe('done')
    const done = await until(
      'the file',
      async () => {
        const now = await delivery()
        return now !== undefined && ['done', 'failed'].includes(now.state) && now
      },
      400_000,
    )
    expect(done).toMatchObject({ state: 'done', facts: { width: 3840, height: 2160, frames: done.framesTotal } })
  })
})
