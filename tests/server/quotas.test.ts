import { randomUUID } from 'node:crypto'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { BegunView, CallView, TalkView } from '@contracts'
import { callFields } from '../harness/calls'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf, facedRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
let slide: string
beforeAll(async () => {
  product = await startProduct({ AISLE_TALK_QUOTA_GB: '0.0004', AISLE_PERSON_QUOTA_GB: '0.0006', AISLE_GUEST_QUOTA_GB: '0.0001' })
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Small')
  talk = made.talk
  slide = made.slides[0] ?? ''
})
afterAll(async () => {
  await product.stop()
})

const openTake = async (id: string): Promise<{ readonly status: number; readonly body: unknown }> =>
  client.ask('PUT', `/talks/${talk}/takes/${id}`, { kind: 'full', intent: { kind: 'replaceAll' } })
const send = (stretch: string, n: number, bytes: Buffer) =>
  client.ask('PUT', `/stretches/${stretch}/chunks/${String(n)}`, new Uint8Array(bytes), {
    'x-aisle-chunks': `${String(bytes.length)}:${digestOf(bytes)}`,
    'content-type': 'application/octet-stream',
  })

describe('a talk that is full', () => {
  it('takes no more in and says what can be done, and what it holds stays', async () => {
    const answer = await client.ask('POST', `/talks/${talk}/imports`, fileForm('large.pdf', new Uint8Array(500_000).fill(32)))
    expect([answer.status, sentenceOf(answer.body)]).toEqual([413, expect.stringMatching(/^This talk holds .* Nothing was changed\.$/)])
    expect((await client.get<TalkView>('GET', `/talks/${talk}`)).slides).toHaveLength(3)
    // Nor does what arrived stay on the disk.
    expect(await readdir(join(product.data, 'store', 'uploads'))).toEqual([])
  })

  it('lets a take under way go on, counts what comes once, and begins no other', async () => {
    const [take, stretch] = [randomUUID(), randomUUID()]
    expect((await openTake(take)).status).toBe(200)
    await client.get('PUT', `/stretches/${stretch}`, {
      take,
      number: 0,
      camera: true,
      voice: true,
      mime: 'video/webm',
      opening: { slide, step: 0, blank: false, inset: true, ink: [] },
    })
    const media = await facedRecording(6, 'teal', 60)
    expect(media.length).toBeGreaterThan(400_000)
    for (const n of [0, 0, 1, 0]) expect((await send(stretch, n, media)).status).toBe(200)
    expect((await product.db.selectFrom('stretch').select('bytes').where('id', '=', stretch).executeTakeFirstOrThrow()).bytes).toBe(
      2 * media.length,
    )
    const another = await openTake(randomUUID())
    expect([another.status, sentenceOf(another.body)]).toEqual([413, expect.stringMatching(/^This talk holds .* takes of it/)])
    // The person's other talks have no room left either.
    const other = await client.get<{ id: string }>('POST', '/talks', { name: 'Other', limit: null })
    const refused = await client.ask('PUT', `/talks/${other.id}/takes/${randomUUID()}`, { kind: 'full', intent: { kind: 'replaceAll' } })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([413, expect.stringMatching(/^Your talks hold /)])
  })

  it('keeps no recording that is longer than any take, and loses nothing of what came', async () => {
    const { id: stretch } = await product.db.selectFrom('stretch').select('id').executeTakeFirstOrThrow()
    await product.db.updateTable('stretch').set({ bytes: 15_999_999_900 }).where('id', '=', stretch).execute()
    const answer = await send(stretch, 2, Buffer.alloc(200))
    expect([answer.status, sentenceOf(answer.body)]).toEqual([413, expect.stringMatching(/all that has come is safe/)])
    expect((await client.get<{ chunks: number[] }>('GET', `/stretches/${stretch}`)).chunks).toEqual([0, 1])
  })
})

describe('somebody without an account', () => {
  it('who takes part in a call keeps as much as guests may', async () => {
    const call = await client.get<CallView>('POST', '/calls', callFields())
    const pupil = new Client(product.url)
    const begun = { name: 'Ilse Rook', address: null }
    const { talk: own } = await pupil.get<BegunView>('POST', `/entrances/${call.link.split('/').at(-1) ?? ''}/begin`, begun)
    const answer = await pupil.ask('POST', `/talks/${own}/imports`, fileForm('large.pdf', new Uint8Array(200_000).fill(32)))
    expect([answer.status, sentenceOf(answer.body)]).toEqual([413, expect.stringMatching(/^Your talks hold .* Nothing was changed\.$/)])
  })
})
