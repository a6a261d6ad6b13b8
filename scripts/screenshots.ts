import { mkdirSync } from 'node:fs'
import { chromium } from 'playwright-core'
import { whenTrue } from '../tests/harness/when-true'

/**
 * Takes the README's pictures from a running product with the demo data: npm run shots -- http://127.0.0.1:4310
 * Records a short take of the second demo talk on the way.
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
await page.getByRole('tab', { name: 'Face' }).click()
await shoot('framing')
await page.getByRole('tab', { name: 'Plan' }).click()
await shoot('plan')
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
await shoot('review-range')
await page.keyboard.press('Escape')
await page.getByRole('tab', { name: 'Face' }).click()
await page.getByRole('button', { name: /^Choose (a|its) stroke/ }).click()
await page.getByText('drawn at').waitFor()
await shoot('review-ink')
await page.keyboard.press('Escape')
// As if it had been allowed a minute and fifty seconds.
const talk = /talks\/([0-9a-f-]+)\//.exec(page.url())?.[1] ?? ''
const limited = (limit: number) =>
  fetch(`${url}/api/talks/${talk}`, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ limit }) })
await limited(110_000)
await page.reload()
await page.getByText('over the limit of 1:50').waitFor()
await idle()
await shoot('review-fit')
await limited(600_000)
await page.reload()
await page.locator('.visit').first().waitFor()
await page.getByRole('link', { name: 'Hand over', exact: true }).click()
await page.getByRole('region', { name: 'Ledger' }).getByRole('article').first().waitFor()
await idle()
await shoot('hand-over')
// The page on which others watch it, wide and on a phone.
await page.getByRole('link', { name: /^Show/ }).click()
await page.getByText('whoever has the link').click()
await page.getByRole('button', { name: 'Copy the link' }).waitFor()
await idle()
await page.waitForTimeout(3000)
await shoot('show')
const shown = new URL((await page.locator('.words a').getAttribute('href')) ?? '', url).pathname
const viewer = await browser.newPage({ viewport: { width: 1280, height: 800 } })
for (const [name, width, height] of [
  ['screening', 1280, 800],
  ['screening-narrow', 360, 740],
] as const) {
  await viewer.setViewportSize({ width, height })
  await viewer.goto(`${url}${shown}`)
  await viewer.getByRole('button', { name: 'Play', exact: true }).and(viewer.locator(':enabled')).waitFor()
  await viewer
    .getByRole('link', { name: /^Slide 3, / })
    .first()
    .click()
  await viewer.getByRole('button', { name: 'Play', exact: true }).click()
  await whenTrue(viewer, `/0:3[5-9] of/.test(document.querySelector('.controls .clock')?.textContent ?? '')`, 60_000)
  await viewer.getByRole('button', { name: 'Stop', exact: true }).click()
  await viewer.screenshot({ path: `${folder}/${name}.png` })
}
await viewer.close()

await page.getByRole('link', { name: 'All talks' }).click()
await page.getByRole('link', { name: 'Open Counting swifts by ear' }).click()
await page
  .getByRole('article', { name: /^Slide 3:/ })
  .locator('.left')
  .click()
await page.getByRole('button', { name: 'Add a slide' }).click()
await page.getByRole('menuitem', { name: /^Points/ }).click()
const write = async (place: string, text: string): Promise<void> => {
  await page.getByRole('button', { name: `Write: ${place}` }).click()
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
await shoot('rehearsing')
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
await page.keyboard.press('p')
await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
await shoot('paused')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'Stop and keep' }).click()
await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
await shoot('after-take')
await page.getByRole('button', { name: 'Discard this take' }).click()

// One slide of the first talk said once more, so that two recordings of it stand side by side; what was there is taken up again.
await page.goto(`${url}/talks/${talk}/review`)
await page.getByRole('link', { name: 'Retake', exact: true }).nth(1).click()
await page.getByRole('button', { name: 'Retake this slide' }).waitFor()
for (const left of await page.getByRole('button', { name: 'Discard it' }).all()) await left.click()
// It is asked for by itself where no device was chosen yet.
await use.waitFor()
await use.click()
await page.getByRole('button', { name: 'Retake this slide' }).click()
await page.getByRole('status').filter({ hasText: 'Recording' }).waitFor()
await page.waitForTimeout(5000)
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'Stop and keep' }).click()
await page.getByRole('link', { name: 'Listen in Review' }).click()
await page
  .locator('.visit')
  .nth(1)
  .getByRole('button', { name: /^More for visit/ })
  .click()
await page.getByRole('menuitem', { name: 'Recordings side by side' }).filter({ visible: true }).click()
await page
  .getByRole('dialog', { name: /^Recordings of/ })
  .getByRole('button', { name: 'Play', exact: true })
  .last()
  .click()
await page.waitForTimeout(4000)
await shoot('side-by-side')
await page.getByRole('button', { name: 'Take this one' }).last().click()
await page.getByRole('dialog', { name: /^Recordings of/ }).waitFor({ state: 'hidden' })
await browser.close()
