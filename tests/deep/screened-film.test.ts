import { describe, expect, it } from 'vitest'
import { screeningOf } from '../harness/screening'
import { playButton, standsAt, threeSlides } from '../harness/screening-page'
import { inBrowser, otherBrowser } from '../harness/stand'

const stand = inBrowser()
/** Another person's browser. */
const viewer = otherBrowser()

describe('a talk that is shown', () => {
  it('plays as a film to its end, once that is made, with another quality from the middle on', async () => {
    const { path } = await threeSlides(stand.client, 'Knots as a film')
    const key = path.split('/')[2] ?? ''
    await expect.poll(async () => (await screeningOf(stand.product.url, key)).films, { timeout: 240_000 }).toEqual([480, 720, 1080])
    const page = await viewer.browser.page()
    await page.goto(`${stand.product.url}${path}`)
    await expect.poll(() => playButton(page).isEnabled()).toBe(true)
    const choose = page.getByRole('combobox', { name: 'Picture' })
    const lines = (): Promise<number> => page.evaluate<number>('document.querySelector(".film video").videoHeight')
    await choose.selectOption({ label: 'film of 1080 lines' })
    await playButton(page).click()
    await expect.poll(lines).toBe(1080)
    await expect.poll(() => standsAt(page)).toBeGreaterThanOrEqual(2)
    await choose.selectOption({ label: 'film of 480 lines' })
    await expect.poll(lines).toBe(480)
    await expect.poll(() => playButton(page).isVisible(), { timeout: 90_000 }).toBe(true)
    expect(await standsAt(page)).toBe(12)
    // A plain player gets it whole.
    const { media } = await screeningOf(stand.product.url, key)
    const whole = await fetch(`${stand.product.url}${media}/film.mp4`, { headers: { range: 'bytes=0-99' } })
    expect([whole.status, whole.headers.get('cache-control')]).toEqual([206, 'public, max-age=31536000, immutable'])
    expect(viewer.browser.faults).toEqual([])
  })
})
