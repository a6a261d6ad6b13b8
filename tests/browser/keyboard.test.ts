import { describe, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { checkRoom, isRecording, newTalk, spokenMore } from '../harness/browser'
import { KNOTS } from '../harness/decks'
import { colourGap } from '../harness/film-file'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()

describe('the Lectern by keyboard alone', () => {
  it('moves, unfolds and sizes the notes, goes to any slide, labels and advances without losing a key', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots by key')
    await page
      .getByRole('textbox', { name: 'Notes of slide 1' })
      .fill('First line here. Second line here. Third line here. Fourth line here.')
    await expect.poll(async () => (await stand.client.get<TalkView>('GET', `/talks/${talk}`)).slides[0]?.notes).toContain('Fourth')
    await checkRoom(page)
    await page.keyboard.press('r')
    await isRecording(page)
    const due = page.locator('.band p.due')
    const says = (text: string) => expect.poll(() => due.textContent()).toContain(text)
    await says('First line')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowDown')
    await says('Third line')
    await page.keyboard.press('ArrowUp')
    await says('Second line')
    const before = await page.locator('.band').getAttribute('style')
    await page.keyboard.press('+')
    await expect.poll(() => page.locator('.band').getAttribute('style')).not.toBe(before)
    await page.keyboard.press('n')
    await page.locator('.whole p').nth(3).waitFor()
    await page.keyboard.press('n')
    // By itself: at the presenter's own pace three words take less than two seconds.
    await page.keyboard.press('a')
    await says('Third line')
    await page.keyboard.press('a')
    await page.getByRole('button', { name: /moves with my voice/ }).waitFor()

    // The last slide, by its number.
    await page.keyboard.press('g')
    await page.keyboard.press('3')
    await page.keyboard.press('Enter')
    await page.getByText('slide 3 of 3').waitFor()
    // A label is typed; a clicker still goes back meanwhile, and the label stays on its slide.
    await page.keyboard.press('t')
    await page.locator('.stage').click({ position: { x: 200, y: 200 } })
    await page.getByRole('textbox', { name: 'Label' }).pressSequentially('reef')
    await page.keyboard.press('PageUp')
    await page.getByText('slide 2 of 3').waitFor()
    await page.keyboard.press('Enter')
    // No click takes the keys that advance the slide away.
    await page.getByRole('button', { name: 'Pen', exact: true }).click()
    await page.getByRole('button', { name: 'Mute M' }).click()
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('ArrowLeft')
    await page.getByText('slide 1 of 3').waitFor()
    await spokenMore(page, 1)
    // Escape asks, and recording goes on while it asks.
    await page.keyboard.press('Escape')
    await page.getByText('Recording goes on while this is open.').waitFor()
    await spokenMore(page, 1)
    await page.getByRole('button', { name: 'Stop and keep' }).press('Enter')
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
    await page.getByText('Muted', { exact: true }).waitFor()
    expect(stand.browser.faults).toEqual([])
  })

  it('shows the slide alone in a second window, with what is drawn on it', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Projected knots')
    await checkRoom(page)
    const projector = await stand.browser.page()
    await projector.goto(`${stand.product.url}/talks/${talk}/projector`)
    const slide = projector.getByRole('img', { name: 'Bowline' })
    await slide.waitFor()
    await page.keyboard.press('ArrowRight')
    await projector.getByRole('img', { name: 'Clove hitch' }).waitFor()
    const colourAt = (x: number, y: number): Promise<number[]> =>
      projector.evaluate(`(() => {
      const canvas = document.querySelector('canvas')
      return [...canvas.getContext('2d').getImageData(Math.round(canvas.width * ${String(x)}),
        Math.round(canvas.height * ${String(y)}), 1, 1).data.slice(0, 3)]
    })()`)
    const gap = async (x: number, y: number, colour: readonly number[]): Promise<number> => colourGap(await colourAt(x, y), colour)
    await expect.poll(() => gap(0.5, 0.5, KNOTS[1]?.colour ?? [])).toBeLessThan(4)
    // In a test both are tabs of one window; the hand is in this one.
    await page.bringToFront()
    await page.keyboard.press('d')
    const box = await page.locator('.stage').boundingBox()
    if (box === null) throw new Error('no stage')
    await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * 0.5)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.5, { steps: 12 })
    // It is seen while it is drawn, not only once it is done.
    await expect.poll(() => gap(0.5, 0.5, KNOTS[1]?.colour ?? [])).toBeGreaterThan(40)
    await page.mouse.up()
    await page.keyboard.press('b')
    await expect.poll(() => gap(0.2, 0.2, [16, 28, 26])).toBeLessThan(4)
    expect(stand.browser.faults).toEqual([])
  })
})
