import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FilmView, TalkView } from '@contracts'
import { accessFaults } from '../harness/access'
import { beginTake, endTake, isRecording, newTalk, spokenMore, takeDevices } from '../harness/browser'
import { inBrowser } from '../harness/stand'

const stand = inBrowser()
let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-decks-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

const deckOf = (...slides: readonly (readonly [string, ...string[]])[]): string =>
  slides.map(([title, ...lines]) => [`# ${title}`, '', ...lines.map((line) => `- ${line}`)].join('\n')).join('\n\n')
const OLD = deckOf(
  ['The bowline', 'a loop that holds', 'is undone by hand'],
  ['The clove hitch', 'round a post', 'slips without load'],
  ['Tides', 'twice a day', 'higher with a new moon'],
)
const NEW = deckOf(
  ['Welcome to the harbour', 'what is learnt this year'],
  ['The bowline', 'a loop that holds', 'is undone by hand'],
  ['The clove hitch', 'round a post or a ring', 'slips without load'],
)

describe('a deck, next year', () => {
  it('is replaced, and only what changed is said again', async () => {
    const page = await stand.browser.page()
    const talk = await newTalk(page, stand.product.url, 'Knots and tides', { name: 'knots.md', bytes: Buffer.from(OLD) })
    await beginTake(page)
    for (let n = 0; n < 2; n += 1) {
      await spokenMore(page, 1)
      await page.keyboard.press('ArrowRight')
    }
    await spokenMore(page, 1)
    await endTake(page)
    const before = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)

    await page.getByRole('link', { name: 'Prepare', exact: true }).click()
    const file = join(folder, 'knots-2027.md')
    await writeFile(file, NEW)
    await page.getByRole('article', { name: /^Slide 3/ }).waitFor()
    await page.setInputFiles('input[aria-label="The newer deck"]', file)
    const brought = page.getByRole('list', { name: 'The new deck' })
    await brought.getByRole('button', { name: /The clove hitch/ }).click()
    expect(await brought.getByRole('button').allTextContents()).toEqual([
      expect.stringMatching(/Welcome to the harbour.*new/),
      expect.stringMatching(/The bowline\s*$/),
      expect.stringMatching(/The clove hitch.*changed/),
    ])
    expect(await page.getByRole('list', { name: 'The deck you have' }).textContent()).toContain('its recording stays in the talk')
    expect(await accessFaults(page)).toEqual([])
    await page.getByRole('button', { name: 'Take it over' }).click()
    await page.getByRole('button', { name: 'Put the deck before back' }).waitFor()
    const taken = await stand.client.get<TalkView>('GET', `/talks/${talk}`)
    expect(taken.slides.map(({ title }) => title)).toEqual(['Welcome to the harbour', 'The bowline', 'The clove hitch'])

    await page.getByRole('link', { name: 'Retake what changed' }).click()
    await takeDevices(page)
    await page
      .getByRole('button', { name: /^Retake/ })
      .first()
      .click()
    await isRecording(page)
    await spokenMore(page, 1)
    await endTake(page)
    const after = await stand.client.get<FilmView>('GET', `/talks/${talk}/film`)
    const stretches = ({ programme }: FilmView) => programme.pieces.map((piece) => (piece.kind === 'still' ? '' : piece.show.stretch))
    const [first, second, third] = stretches(before)
    const [now1, now2, now3] = stretches(after)
    expect([now1, now3]).toEqual([first, third])
    expect(now2).not.toBe(second)
    const left = new Set(after.programme.changedUnder)
    expect(after.programme.pieces.filter(({ visit }) => left.has(visit))).toEqual([])
    expect(stand.browser.faults).toEqual([])
  })
})
