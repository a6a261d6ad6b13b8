import { openPage, startRunning } from './running-product'
import type { Figure } from './figure'

/** As measured by this bench on commit 4ad3711, before the schemas and their library left the pages. */
const BEFORE = 1_202_235
const MOST = 0.6

/** The scripts that a browser which was never here loads for the page of talks, in bytes as they are run. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4392)
  const { page, close } = await openPage()
  try {
    const sizes = new Map<string, Promise<number>>()
    page.on('response', (response) => {
      if (response.request().resourceType() === 'script') {
        sizes.set(
          new URL(response.url()).pathname,
          response.body().then((body) => body.length),
        )
      }
    })
    await page.goto(product.url)
    await page.getByRole('heading', { level: 1 }).first().waitFor()
    await page.waitForLoadState('networkidle')
    const all = await Promise.all([...sizes].map(async ([path, size]) => ({ path, bytes: await size })))
    const bytes = all.reduce((sum, one) => sum + one.bytes, 0)
    const value = Number((bytes / BEFORE).toFixed(2))
    const largest = [...all].sort((a, b) => b.bytes - a.bytes).slice(0, 8)
    return {
      value,
      unit: 'of before',
      target: `${String(MOST)} or less of ${String(BEFORE)} bytes`,
      ok: value <= MOST,
      detail: { bytes, scripts: all.length, largest },
    }
  } finally {
    await close()
    await product.stop()
  }
}
