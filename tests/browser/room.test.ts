import { writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { checkRoom, endTake, isRecording, newTalk, spokenMore } from '../harness/browser'
import { inBrowser } from '../harness/stand'

/** A microphone that is there and hears nothing: a second of silence, over and over (RIFF WAVE, 48 kHz, mono, 16 bit). */
function silentMic(): string {
  const samples = 48_000
  const bytes = Buffer.alloc(44 + samples * 2)
  bytes.write('RIFF', 0)
  bytes.writeUInt32LE(36 + samples * 2, 4)
  bytes.write('WAVEfmt ', 8)
  for (const [at, value] of [
    [16, 16],
    [24, 48_000],
    [28, 96_000],
    [40, samples * 2],
  ] as const)
    bytes.writeUInt32LE(value, at)
  for (const [at, value] of [
    [20, 1],
    [22, 1],
    [32, 2],
    [34, 16],
  ] as const)
    bytes.writeUInt16LE(value, at)
  bytes.write('data', 36)
  const file = join(tmpdir(), `aisle-silence-${String(process.pid)}.wav`)
  writeFileSync(file, bytes)
  return file
}

const stand = inBrowser([
  '--use-fake-ui-for-media-stream',
  '--use-fake-device-for-media-stream',
  `--use-file-for-fake-audio-capture=${silentMic()}`,
])

describe('the room check', () => {
  it('says that a microphone hears nothing, asks before a take is lost with it, and is believed when told to go on', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Unheard knots')
    await page.getByRole('link', { name: 'Lectern', exact: true }).click()
    await page.getByRole('dialog').getByText('Nothing heard').waitFor()
    await page.getByRole('button', { name: 'Listen to the room' }).click()
    await page.getByText('A still room.').waitFor()
    // Beside one that hears something, it says which.
    const two = page.getByRole('group', { name: 'Two microphones' })
    await two.getByRole('combobox', { name: 'The other microphone' }).press('Enter')
    await page.getByRole('option', { name: 'Practice mic' }).click()
    await two.getByRole('button', { name: 'Compare with' }).click()
    await two.getByText(/^Practice.* hears you better\.$/).waitFor({ timeout: 30_000 })
    await two.getByRole('button', { name: 'Take it' }).waitFor()
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Use these' }).click()
    await page.getByRole('button', { name: 'Record the talk' }).click()
    await page.getByRole('alert').filter({ hasText: 'Nothing is heard from' }).waitFor()
    await page.getByRole('button', { name: 'Record all the same' }).click()
    await isRecording(page)
    await spokenMore(page, 6)
    await endTake(page)
    // What comes after says it too.
    await page.getByText('No voice was heard.').waitFor()
    expect((await stand.client.get<TalkView>('GET', `/talks/${talk}`)).takes.length).toBe(1)
    expect(stand.browser.faults).toEqual([])
  })

  it('plays ten seconds back, and goes without a camera by one click', async () => {
    const page = await stand.browser.page()
    await newTalk(page, stand.product.url, 'Tried knots')
    await page.getByRole('link', { name: 'Lectern', exact: true }).click()
    await page.getByRole('button', { name: 'Record a ten-second test' }).click()
    const played = page.getByLabel('The test, played back')
    await played.waitFor()
    await expect
      .poll(() => page.evaluate('document.querySelector("[aria-label=\'The test, played back\']")?.currentTime ?? 0'))
      .toBeGreaterThan(0.5)
    await page.getByRole('button', { name: 'Voice only' }).click()
    await page.getByText('No camera: the video will show the slides with your voice.').waitFor()
  })

  it('remembers what was used, and says when it is not here', async () => {
    const page = await stand.browser.page()
    await newTalk(page, stand.product.url, 'Remembered knots')
    await checkRoom(page)
    await page.evaluate(`for (const key of Object.keys(localStorage).filter((one) => one.startsWith('aisle-habits'))) {
      localStorage.setItem(key, JSON.stringify({ ...JSON.parse(localStorage.getItem(key)), mic: { id: 'gone', label: 'Desk microphone' } }))
    }`)
    await page.reload()
    await page.getByRole('alert').filter({ hasText: 'Desk microphone, which you used last, is not here.' }).waitFor()
  })
})
