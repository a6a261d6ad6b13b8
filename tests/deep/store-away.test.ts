import { readFile } from 'node:fs/promises'
import { sql } from 'kysely'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { startObjects } from '../harness/object-store'
import type { ObjectService } from '../harness/object-store'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { openTake, toneRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let objects: ObjectService
let product: Product
let client: Client
beforeAll(async () => {
  objects = await startObjects()
  product = await startProduct(objects.settings)
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
  await objects.close()
})

const LENGTH = 3000

it('calls nothing safe while its object store is away, and loses nothing once that is back', async () => {
  const { talk, slides } = await knotsTalk(client, 'Away')
  const { take, stretch, send } = await openTake(client, talk, slides[0] ?? '')
  const media = await toneRecording(LENGTH / 1000)
  const middle = media.length >> 1
  const [first, second] = [media.subarray(0, middle), media.subarray(middle)]
  expect(await send(client, 0, first)).toBe(200)

  await objects.goAway()
  // Nobody is told that it is there; the page keeps it and sends it again.
  expect(await send(client, 1, second)).toBeGreaterThanOrEqual(500)
  expect((await fetch(`${product.url}/api/health`)).status).toBe(200)
  expect((await fetch(`${product.url}/api/ready`)).status).toBe(503)
  await client.get('GET', `/talks/${talk}`)

  await objects.comeBack()
  expect(await send(client, 1, second)).toBe(200)
  await client.get('POST', `/stretches/${stretch}/close`, { chunks: 2, cues: 0, length: LENGTH })

  // Away once more while the take is closed: that is tried again.
  await objects.goAway()
  const answer = await client.ask('POST', `/takes/${take}/finish`)
  expect([answer.status, sentenceOf(answer.body)]).toEqual([200, ''])
  await until('a try without the store', async () => {
    const { rows } = await sql`select 1 from graphile_worker.jobs where last_error is not null`.execute(product.db)
    return rows.length > 0
  })
  await objects.comeBack()
  await until('the take', async () => {
    const { takes } = await client.get<TalkView>('GET', `/talks/${talk}`)
    return takes.find((one) => one.id === take)?.state === 'closed'
  })
  expect(await readFile(objects.fileOf(`stretches/${stretch}/raw.webm`))).toEqual(media)
})
