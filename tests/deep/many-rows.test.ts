import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FilmView, TalkCard, TalkCount, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { explained } from '../harness/explained'
import type { Explained } from '../harness/explained'
import { LARGE, copyTalks } from '../harness/many-talks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { openTake, sendTake, toneRecording } from '../harness/recording'
import { shareTalk } from '../harness/screening'
import { delivered, knotsTalk } from '../harness/talks'

const COPIES = 50_000
const OWN = 100

let product: Product
let client: Client
let talk: string
let slide: string
let key: string
let plans: Explained
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Knots for the harbour')
  talk = made.talk
  slide = made.slides[0] ?? ''
  const media = await toneRecording(2)
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 2000, slide }])
  await delivered(client, talk)
  ;({ key } = await shareTalk(client, talk))
  await copyTalks(product.db, talk, COPIES, 500, OWN)
  plans = await explained(product)
}, 600_000)
afterAll(async () => {
  await product.stop()
})

describe('a server of 50,000 talks', () => {
  it('shows a page of them in each order, and finds by words, as they are now', async () => {
    const cards = (query: string) => client.get<TalkCard[]>('GET', `/talks?${query}`)
    expect(await client.get<TalkCount>('GET', '/talks/count?words=talk%201')).toEqual({ all: OWN + 1, found: 20, examples: false })
    expect((await cards('order=changed&most=3')).map(({ name }) => name)).toEqual(['Knots for the harbour', 'Talk 1', 'Talk 2'])
    expect((await cards('order=name&words=talk&from=9&most=2')).map(({ name }) => name)).toEqual(['Talk 10', 'Talk 11'])
    expect((await cards('words=HARBOUR%20knots')).map(({ name }) => name)).toEqual(['Knots for the harbour'])
    // A file less to hand over, and it waits for one again: before those whose file is there.
    const [copy] = await cards('words=talk%2030&most=1')
    const { deliveries } = copy ?? { deliveries: -1 }
    expect(deliveries).toBe(1)
    expect((await cards('order=waiting&most=1'))[0]?.name).not.toBe('Talk 30')
    await product.db
      .deleteFrom('delivery')
      .where('talk', '=', copy?.id ?? '')
      .execute()
    await client.get('PATCH', `/talks/${copy?.id ?? ''}`, { name: 'Talk thirty' })
    expect((await cards('order=waiting&most=1')).map(({ name, deliveries: left }) => [name, left])).toEqual([['Talk thirty', 0]])
    // What begins stands there at once, and what was deleted does not.
    const { id } = await client.get<{ id: string }>('POST', '/talks', { name: 'Fresh', limit: null })
    expect((await cards('words=fresh')).map(({ timelineBlocks }) => timelineBlocks)).toEqual([[]])
    await client.get('DELETE', `/talks/${id}`)
    expect(await cards('words=fresh')).toEqual([])
  })

  it('answers all that is asked often without reading all rows of a large table', async () => {
    await client.get('GET', '/session')
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    await client.get('POST', `/talks/${talk}/deck`, {
      revision: view.revision,
      edit: { kind: 'set', slides: [slide], fields: { title: 'Bowline, tied twice' } },
    })
    await client.get('POST', `/talks/${talk}/programme`, {
      revision: film.programme.revision,
      author: randomUUID(),
      edit: { kind: 'cut', parts: [{ from: 100, to: 400 }] },
    })
    await client.get('GET', `/talks/${talk}/deliveries`)
    await client.get('GET', `/talks/${talk}/programme/history?browser=${randomUUID()}`)
    await client.get('GET', '/account')
    const { send } = await openTake(client, talk, slide)
    const media = await toneRecording(1)
    for (const n of [0, 1]) expect(await send(client, n, media)).toBe(200)
    await client.get('GET', `/screenings/${key}`)
    await client.get('GET', `/screenings/${key}/state`)
    await client.get('GET', '/shelf')
    await until('what was asked to be explained', async () => (await plans.count()) > 50)
    expect(await plans.scans(LARGE)).toEqual([])
  })
})
