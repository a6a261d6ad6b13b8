import { ask } from '../tests/harness/timed-take'
import { openPage, startRunning } from './running-product'
import { FIND_PLAYER } from './review-player'
import type { Figure } from './figure'
import { whenTrue } from '../tests/harness/when-true'

const TIMES = 20

/** From the key to the first sound in Review, at places all over a talk: the recording has moved on by then. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4398)
  const { page, close } = await openPage()
  try {
    const talks = await ask<readonly { readonly id: string; readonly name: string }[]>(product, 'GET', '/talks')
    await page.goto(`${product.url}/talks/${talks.find((one) => one.name === 'The rule of twelfths')?.id ?? ''}/review`)
    await page.locator('.visit').first().waitFor()
    const took: number[] = []
    for (let n = 0; n < TIMES; n += 1) {
      await page.evaluate(`(async () => {
        ${FIND_PLAYER}
        player.pause()
        player.seek(${String(n * 4733)} % 60000)
        await sleep(700)
        window.started = null
        addEventListener('keydown', (event) => {
          const from = player.at
          const look = () => {
            if (player.at > from + 5) window.started = performance.now() - event.timeStamp - (player.at - from)
            else requestAnimationFrame(look)
          }
          look()
        }, { once: true })
      })()`)
      await page.keyboard.press('Space')
      await whenTrue(page, 'window.started !== null')
      took.push(Number(await page.evaluate('window.started')))
    }
    const sorted = [...took].sort((a, b) => a - b)
    const value = Math.round(sorted.at(-1) ?? 0)
    return {
      value,
      unit: 'ms',
      target: 'worst of 20 within 200',
      ok: value <= 200,
      detail: { medianMs: Math.round(sorted[TIMES >> 1] ?? 0) },
    }
  } finally {
    await close()
    await product.stop()
  }
}
