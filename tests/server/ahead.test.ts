import { randomUUID } from 'node:crypto'
import { readFile, readdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string

beforeAll(async () => {
  product = await startProduct({ AISLE_MAKE_AHEAD_SECONDS: '1' })
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Ahead')
  talk = made.talk
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    { media: await facedRecording(6, 'magenta'), camera: true, length: 6000, slide: made.slides[0] ?? '', cues: [] },
  ])
})
afterAll(async () => {
  await product.stop()
})

const segments = async (): Promise<number> =>
  (await readdir(join(product.data, 'store', 'segments')).catch(() => [])).filter((name) => name.endsWith('.h264')).length
const idle = () =>
  until('nothing left to make ahead', async () => {
    const {
      rows: [row],
    } = await sql<{ count: string }>`select count(*) from graphile_worker.jobs where task_identifier = 'make-ahead'`.execute(product.db)
    return Number(row?.count) === 0 && (await segments()) > 0
  })
const recipe = async () => (await client.get<TalkView>('GET', `/talks/${talk}`)).recipe

/** Has the talk's file made. */
async function file(): Promise<DeliveryView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, await recipe())
  return await until('the file', async () =>
    (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id && one.state === 'done'),
  )
}

describe('what is made ahead', () => {
  it('leaves nothing to encode when the file is asked for', async () => {
    await idle()
    const made = await file()
    expect(made.facts?.encoded).toBe(0)
    expect(made.facts?.frames).toBe(180)
  })

  it('leaves no sound to measure either, and has it measured again when its note is gone', async () => {
    await idle()
    const { facts } = await file()
    const folder = join(product.data, 'store', 'segments')
    const note = join(folder, (await readdir(folder)).find((name) => name.endsWith('.loudness')) ?? '')
    expect(JSON.parse(await readFile(note, 'utf8'))).toEqual({ integrated: facts?.loudness, truePeak: facts?.truePeak })
    await writeFile(note, JSON.stringify({ integrated: -16.7, truePeak: -3.1 }))
    expect((await file()).facts).toMatchObject({ loudness: -16.7, truePeak: -3.1 })
    await writeFile(note, '{"integr')
    expect((await file()).facts).toMatchObject({ loudness: facts?.loudness, truePeak: facts?.truePeak })
  })

  it('makes way while somebody records, and goes on afterwards', async () => {
    await idle()
    const before = await segments()
    const take = randomUUID()
    const seen = () =>
      client.get('PUT', `/talks/${talk}/takes/${take}`, {
        kind: 'full',
        intent: { kind: 'replaceAll' },
        place: { browser: randomUUID(), name: 'a laptop' },
      })
    await seen()
    await client.get('PUT', `/talks/${talk}/recipe`, { ...(await recipe()), lines: 480 })
    // It is tried, and put off, more than once.
    const tried = async () =>
      (
        await sql<{ at: Date }>`select run_at as at from graphile_worker.jobs where task_identifier = 'make-ahead'`.execute(product.db)
      ).rows[0]?.at.getTime() ?? 0
    const first = await tried()
    await until('it to be put off', async () => {
      await seen()
      return (await tried()) > first + 1500
    })
    expect(await segments()).toBe(before)
    await client.get('DELETE', `/takes/${take}`)
    await idle()
    expect(await segments()).toBeGreaterThan(before)
  })
})
