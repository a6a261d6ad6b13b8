import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { Client } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { startStandIns } from '../harness/stand-ins'
import type { StandInsRunning } from '../harness/stand-ins'
import { delivered, heardTalk } from '../harness/talks'

let product: Product
let browser: TestBrowser
let client: Client
let standIns: StandInsRunning
let talk: string
beforeAll(async () => {
  standIns = await startStandIns()
  product = await startProduct({ AISLE_STAND_INS: standIns.address })
  browser = await startBrowser()
  client = new Client(product.url)
  talk = await heardTalk(client, 'Swifts over the rope works')
})
afterAll(async () => {
  await browser.close()
  await product.stop()
  await standIns.close()
})

describe('handing in', () => {
  it('goes by the rules of a desk: each is ticked or put right by the button beside it, and the receipt stays', async () => {
    const page = await browser.page()
    await page.goto(`${product.url}/talks/${talk}/hand-over?leaf=hand-in`)
    await page.getByRole('button', { name: 'Take the practice desk' }).click()
    await page.getByRole('heading', { name: "Swift Counters' Autumn Meeting" }).waitFor()
    expect(await client.get<TalkView>('GET', `/talks/${talk}`)).toMatchObject({ limit: 600_000 })
    const rules = page.getByRole('list', { name: 'Rules' })
    const rule = (name: string) => rules.getByRole('listitem').filter({ has: page.getByText(name, { exact: true }) })
    await rule('Fields').getByText('Still empty: Paper, Surname.').waitFor()
    expect(await accessFaults(page)).toEqual([])

    await rule('Fields').getByRole('button', { name: 'Fill in' }).click()
    await page.keyboard.type('127')
    await page.keyboard.press('Tab')
    await page.keyboard.type('Brandt')
    await page.keyboard.press('Tab')
    await rule('Name').getByText('127-Brandt.mp4').waitFor()

    // A file that was made before by another recipe is wrong in what it is, and made again by one button.
    const other = { lines: 480, quality: 'good', name: 'too small', limit: { kind: 'none' }, loudness: -23, rate: 60 }
    await client.get('POST', `/talks/${talk}/deliveries`, other)
    await rule('Lines').getByText('It has 480 lines.').waitFor()
    await rule('Loudness').getByText('It has -23').waitFor()
    await rule('Frames').getByText('It has 60.').waitFor()
    expect(await page.getByRole('button', { name: 'Hand in', exact: true }).isEnabled()).toBe(false)
    await rule('Lines')
      .getByRole('button', { name: /make it again/i })
      .click()
    const handIn = page.getByRole('button', { name: 'Hand in', exact: true })
    await until('the right file', () => handIn.isEnabled(), 240_000)
    await handIn.click()
    const [film] = await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
    const line = page.getByRole('article', { name: /^127-Brandt\.mp4 to Swift Counters/ })
    await line.getByText('Taken, receipt').waitFor()
    const [receipt] = await Promise.all([page.waitForEvent('popup'), line.getByRole('link').click()])
    await receipt.getByText('127-Brandt.mp4').waitFor()
    expect(film?.facts).toMatchObject({ height: 1080, frameRate: 30 })
    expect(browser.faults).toEqual([])
  })

  it('sends a file to the practice site from its line in the ledger', async () => {
    await delivered(client, talk, { name: 'swifts' })
    const page = await browser.page()
    // A dialog that is still coming has less contrast than one that is there.
    await page.emulateMedia({ reducedMotion: 'reduce' })
    await page.goto(`${product.url}/talks/${talk}/hand-over`)
    await page.getByRole('article', { name: 'swifts.mp4', exact: true }).getByRole('button', { name: 'Send', exact: true }).click()
    const dialog = page.getByRole('dialog', { name: 'Send this file' })
    await dialog.getByText('A site').click()
    await dialog.getByRole('button', { name: 'Take the practice site' }).click()
    expect(await accessFaults(page)).toEqual([])
    await dialog.getByRole('button', { name: 'Send it' }).click()
    const line = page.getByRole('article', { name: /^swifts\.mp4 to 127\.0\.0\.1/ })
    await line.getByText('Taken, receipt').waitFor()
    const [film] = await Promise.all([page.waitForEvent('popup'), line.getByRole('link').click()])
    await film.getByRole('heading', { name: 'Swifts over the rope works' }).waitFor()
    expect(browser.faults).toEqual([])
  })
})
