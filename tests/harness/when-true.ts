import type { Page } from 'playwright-core'
import { until } from './run-product'

/**
 * Waits until an expression is true in a page. The page's own waiting would evaluate text there, which its content security policy forbids.
 * @param most ms
 */
export async function whenTrue(page: Page, expression: string, most = 30_000): Promise<void> {
  await until(expression, async () => Boolean(await page.evaluate(expression)), most)
}
