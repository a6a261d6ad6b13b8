import { mkdirSync } from 'node:fs'
import { chromium } from 'playwright-core'
import { makeOfficeDeck } from '../tests/harness/office-decks'
import type { MadeSlide, PptxSlide } from '../tests/harness/office-decks'
import { whenTrue } from '../tests/harness/when-true'
import { answeredCall } from './call-for-shots'

/**
 * Takes the README's pictures from a running product with the demo data: npm run shots -- http://127.0.0.1:4310
 * Records a short take of the second demo talk on the way. With the link of an operator's invitation to another server, one with accounts,
 * behind it, the page of people as well.
 */
const url = process.argv[2] ?? 'http://127.0.0.1:4310'
const folder = 'docs/screenshots'
mkdirSync(folder, { recursive: true })

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--no-first-run',
    '--autoplay-policy=no-user-gesture-required',
  ],
})
/** A slide with a further line at its foot. */
const withLamp =
  (put: MadeSlide['put']): MadeSlide['put'] =>
  (slide) => {
    put(slide)
    slide.addText('A lamp for the way home', { x: 0.9, y: 5.6, w: 8, h: 0.8, fontSize: 28 })
  }
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const shoot = async (name: string): Promise<void> => {
  await page.screenshot({ path: `${folder}/${name}.png` })
}
const idle = (): Promise<void> => page.waitForLoadState('networkidle', { timeout: 4000 }).catch(() => undefined)

await page.goto(url)
await page.getByRole('heading', { name: 'The rule of twelfths' }).waitFor()
await idle()
await shoot('talks')
await page.getByRole('link', { name: 'Open The rule of twelfths' }).click()
await page
  .getByRole('article', { name: /^Slide 4:/ })
  .locator('.left')
  .click()
await idle()
await shoot('prepare')
// An office deck as people have them, and what came of it. It goes again, so that the shelf and the list stay as they are.
const home = page.url()
const { id: brought } = (await (
  await fetch(`${url}/api/talks`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Counting at the wall', limit: 600_000 }),
  })
).json()) as { readonly id: string }
const points = ['A chair and a coat', 'The counting sheet', 'Somebody who writes while you look']
const form = new FormData()
const birdSlides: readonly MadeSlide[] = [
  {
    put: (slide) => slide.addText('Counting swifts from the harbour wall', { x: 0.8, y: 2.6, w: 11, h: 1.4, fontSize: 40, bold: true }),
    ...{ notes: 'Good evening. Tonight we count.', section: 'Before we go out', transition: '<p:fade/>' },
  },
  {
    put: (slide) => {
      slide.addText('What you need', { x: 0.8, y: 0.6, w: 11, h: 1, fontSize: 34, bold: true, fontFace: 'Mole Antiqua' })
      slide.addText(
        points.map((text) => ({ text, options: { bullet: true, breakLine: true } })),
        { x: 0.9, y: 1.9, w: 8, h: 4, fontSize: 28 },
      )
    },
    effects: points.map((_, n) => ({ shape: 3, paragraphs: [n, n] as const, does: 'entrance', how: 'fade', begins: 'click' })),
    notes: 'Show the sheet. Ask who has been there before.',
  },
  {
    put: (slide) => slide.addShape('ellipse', { x: 2, y: 3, w: 2, h: 2, fill: { color: '2F8F5B' } }),
    effects: [{ shape: 2, does: 'path', path: 'M 0 0 L 0.4 -0.2 E', begins: 'click' }],
    section: 'At the wall',
  },
  { put: (slide) => slide.addText('For those who help', { x: 1, y: 1, w: 9, h: 1, fontSize: 30 }), hidden: true },
]
const deck = await makeOfficeDeck(birdSlides)
form.append('file', new Blob([new Uint8Array(deck)]), 'counting-swifts.pptx')
await fetch(`${url}/api/talks/${brought}/imports`, { method: 'POST', body: form })
await page.goto(`${url}/talks/${brought}/prepare`)
await page.getByRole('region', { name: 'What came of the file' }).waitFor({ timeout: 120_000 })
await page
  .getByRole('article', { name: /^Slide 2:/ })
  .locator('.left')
  .click()
await idle()
await shoot('office-deck')
// The same deck, a year later.
const [first, second, third, last] = birdSlides
const later = await makeOfficeDeck(
  [
    first,
    { put: (slide: PptxSlide) => slide.addText('Who counted last year', { x: 0.8, y: 2.6, w: 11, h: 1.4, fontSize: 40, bold: true }) },
    second === undefined ? undefined : { ...second, put: withLamp(second.put) },
    last,
    third,
  ].filter((slide) => slide !== undefined),
)
await page.setInputFiles('input[aria-label="The newer deck"]', {
  name: 'counting-swifts-2027.pptx',
  mimeType: 'application/octet-stream',
  buffer: later,
})
const nextYear = page.getByRole('list', { name: 'The new deck' })
await nextYear.getByRole('button', { name: /What you need/ }).click({ timeout: 120_000 })
await idle()
await shoot('replace-deck')
await fetch(`${url}/api/talks/${brought}`, { method: 'DELETE' })
await page.goto(home)
await page.getByRole('link', { name: 'Review', exact: true }).click()
await page.getByRole('button', { name: /^Play from 5/ }).click()
await whenTrue(page, `/1:0[89]/.test(document.querySelector('.time')?.textContent ?? '')`, 60_000)
await shoot('review')
await page.keyboard.press('Space')
await page.keyboard.press('[')
await page.keyboard.press('ArrowRight')
await page.keyboard.press('ArrowRight')
await page.keyboard.press(']')
await page.getByRole('group', { name: 'The chosen part' }).waitFor()
await page.getByRole('tab', { name: 'Words' }).click()
await page.getByText('Captions on the picture').click()
await page.getByRole('textbox', { name: 'Find in what is said' }).fill('water')
await shoot('review-words')
await page.getByText('Captions on the picture').click()
await page.keyboard.press('Escape')
// A name, a card, music and a tidy voice; all of it goes again.
await page.getByRole('tab', { name: 'Dressing' }).click()
await page.getByRole('button', { name: 'Opening card' }).click()
await page.getByRole('group', { name: 'Card' }).waitFor()
await page.getByRole('button', { name: 'Music' }).click()
await page.getByRole('menuitem', { name: 'Slack water' }).click()
await page.getByRole('group', { name: 'Music: Slack water' }).waitFor()
await page.getByText('Tidy voice').click()
await page.getByRole('button', { name: /as recorded/ }).waitFor()
await page.getByRole('button', { name: /^Play from 5/ }).click()
await page.keyboard.press('Space')
await page.getByRole('group', { name: 'Add' }).getByRole('button', { name: 'Name' }).click()
const name = page.getByRole('group', { name: 'Name', exact: true })
await name.getByLabel('Name').fill('Ilse Marrak')
await name.getByLabel('Under it').fill('Harbour school, Tidewick')
await name.getByLabel('Under it').press('Enter')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: /^Ilse Marrak, from/ }).press('Enter')
await page.getByRole('button', { name: /^Name: drag it/ }).waitFor()
await page.locator('section.film').evaluate((panel) => {
  panel.scrollTop = 0
})
await idle()
await shoot('dressing')
const changes = 6
for (let n = 0; n < changes; n += 1) {
  await page.getByRole('button', { name: 'Undo' }).click()
  await whenTrue(page, `document.querySelector('button[title^="Do again"]') !== null`, 20_000)
  await idle()
}
await page.getByRole('link', { name: 'Hand over', exact: true }).click()
await page.getByRole('region', { name: 'Ledger' }).getByRole('article').first().waitFor()
await idle()
await shoot('hand-over')
// By the rules of the desk that ships, up to its receipt; the desk itself, and the film on the practice site.
await page.getByRole('link', { name: /^Hand in/ }).click()
await page.getByRole('button', { name: 'Take the practice desk' }).click()
await page.getByLabel('Paper').fill('127')
await page.getByLabel('Surname').fill('Brandt')
await page.keyboard.press('Tab')
// What was filled in is saved meanwhile, and the lines are drawn anew under the pointer.
const taken = page.getByText('Taken, receipt')
for (let tries = 0; tries < 40 && !(await taken.isVisible()); tries += 1) {
  const naming = page.getByRole('button', { name: 'Call it that' })
  const handing = page.getByRole('button', { name: 'Hand in', exact: true })
  // What was taken back counts as a change of the talk: its file is made anew.
  const making = page.getByRole('button', { name: 'Make this file' })
  if (await naming.isVisible()) await naming.click()
  else if (await making.and(page.locator(':enabled')).isVisible()) await making.click()
  else if (await handing.and(page.locator(':enabled')).isVisible()) await handing.click()
  await page.waitForTimeout(1500)
}
await page.getByText('Taken, receipt').waitFor({ timeout: 180_000 })
await page.getByRole('heading', { name: "Swift Counters' Autumn Meeting" }).scrollIntoViewIfNeeded()
await idle()
await shoot('hand-in')
// The page on which others watch it, wide and on a phone.
await page.getByRole('link', { name: /^Show/ }).click()
/** Chooses who may see it. */
const showTo = async (who: string): Promise<void> => {
  await page
    .locator('.el-select')
    .filter({ has: page.getByRole('combobox', { name: 'Who may see it' }) })
    .click()
  await page.getByRole('option', { name: who }).click()
}
await showTo('whoever has the link')
await page.getByRole('button', { name: 'Copy the link' }).waitFor()
await idle()
await page.waitForTimeout(3000)
await shoot('show')
const shownAt = (await page.locator('.words a').getAttribute('href')) ?? ''
const shown = new URL(shownAt, url).pathname
const viewer = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await viewer.goto(`${url}${shown}`)
await viewer.getByRole('button', { name: 'Play', exact: true }).and(viewer.locator(':enabled')).waitFor()
await viewer
  .getByRole('link', { name: /^Slide 3, / })
  .first()
  .click()
await viewer.getByRole('button', { name: 'Play', exact: true }).click()
await whenTrue(viewer, `/0:3[5-9] of/.test(document.querySelector('.controls .clock')?.textContent ?? '')`, 60_000)
await viewer.getByRole('button', { name: 'Stop', exact: true }).click()
await viewer.screenshot({ path: `${folder}/screening.png` })
await viewer.close()
// Others watch, each as far as they like.
const key = shown.split('/').at(-1) ?? ''
// A call that some have answered.
const picture = new Uint8Array(await (await fetch(`${url}/s/${key}/slide.jpg`)).arrayBuffer())
const { call, own } = await answeredCall(url, picture)
await page.goto(call.link)
await page.getByRole('button', { name: 'Begin your talk' }).waitFor()
await page.goto(`${url}/calls/${call.id}`)
await page.getByRole('button', { name: 'Clove hitch on a wet post' }).click()
await page.getByText('1 not kept').waitFor()
await idle()
await shoot('register')
await page.goto(own)
await page.getByRole('link', { name: 'Go on with your talk' }).click()
await page.getByRole('link', { name: 'Hand over', exact: true }).click()
await page.getByText('sent back').waitFor()
await idle()
await shoot('entry')
await page.goto(url)

await page.getByRole('link', { name: 'All talks', exact: true }).click()
await page.getByRole('link', { name: 'Open Counting swifts by ear' }).click()
await page
  .getByRole('article', { name: /^Slide 3:/ })
  .locator('.left')
  .click()
await page.getByRole('button', { name: 'Add a slide' }).click()
await page.getByRole('menuitem', { name: /^Points/ }).click()
const write = async (place: string, text: string): Promise<void> => {
  await page.getByRole('button', { name: `Write: ${place}` }).click()
  await page.getByRole('textbox', { name: place, exact: true }).waitFor()
  await page.keyboard.type(text)
}
await write('Heading', 'What a swift is not')
await page.keyboard.press('Enter')
await write('Text', '- A **martin** is white below')
for (const line of ['A *swallow* has a long tail', 'Neither of them screams']) {
  await page.keyboard.press('Enter')
  await page.keyboard.type(line)
}
await shoot('composing')
await page.keyboard.press('Escape')
// A bird that goes across it with a step of its own.
await page.getByRole('tab', { name: /^Drawn/ }).click()
const choose = async (menu: string, item: string): Promise<void> => {
  await page.getByRole('button', { name: menu }).click()
  await page.getByRole('menuitem', { name: item, exact: true }).click()
}
await choose('Put on it …', 'Callout')
const bird = page.getByRole('list', { name: 'Objects on this slide' }).getByRole('button').first()
await bird.focus()
for (const key of ['ArrowLeft', 'ArrowLeft', 'ArrowLeft', 'ArrowLeft', 'ArrowDown', 'ArrowDown', 'ArrowDown', 'ArrowDown'])
  await page.keyboard.press(`Shift+${key}`)
await page.getByRole('textbox', { name: 'Words on it' }).fill('This one screams')
await page.keyboard.press('Tab')
await choose('It moves …', 'It goes along a way')
await page.getByRole('combobox', { name: 'Its way is' }).press('Enter')
await page.getByRole('option', { name: 'curved' }).click()
await page.getByRole('button', { name: 'One more point' }).click()
await page.getByText(/^Saved/).waitFor()
await idle()
await shoot('objects')
await page.getByRole('tab', { name: 'Slide', exact: true }).click()
await page.getByRole('button', { name: 'Delete slide 4' }).click()
await page.getByText(/^Saved/).waitFor()
await page.getByRole('link', { name: 'Lectern', exact: true }).click()
const use = page.getByRole('button', { name: 'Use these' })
// A take that an earlier run broke off is none of this one's.
for (const left of await page.getByRole('button', { name: 'Discard it' }).all()) await left.click()
// It is asked for by itself where no device was chosen yet.
await use.waitFor()
await whenTrue(page, `/dB/.test(document.querySelector('.el-dialog .level')?.textContent ?? '')`)
await page.getByRole('button', { name: 'Listen to the room' }).click()
await page.getByText(/ room[.:] /).waitFor()
await shoot('room-check')
await use.click()
await page.getByRole('button', { name: 'Rehearse', exact: true }).click()
await page.keyboard.press('ArrowRight')
await whenTrue(page, `/0:0[4-9]/.test(document.querySelector('.clock.big')?.textContent ?? '')`)
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'End it' }).click()
await page.getByRole('button', { name: 'Back to the Lectern' }).click()
await page.getByRole('button', { name: /^Record the talk/ }).click()
await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
await page.keyboard.press('ArrowRight')
await page.keyboard.press('ArrowRight')
await page.keyboard.press('2')
const box = await page.locator('.stage').boundingBox()
if (box !== null) {
  const at = (x: number, y: number): [number, number] => [box.x + box.width * x, box.y + box.height * y]
  await page.mouse.move(...at(0.62, 0.45))
  await page.mouse.down()
  for (let n = 0; n <= 60; n += 1) await page.mouse.move(...at(0.62 + Math.sin(n / 9.2) * 0.09, 0.55 - Math.cos(n / 9.2) * 0.1))
  // Held still, it becomes the ellipse that it resembles.
  await page.waitForTimeout(800)
  await page.mouse.up()
  await page.keyboard.press('t')
  await page.mouse.click(...at(0.42, 0.34))
  await page.getByRole('textbox', { name: 'Label' }).fill('listen here')
  await page.keyboard.press('Enter')
}
await whenTrue(page, `/0:0[6-9]/.test(document.querySelector('.clock.big')?.textContent ?? '')`)
await shoot('recording')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'Stop and keep' }).click()
await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
await page.getByRole('button', { name: 'Discard this take' }).click()
await page.goto(`${url}/server`)
await page.getByRole('heading', { name: 'Queues' }).waitFor()
await idle()
await shoot('server')
const invitation = process.argv[3]
if (invitation !== undefined) {
  await page.goto(invitation)
  await page.getByRole('textbox', { name: 'Your name' }).fill('Maren Holt')
  await page.getByRole('textbox', { name: 'A password' }).fill('heron lantern gravel')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await page.getByRole('link', { name: 'People' }).click()
  for (const name of ['wenna', 'onno']) {
    await page.getByRole('textbox', { name: 'E-mail', exact: true }).fill(`${name}@harbour.example`)
    await page.getByRole('button', { name: 'Invite' }).click()
    await page.getByText(`The letter to ${name}@harbour.example`).waitFor()
  }
  await idle()
  await shoot('people')
}

await browser.close()
