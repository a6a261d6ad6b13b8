import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fieldsOfCall } from '@contracts'
import type { CallView, RegisterView } from '@contracts'
import { probe } from '@render/probe'
import { accessFaults } from '../harness/access'
import { endTake, isRecording, spokenMore, startBrowser, takeDevices } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { Client } from '../harness/client'
import { KNOTS, makePdf } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { unzipped } from '../harness/unzipped'

const DEVICES = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream']
const ACCOUNT = { email: 'maren@harbour.example', password: 'heron lantern gravel' }

let product: Product
let teacher: Client
let desk: TestBrowser
let one: TestBrowser
let two: TestBrowser
beforeAll(async () => {
  product = await startProduct({ AISLE_ACCOUNTS: 'on', AISLE_SIGN_UP: 'open' })
  teacher = new Client(product.url)
  await teacher.get('POST', '/people', { name: 'Maren Holt', ...ACCOUNT })
  await teacher.get('POST', '/session', ACCOUNT)
  ;[desk, one, two] = await Promise.all([startBrowser(), startBrowser(DEVICES), startBrowser(DEVICES)])
})
afterAll(async () => {
  await Promise.all([desk.close(), one.close(), two.close()])
  await product.stop()
})

const register = async (call: string) => await teacher.get<RegisterView>('GET', `/calls/${call}/register`)

/** Somebody begins by the link of a call, with a deck of three knots, and comes to the Lectern. */
async function begun(browser: TestBrowser, link: string, name: string): Promise<Page> {
  const page = await browser.page()
  await page.goto(link)
  await page.getByRole('textbox', { name: 'Your name' }).fill(name)
  expect(await accessFaults(page)).toEqual([])
  await page.getByRole('button', { name: 'Begin your talk' }).click()
  await page.getByRole('textbox', { name: 'The link to your talk' }).waitFor()
  await page.getByRole('link', { name: 'To your talk' }).click()
  const file = join(await mkdtemp(join(tmpdir(), 'aisle-deck-')), 'knots.pdf')
  await writeFile(file, await makePdf(KNOTS))
  await page
    .getByRole('button', { name: /drop|deck/i })
    .first()
    .waitFor()
  await page.setInputFiles('input[type=file] >> nth=0', file)
  await page.getByRole('article', { name: /^Slide 3/ }).waitFor()
  await page.getByRole('link', { name: 'Lectern', exact: true }).click()
  await takeDevices(page)
  return page
}

async function record(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Record the talk/ }).click()
  await isRecording(page)
}

const toHandIn = async (page: Page): Promise<void> => {
  await page.getByRole('link', { name: 'Hand over', exact: true }).click()
  await page.getByRole('heading', { name: 'Knots of the harbour' }).waitFor()
}

describe('a call', () => {
  it('is made, answered from two other browsers, looked through, sent back, and taken along as one file', async () => {
    const page = await desk.page()
    await page.emulateMedia({ reducedMotion: 'reduce' })
    await page.goto(`${product.url}/sign-in?to=/calls`)
    await page.getByRole('textbox', { name: 'E-mail' }).fill(ACCOUNT.email)
    await page.getByLabel(/^Password/).fill(ACCOUNT.password)
    await page.getByRole('button', { name: 'Sign in', exact: true }).click()
    await page.getByRole('link', { name: 'Ask for talks' }).click()
    await page.getByRole('textbox', { name: 'Title' }).fill('Knots of the harbour')
    await page.getByRole('textbox', { name: 'What is asked' }).fill('Show one knot, and say what it holds.')
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Make this call' }).click()
    const link = await page.getByRole('textbox', { name: 'Link of the call' }).inputValue()
    const [{ id: call } = { id: '' }, ...others] = await teacher.get<CallView[]>('GET', '/calls')
    expect(others).toEqual([])
    // One keeps to it.
    const first = await begun(one, link, 'Ilse Rook')
    await record(first)
    await spokenMore(first, 1)
    await endTake(first)
    await toHandIn(first)
    await first.getByRole('button', { name: 'Hand in', exact: true }).click()
    await first.getByRole('article').getByText('Handed in', { exact: true }).waitFor({ timeout: 240_000 })
    expect(await accessFaults(first)).toEqual([])

    // Three seconds are few enough to be over soon, for whoever begins from now on.
    const { call: view } = await register(call)
    await teacher.get('PUT', `/calls/${call}`, { ...fieldsOfCall(view), rules: { ...view.rules, length: { most: 3 } } })

    // The other is told at the Lectern that it is over, and again where it would be handed in.
    const second = await begun(two, link, 'Ode Marr')
    await record(second)
    await spokenMore(second, 3)
    await until('the Lectern to say that it is over', async () => /over/.test((await second.locator('.lectern').innerText()).toLowerCase()))
    await spokenMore(second, 2)
    await endTake(second)
    await toHandIn(second)
    await second.getByText('too long').waitFor()
    expect(await second.getByRole('button', { name: 'Hand in', exact: true }).isEnabled()).toBe(false)

    // The register shows who has handed in, and plays it.
    await page.goto(`${product.url}/calls/${call}`)
    const row = page.getByRole('row').filter({ hasText: 'Ilse Rook' })
    await row.getByText('kept').waitFor()
    await page.getByRole('row').filter({ hasText: 'Ode Marr' }).getByText('has begun').waitFor()
    await row.getByRole('button', { name: 'Knots of the harbour' }).click()
    const panel = page.getByRole('complementary', { name: 'What Ilse Rook handed in' })
    await until('the film to be known', () => panel.locator('video').evaluate((video) => Number(Reflect.get(video, 'duration')) > 1))
    await row.getByText('seen').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await panel.getByRole('textbox', { name: 'A remark' }).fill('The rope is not seen. Once more, please.')
    await panel.getByRole('button', { name: 'Send back' }).click()
    await row.getByText('sent back').waitFor()
    // It stands in the talk at once, at every station.
    await first.getByText('The rope is not seen. Once more, please.').waitFor()
    await first.getByRole('link', { name: 'Review', exact: true }).click()
    await first.getByRole('status').filter({ hasText: 'The rope is not seen' }).getByRole('link', { name: 'To handing in' }).click()
    await first.getByRole('button', { name: 'Hand in again' }).click()
    await first.getByText('Handed in before').waitFor()
    await page.reload()
    await row.getByText('handed in 2 times').waitFor()

    // Everything goes along as one file.
    await page.getByRole('button', { name: 'Take all along' }).click()
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save the zip' }).click()])
    const files = await unzipped(await download.path())
    expect([...files.keys()].sort()).toEqual(['01-Ilse Rook.mp4', 'register.csv'])
    expect(files.get('register.csv')?.toString()).toContain('Ode Marr')
    const film = join(await mkdtemp(join(tmpdir(), 'aisle-entry-')), 'film.mp4')
    await writeFile(film, files.get('01-Ilse Rook.mp4') ?? '')
    const { streams, format } = await probe(film)
    expect(streams.map(({ codec_name: name }) => name)).toEqual(expect.arrayContaining(['h264', 'aac']))
    expect(Number(format.duration)).toBeGreaterThan(1)
    expect(Number(format.duration)).toBeLessThanOrEqual(300)
    expect([...desk.faults, ...one.faults, ...two.faults]).toEqual([])
  })

  it('finds a talk again on another machine by the link that is its own, and lets nobody else in', async () => {
    const [{ link } = { link: '' }] = await teacher.get<CallView[]>('GET', '/calls')
    const page = await two.page()
    await page.goto(link)
    await page.getByRole('link', { name: 'Go on with your talk' }).click()
    await page.getByRole('link', { name: 'Hand over', exact: true }).click()
    const own = await page.getByRole('textbox', { name: 'The link to this talk' }).inputValue()
    const other = await startBrowser()
    try {
      const elsewhere = await other.page()
      await elsewhere.goto(page.url())
      await elsewhere.getByRole('button', { name: 'Sign in' }).waitFor()
      await elsewhere.goto(own)
      await elsewhere.getByText('You have begun as Ode Marr.').waitFor()
      expect(elsewhere.url()).not.toContain('own=')
      await elsewhere.getByRole('link', { name: 'Go on with your talk' }).click()
      await elsewhere.getByRole('article', { name: /^Slide 3/ }).waitFor()
      // All four stations are there, without what is not needed.
      for (const station of ['Review', 'Hand over', 'Lectern']) await elsewhere.getByRole('link', { name: station, exact: true }).click()
      expect(other.faults).toEqual([])
    } finally {
      await other.close()
    }
  })
})
