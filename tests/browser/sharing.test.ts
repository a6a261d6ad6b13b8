import { createServer } from 'node:http'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { listenOnLoopback } from '../../stand-ins/listen'
import { accessFaults } from '../harness/access'
import { shareTalk } from '../harness/screening'
import { playButton, standsAt, threeSlides } from '../harness/screening-page'
import { inBrowser, otherBrowser } from '../harness/stand'

const stand = inBrowser()
/** Another person's browser. */
const viewer = otherBrowser()

/** A class page on a site of its own: another name of this machine is another site to a browser. */
let classPage = ''
let site: Server
beforeAll(async () => {
  site = createServer((_request, answer) => {
    answer.setHeader('content-type', 'text/html')
    answer.end(classPage)
  })
  await listenOnLoopback(site, 0)
})
afterAll(() => {
  site.close()
})

describe('a talk for a class', () => {
  it('is shared by a pasted list, asked for by address, opened from the letter in the outbox, and watched', async () => {
    const { talk, path } = await threeSlides(stand.client, 'Knots for the class')
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/groups`)
    await page.getByRole('textbox', { name: 'Name of a new group' }).fill('Tides, second year')
    await page.getByRole('button', { name: 'Make a group' }).click()
    const group = page.getByRole('region', { name: 'Tides, second year' })
    await group
      .getByRole('textbox', { name: 'Add people' })
      .fill('Name;Mail\nMaren Holt;maren@harbour.example\nTomas Reed;tomas@harbour.example\nsomebody without one')
    await group.getByText('Line 4 has no address that can be read: somebody without one').waitFor()
    await group.getByRole('button', { name: 'Add 2 people' }).click()
    await group.getByText('2 people were added.').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.goto(`${stand.product.url}/talks/${talk}/hand-over?leaf=show`)
    const choose = async (name: string, option: string | RegExp): Promise<void> => {
      await page
        .locator('.el-select')
        .filter({ has: page.getByRole('combobox', { name }) })
        .click()
      await page.getByRole('option', { name: option }).click()
    }
    await choose('Who may see it', 'a group')
    await choose('Which group', /^Tides, second year/)
    await page.locator('.link .words a').waitFor()
    expect(await accessFaults(page)).toEqual([])
    // A pupil comes by the link.
    const watching = await viewer.browser.page()
    await watching.goto(`${stand.product.url}${path}`)
    await watching.getByRole('textbox', { name: 'Your e-mail address' }).fill('tomas@harbour.example')
    expect(await accessFaults(watching)).toEqual([])
    await watching.getByRole('button', { name: 'Send me a link' }).click()
    await watching.getByText('a letter with a link is on its way').waitFor()
    await page.goto(`${stand.product.url}/outbox`)
    const letter = page.getByRole('article').filter({ hasText: 'tomas@harbour.example' })
    const link = /http\S+#ticket=\S+/.exec(await letter.locator('pre').innerText())?.[0] ?? ''
    expect(await accessFaults(page)).toEqual([])
    await watching.goto(link)
    await watching.getByRole('button', { name: 'Watch now' }).click()
    await expect.poll(() => playButton(watching).isEnabled()).toBe(true)
    await playButton(watching).click()
    await expect.poll(() => standsAt(watching)).toBeGreaterThanOrEqual(1)
    await expect.poll(() => standsAt(watching)).toBe(12)
    // This browser is known from now on; the letter opens nothing any more.
    await watching.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(watching).isEnabled()).toBe(true)
    await page.goto(`${stand.product.url}/talks/${talk}/hand-over?leaf=show`)
    await page.getByRole('region', { name: 'How it was watched' }).getByText('100% to the end').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await watching.context().clearCookies()
    await watching.goto(link)
    await watching.reload()
    await watching.getByRole('button', { name: 'Watch now' }).click()
    await watching.getByText(/was used before/).waitFor()
    await watching.getByRole('button', { name: 'Have another link sent' }).click()
    await watching.getByRole('textbox', { name: 'Your e-mail address' }).waitFor()
    expect([...stand.browser.faults, ...viewer.browser.faults]).toEqual([])
  })
})

describe('within another page', () => {
  it('a talk plays on a site that was named, and on no other', async () => {
    const { talk, path } = await threeSlides(stand.client, 'Knots within')
    const address = `http://localhost:${String((site.address() as AddressInfo).port)}`
    classPage = `<h1>Class page</h1><iframe src="${stand.product.url}${path}?embed" width="700" height="520"></iframe>`
    const page = await viewer.browser.page()
    await page.goto(address)
    const within = page.frameLocator('iframe')
    await expect.poll(() => page.frames()[1]?.url()).toMatch(/^chrome-error:/)
    await shareTalk(stand.client, talk, { embedOn: [address] })
    await page.reload()
    const play = within.getByRole('button', { name: 'Play', exact: true })
    await play.waitFor()
    await expect.poll(() => play.isEnabled()).toBe(true)
    await play.click()
    await expect.poll(() => within.locator('.controls .clock').textContent()).toMatch(/^0:0[1-9]/)
    // The film and little more.
    expect(await within.getByRole('heading', { name: 'Programme' }).count()).toBe(0)
    expect(viewer.browser.faults).toEqual([])
  })
})

describe('a series', () => {
  it('is put together, watched from talk to talk, and remembers how far somebody is', async () => {
    const [one, two] = [await threeSlides(stand.client, 'Evening one'), await threeSlides(stand.client, 'Evening two')]
    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/series`)
    await page.getByRole('textbox', { name: 'Name of a new series' }).fill('Knots in two evenings')
    await page.getByRole('button', { name: 'Make a series' }).click()
    const sheet = page.getByRole('region', { name: 'Knots in two evenings' })
    for (const name of ['Evening two', 'Evening one']) {
      await sheet
        .locator('.el-select')
        .filter({ has: page.getByRole('combobox', { name: 'Put a talk in' }) })
        .click()
      await page.getByRole('option', { name }).click()
      await sheet.getByRole('link', { name }).waitFor()
    }
    await sheet.getByRole('button', { name: 'Move Evening one up' }).click()
    await expect.poll(() => sheet.getByRole('listitem').first().innerText()).toContain('Evening one')
    expect(await accessFaults(page)).toEqual([])
    const path = (await sheet.getByRole('link', { name: 'Look at it' }).getAttribute('href')) ?? ''
    const watching = await viewer.browser.page()
    await watching.goto(`${stand.product.url}${path}`)
    await expect
      .poll(() => watching.getByRole('listitem').allInnerTexts())
      .toEqual([expect.stringContaining('Evening one') as string, expect.stringContaining('Evening two') as string])
    expect(await accessFaults(watching)).toEqual([])
    await watching.getByRole('link', { name: /Evening one/ }).click()
    await expect.poll(() => playButton(watching).isEnabled()).toBe(true)
    await watching
      .getByRole('link', { name: /^Slide 3, / })
      .first()
      .click()
    await playButton(watching).click()
    await expect.poll(() => standsAt(watching)).toBe(12)
    await watching.waitForTimeout(2500)
    await watching.getByRole('link', { name: /^Evening two/ }).click()
    await watching.getByRole('heading', { name: 'Evening two' }).waitFor()
    expect(new URL(watching.url()).pathname).toBe(two.path)
    await watching.getByRole('link', { name: 'Knots in two evenings, 2 of 2' }).click()
    await watching.getByText('watched', { exact: true }).waitFor()
    expect(await watching.getByRole('listitem').filter({ hasText: 'watched' }).innerText()).toContain('Evening one')
    expect(one.path).not.toBe(two.path)
    expect([...stand.browser.faults, ...viewer.browser.faults]).toEqual([])
  })
})

describe('the shelf', () => {
  it('shows what everybody may see, finds it, and leads there', async () => {
    const { talk } = await threeSlides(stand.client, 'Knots for everybody')
    await shareTalk(stand.client, talk, { level: 'shelf', presenter: 'Ilse Brandt' })
    const page = await viewer.browser.page()
    for (const width of [360, 1280]) {
      await page.setViewportSize({ width, height: 800 })
      await page.goto(`${stand.product.url}/shelf`)
      await page.getByRole('link', { name: /Knots for everybody/ }).waitFor()
      expect([width, await accessFaults(page)]).toEqual([width, []])
    }
    await page.getByRole('searchbox').fill('nothing of that name')
    await page.getByText('Nothing here is called that.').waitFor()
    await page.getByRole('searchbox').fill('brandt')
    await page.getByRole('link', { name: /Knots for everybody/ }).click()
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    expect(viewer.browser.faults).toEqual([])
  })
})
