import type { Page } from 'playwright-core'

/** Drags over a part of a visit's waveform. @param from share of it */
export async function chooseOnWave(page: Page, visit: number, from: number, to: number): Promise<void> {
  const box = await page.locator('.visit').nth(visit).locator('.place').boundingBox()
  if (box === null) throw new Error('no waveform')
  await page.mouse.move(box.x + box.width * from, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * ((from + to) / 2), box.y + box.height / 2)
  await page.mouse.move(box.x + box.width * to, box.y + box.height / 2)
  await page.mouse.up()
}
