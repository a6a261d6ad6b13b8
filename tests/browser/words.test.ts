import { describe, expect, it } from 'vitest'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { sendTake } from '../harness/recording'
import { shareTalk } from '../harness/screening'
import { playButton, standsAt } from '../harness/screening-page'
import { saidRecording } from '../harness/speech'
import { inBrowser, otherBrowser } from '../harness/stand'
import { knotsTalk } from '../harness/talks'

const stand = inBrowser()
const viewer = otherBrowser()

const NOTES = 'The anchor of the Skero holds well. Coil the rope three times, and tell the Skero that it is done. Nobody waits at the pier.'
const SAID = ['The anchor of the Skero holds well.', 'Coil the rope three times, and tell the Skero that it is done.']
/** As it is said: the second sentence is begun twice. */
const SPOKEN = [SAID[0] ?? '', 'Coil the rope.', SAID[1] ?? '']

describe('what is said', () => {
  it('is listened to, put right where it stands and everywhere, found, and read by those who watch', async () => {
    const { talk, slides } = await knotsTalk(stand.client, 'Anchors')
    const { revision } = await stand.client.get<TalkView>('GET', `/talks/${talk}`)
    const edit = { kind: 'set', slides: [slides[0]], fields: { notes: NOTES } }
    await stand.client.get('POST', `/talks/${talk}/deck`, { revision, edit })
    const { media, length } = await saidRecording(SPOKEN)
    await sendTake(stand.client, talk, 'full', { kind: 'replaceAll' }, [{ media, length, slide: slides[0] ?? '' }])
    const { path } = await shareTalk(stand.client, talk)

    const page = await stand.browser.page()
    await page.goto(`${stand.product.url}/talks/${talk}/review?panel=words`)
    await page.getByRole('button', { name: 'Listen to it now' }).click()
    const said = page.getByRole('group', { name: /^What is said/ })
    await said.waitFor()
    const words = (): Promise<string[]> => said.locator('.word').allTextContents()
    await expect.poll(words).toEqual(`${SAID[0] ?? ''} Coil the rope ${SAID[1] ?? ''}`.split(' '))
    // The first try goes, and can be taken back.
    await page.getByRole('tab', { name: 'Slips' }).click()
    const slips = page.getByRole('region', { name: 'Slips' })
    await slips.getByText('“Coil the rope” begun again').waitFor()
    expect(await accessFaults(page)).toEqual([])
    await slips.getByRole('button', { name: 'Without' }).click()
    await expect.poll(() => page.getByRole('button', { name: 'Pause', exact: true }).count()).toBe(1)
    await page.keyboard.press('Space')
    await slips.getByRole('button', { name: /^Cut the one that is ticked/ }).click()
    await expect.poll(words).toEqual(SAID.join(' ').split(' '))
    await slips.getByText('Nothing was begun again').waitFor()
    await page.getByRole('tab', { name: 'Words' }).click()
    expect(await accessFaults(page)).toEqual([])

    // A click goes there; the keys go from word to word, and put one right.
    await said.getByText('holds').click()
    const stands = async (): Promise<number> => Number(/0:0(\d+\.\d)/.exec((await page.locator('.time').textContent()) ?? '')?.[1])
    await expect.poll(stands).toBeGreaterThan(0.8)
    await page.keyboard.press('ArrowLeft')
    await page.keyboard.press('F2')
    const field = said.getByRole('textbox', { name: 'What is said here' })
    expect(await field.inputValue()).toBe('Skero')
    await field.fill('Skerrow')
    await field.press('Enter')
    await page.getByText('“Skero” is said 1 more times.').waitFor()
    await page.getByRole('button', { name: '“Skerrow” there too' }).click()
    await expect.poll(() => said.getByText('Skerrow').count()).toBe(2)

    // A drag over words chooses their part of the talk.
    const [from, to] = [await said.getByText('Coil').boundingBox(), await said.getByText('times,').boundingBox()]
    await page.mouse.move((from?.x ?? 0) + 2, (from?.y ?? 0) + 8)
    await page.mouse.down()
    await page.mouse.move((to?.x ?? 0) + (to?.width ?? 0) - 2, (to?.y ?? 0) + 8, { steps: 5 })
    await page.mouse.up()
    await page.getByRole('button', { name: 'Cut', exact: true }).click()
    await expect.poll(words).not.toContain('rope')
    await page.getByRole('textbox', { name: 'Find in what is said' }).fill('skerrow')
    await expect.poll(() => page.getByRole('region', { name: 'Words' }).getByRole('listitem').count()).toBe(2)

    // Captions stand on the picture where they are told to, and a caption file says what was said until it is taken back.
    await page.getByText('Captions on the picture').click()
    await page.getByRole('button', { name: 'Place of captions: where they hide nothing' }).click()
    await page.getByText('the slide makes room for it').click()
    await page.getByRole('button', { name: 'Place of captions: in a strip below' }).waitFor()
    expect((await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.captions?.place).toBe('strip')
    const file = 'WEBVTT\n\n00:00.000 --> 00:02.600\nThe anchor of the Skerrow holds very well.\n'
    await page.getByLabel('Caption file').setInputFiles({ name: 'said.vtt', mimeType: 'text/vtt', buffer: Buffer.from(file) })
    await expect.poll(words).toContain('very')
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Take that back' }).click()
    await expect.poll(words).not.toContain('very')
    expect(await words()).toContain('done.')

    const watching = await viewer.browser.page()
    await watching.goto(`${stand.product.url}${path}`)
    await watching.getByRole('region', { name: 'What is said' }).getByText('The anchor of the Skerrow holds well.').waitFor()
    expect(await watching.getByText('rope').count()).toBe(0)
    await expect.poll(() => playButton(watching).isEnabled()).toBe(true)
    await watching.keyboard.press('c')
    await playButton(watching).click()
    await watching.locator('.caption').getByText('The anchor of the Skerrow holds well.').waitFor()
    expect(await accessFaults(watching)).toEqual([])
    await watching.getByRole('searchbox').fill('done')
    await expect.poll(() => watching.locator('.spoken').count()).toBe(1)
    await watching.getByText(/^Said in 1 of \d sentences$/).waitFor()
    await watching.getByRole('link', { name: /it is done/ }).click()
    await expect.poll(() => standsAt(watching)).toBeGreaterThanOrEqual(2)
    expect([...stand.browser.faults, ...viewer.browser.faults]).toEqual([])
  })
})
