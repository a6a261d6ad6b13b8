import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import type { Page } from 'playwright-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { accessFaults } from '../harness/access'
import { newTalk, startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'

const PASSWORD = 'heron lantern gravel'
let product: Product
let desk: TestBrowser
let other: TestBrowser
beforeAll(async () => {
  product = await startProduct({ AISLE_ACCOUNTS: 'on' })
  ;[desk, other] = await Promise.all([startBrowser(), startBrowser()])
})
afterAll(async () => {
  await Promise.all([desk.close(), other.close()])
  await product.stop()
})

/** Comes by an invitation and makes the account. */
async function joined(browser: TestBrowser, link: string, name: string): Promise<Page> {
  const page = await browser.page()
  await page.goto(link)
  await page.getByRole('heading', { name: 'Come in' }).waitFor()
  expect(await accessFaults(page)).toEqual([])
  await page.getByRole('textbox', { name: 'Your name' }).fill(name)
  await page.getByRole('textbox', { name: 'A password' }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Make the account' }).click()
  await page.getByRole('heading', { name: 'Talks' }).waitFor()
  return page
}

/** Opens what can be done with somebody, and chooses from it. */
async function choose(page: Page, name: string, deed: string): Promise<void> {
  await page.getByRole('button', { name: `What to do with ${name}` }).click()
  await page.getByRole('menuitem', { name: deed }).click()
}

describe('a server of many people', () => {
  it('is run from its pages: invited, given room of their own, refused in words, handed over, blocked', async () => {
    const env = { ...process.env, AISLE_DATA: product.data, DATABASE_URL: product.databaseUrl, AISLE_PUBLIC_ADDRESS: product.url }
    const { stdout } = await promisify(execFile)(
      process.execPath,
      ['--import', 'tsx', 'scripts/people.ts', 'invite', 'maren@harbour.example', '--operator'],
      { env },
    )
    const page = await joined(desk, stdout.trim().split('\n').at(-1) ?? '', 'Maren Holt')
    await page.getByRole('link', { name: 'People' }).click()
    await page.getByRole('textbox', { name: 'E-mail', exact: true }).fill('wenna@harbour.example')
    await page.getByRole('button', { name: 'Invite' }).click()
    await page.getByRole('button', { name: 'Take the invitation of wenna@harbour.example back' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    const link = await page.getByRole('textbox', { name: 'Link of the invitation' }).inputValue()
    const theirs = await joined(other, link, 'Wenna Sole')
    await newTalk(theirs, product.url, 'Splices')
    // Nothing for operators stands on the page of who is none.
    expect(await theirs.getByRole('link', { name: 'Server', exact: true }).count()).toBe(0)

    await page.reload()
    await choose(page, 'Wenna Sole', 'What they may have')
    await page.getByRole('spinbutton', { name: 'Room, in GB' }).fill('0')
    await page.getByRole('button', { name: 'Set it' }).click()
    await page.getByText('room of their own').waitFor()
    await theirs.getByRole('link', { name: 'All talks' }).click()
    await theirs.getByRole('link', { name: 'Wenna Sole' }).click()
    await theirs.getByRole('heading', { name: 'Where most of it is' }).waitFor()
    await theirs.getByText('of 0 bytes').waitFor()
    expect(await accessFaults(theirs)).toEqual([])

    await choose(page, 'Wenna Sole', 'Hand over what they made')
    await page.getByRole('textbox', { name: 'E-mail of who goes on with them' }).fill('maren@harbour.example')
    await page.getByRole('button', { name: 'Hand over', exact: true }).click()
    await page.getByText('0 talks, 0 bytes').waitFor()
    await page.getByRole('link', { name: 'All talks' }).click()
    await page.getByRole('heading', { name: 'Splices' }).waitFor()

    await page.getByRole('link', { name: 'People' }).click()
    await choose(page, 'Wenna Sole', 'Block')
    await page.getByText('blocked', { exact: true }).waitFor()
    await theirs.reload()
    await theirs.getByRole('heading', { name: 'Sign in to Aisle Talk' }).waitFor()
    await page.getByRole('link', { name: 'Server', exact: true }).click()
    await page.getByRole('heading', { name: 'What failed lately' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    // Who was blocked asked once more, and was refused.
    expect([...desk.faults, ...other.faults.filter((fault) => !fault.includes('401'))]).toEqual([])
  })
})
