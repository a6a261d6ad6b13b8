import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Recipe } from '@core/model'
import type { DeliveryView, TalkView, WordsView } from '@contracts'
import type { Client } from './client'
import { KNOTS, fileForm, makePdf } from './decks'
import { sendTake } from './recording'
import { until } from './run-product'
import { saidRecording } from './speech'

/** Makes a talk of the deck about knots. @returns its id and those of its slides, in order */
export async function knotsTalk(client: Client, name = 'Knots'): Promise<{ readonly talk: string; readonly slides: readonly string[] }> {
  const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name, limit: null })
  await client.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  const view = await until('the deck', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    const [first] = now.imports
    if (first?.state === 'failed') throw new Error(`the deck was not taken in: ${first.sentence ?? 'no reason is given'}`)
    return first?.state === 'done' && now
  })
  return { talk, slides: view.slides.map((slide) => slide.id) }
}

/** Makes a talk in which something is said over the first slide, and is known. @returns its id */
export async function heardTalk(client: Client, name: string): Promise<string> {
  const { talk, slides } = await knotsTalk(client, name)
  const { revision } = await client.get<TalkView>('GET', `/talks/${talk}`)
  const notes = 'Skerrow harbour is calm tonight. Turn the rope three times around the post.'
  await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slides[0]], fields: { notes } } })
  const { media, length } = await saidRecording([notes], 'en-us')
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length, slide: slides[0] ?? '' }])
  await client.get('POST', `/talks/${talk}/words/listen`)
  await until('the words', async () => {
    const { waiting, stretches } = await client.get<WordsView>('GET', `/talks/${talk}/words`)
    return waiting === 0 && stretches.length > 0
  })
  return talk
}

/** Waits until a file is done, or has failed. @returns its line in the ledger */
export const settledDelivery = (client: Client, talk: string, id: string): Promise<DeliveryView> =>
  until(
    'the file',
    async () => {
      const found = (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
      return found !== undefined && ['done', 'failed'].includes(found.state) && found
    },
    300_000,
  )

/** Makes a file of a talk, of 480 lines, and waits for it. @param recipe what is to be otherwise @returns where it was saved */
export async function delivered(client: Client, talk: string, recipe: Partial<Recipe> = {}): Promise<string> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
    lines: 480,
    quality: 'good',
    name: 'file',
    limit: { kind: 'none' },
    ...recipe,
  })
  await until(
    'the file',
    async () => (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)?.state === 'done',
    300_000,
  )
  const file = join(await mkdtemp(join(tmpdir(), 'aisle-file-')), 'film.mp4')
  await writeFile(file, await client.bytes(`/deliveries/${id}/file`))
  return file
}

/**
 * Brings a file into a talk.
 * @param wish what its address says besides, such as `?at=1`
 * @returns the talk once it was read, or refused
 */
export async function broughtInto(client: Client, talk: string, name: string, file: Uint8Array, wish = ''): Promise<TalkView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/imports${wish}`, fileForm(name, file))
  return await until(
    name,
    async () => {
      const now = await client.get<TalkView>('GET', `/talks/${talk}`)
      return ['done', 'failed'].includes(now.imports.find((one) => one.id === id)?.state ?? '') && now
    },
    120_000,
  )
}
