import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Client } from '../../harness/client'
import { KNOTS } from '../../harness/decks'
import { colourGap } from '../../harness/film-file'
import { clickOn, seen, startFirefox } from '../../harness/firefox'
import type { Firefox } from '../../harness/firefox'
import { startProduct, until } from '../../harness/product'
import type { Product } from '../../harness/product'
import { threeSlides } from '../../harness/screening-page'

let product: Product
let firefox: Firefox
beforeAll(async () => {
  product = await startProduct()
  firefox = await startFirefox()
})
afterAll(async () => {
  await firefox.close()
  await product.stop()
})

/** The colour of a place in the picture, in fractions of it. */
async function colourIn(x: number, y: number): Promise<readonly number[]> {
  const pixel = await firefox.page.evaluate(`(() => {
    const picture = document.querySelector('canvas[role=img]')
    const at = [Math.round(picture.width * ${String(x)}), Math.round(picture.height * ${String(y)})]
    return [...picture.getContext('2d').getImageData(...at, 1, 1).data].slice(0, 3)
  })()`)
  return pixel as readonly number[]
}
const showsSlide = async (n: number): Promise<boolean> => colourGap(await colourIn(0.5, 0.9), KNOTS[n]?.colour ?? []) < 14

describe('a screening page in Firefox', () => {
  it('plays voice and face over its slides, goes to a slide, and comes to its end', async () => {
    const { path } = await threeSlides(new Client(product.url), 'Knots for everybody')
    const { page } = firefox
    await page.goto(`${product.url}${path}`)
    await seen(page, 'h1', /Knots for everybody/)
    await clickOn(page, 'button', /^Play$/)
    const video = (field: string): Promise<unknown> => page.evaluate(`document.querySelector('video')?.${field} ?? null`)
    await until('the film to run', async () => Number(await video('currentTime')) > 1, 60_000)
    expect(await showsSlide(0)).toBe(true)
    const corners = [0.05, 0.1, 0.15, 0.85, 0.9, 0.95]
    await until(
      'the face',
      async () => {
        const colours = await Promise.all(corners.flatMap((x) => corners.map((y) => colourIn(x, y))))
        return colours.some((colour) => colourGap(colour, [255, 0, 255]) < 70)
      },
      30_000,
    )
    await clickOn(page, '.aisle a', /Slide 3/)
    await until('the third slide', () => showsSlide(3), 10_000)
    await until('the end', async () => Number(await video('currentTime')) >= 11.9 && (await video('paused')) === true, 60_000)
    expect(firefox.faults).toEqual([])
  })
})
