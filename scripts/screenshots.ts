import { mkdirSync } from 'node:fs'
import { chromium } from 'playwright-core'

/**
 * Takes the README's pictures from a running product with the demo data: npm run shots -- http://127.0.0.1:4310
 * Records a short take of the second demo talk on the way.
 */
const url = process.argv[2] ?? 'http://127.0.0.1:4310'
const folder = 'docs/screenshots'
mkdirSync(folder, { recursive: true })

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run', '--autoplay-policy=no-user-gesture-required'],
})
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
const shoot = async (name: string): Promise<void> => { await page.screenshot({ path: `${folder}/${name}.png` }) }
const idle = (): Promise<void> => page.waitForLoadState('networkidle', { timeout: 4000 }).catch(() => undefined)

await page.goto(url)
await page.getByRole('heading', { name: 'The rule of twelfths' }).waitFor()
await idle()
await shoot('talks')
await page.getByRole('link', { name: 'Open The rule of twelfths' }).click()
await page.getByRole('article', { name: /^Slide 4:/ }).locator('.left').click()
await idle()
await shoot('prepare')
await page.getByRole('tab', { name: 'Face' }).click()
await shoot('framing')
await page.getByRole('tab', { name: 'Plan' }).click()
await shoot('plan')
await page.getByRole('link', { name: 'Review', exact: true }).click()
await page.getByRole('button', { name: /^Play from 5/ }).click()
await page.waitForFunction(`/1:0[89]/.test(document.querySelector('.time')?.textContent ?? '')`, undefined, { timeout: 60_000 })
await shoot('review')
await page.getByRole('link', { name: 'Hand over', exact: true }).click()
await page.getByRole('region', { name: 'Ledger' }).getByRole('article').first().waitFor()
await idle()
await shoot('hand-over')

await page.getByRole('link', { name: 'All talks' }).click()
await page.getByRole('link', { name: 'Open Counting swifts by ear' }).click()
await page.getByRole('article', { name: /^Slide 3:/ }).locator('.left').click()
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
if (!await use.isVisible()) await page.getByRole('button', { name: 'Room check' }).click()
await page.waitForFunction(`/dB/.test(document.querySelector('.el-dialog .level')?.textContent ?? '')`)
await page.getByRole('button', { name: 'Listen to the room' }).click()
await page.getByText(/ room[.:] /).waitFor()
await shoot('room-check')
await use.click()
await page.getByRole('button', { name: 'Rehearse', exact: true }).click()
await page.keyboard.press('ArrowRight')
await page.waitForFunction(`/0:0[4-9]/.test(document.querySelector('.clock.big')?.textContent ?? '')`)
await shoot('rehearsing')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'End it' }).click()
await page.getByRole('button', { name: 'Back to the Lectern' }).click()
await page.getByRole('button', { name: /^Record (from the start|everything again)/ }).click()
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
await page.waitForFunction(`/0:0[6-9]/.test(document.querySelector('.clock.big')?.textContent ?? '')`)
await shoot('recording')
await page.keyboard.press('p')
await page.getByRole('status').filter({ hasText: 'Paused' }).waitFor()
await shoot('paused')
await page.keyboard.press('Escape')
await page.getByRole('button', { name: 'Stop and keep' }).click()
await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
await shoot('after-take')
await page.getByRole('button', { name: 'Discard this take' }).click()
await browser.close()
