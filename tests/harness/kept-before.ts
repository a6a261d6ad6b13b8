import type { Page } from 'playwright-core'
import type { KeptBefore } from '../stand-in/kept-take'
import { built } from './stand-in'

/** Puts a broken take into a page's store as it was when chunks were called slices, in the place of what is there. */
export async function keepAsBefore(page: Page, kept: KeptBefore): Promise<void> {
  await page.evaluate(`${built('kept-before.ts')}\n; keepAsBefore(${JSON.stringify(kept)})`)
}
