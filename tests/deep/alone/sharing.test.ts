import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, EstimateView, TalkView } from '@contracts'
import { ClaimLost, Claims } from '@server/worker/claims'
import { Client } from '../../harness/client'
import { decodesClean } from '../../harness/film-file'
import { startProduct, until } from '../../harness/product'
import type { Product } from '../../harness/product'
import { facedRecording, sendTake } from '../../harness/recording'
import { knotsTalk } from '../../harness/talks'

let product: Product
let client: Client
let talk: string

beforeAll(async () => {
  product = await startProduct({ AISLE_ENCODER_THREADS: '1', AISLE_MAKE_AHEAD_SECONDS: '3600' })
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Shared')
  talk = made.talk
  const slides = made.slides
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await facedRecording(20, 'magenta', 80),
      camera: true,
      length: 20_000,
      slide: slides[0] ?? '',
      cues: Array.from({ length: 9 }, (_, n) => ({ kind: 'show', at: 2000 * (n + 1), slide: slides[(n + 1) % slides.length], step: 0 })),
    },
  ])
})
afterAll(async () => {
  await product.stop()
})

const delivery = async (id: string): Promise<DeliveryView | undefined> =>
  (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
const order = async (recipe: object): Promise<string> =>
  (
    await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
      quality: 'good',
      name: 'shared',
      limit: { kind: 'none' },
      ...recipe,
    })
  ).id
const finished = (id: string) =>
  until('the file', async () => {
    const now = await delivery(id)
    return now?.state === 'done' && now
  })

describe('what a worker does', () => {
  it('is claimed by one at a time, here and elsewhere, and is free again when that one is gone', async () => {
    const pool = new pg.Pool({ connectionString: product.databaseUrl })
    const [one, two] = [new Claims(pool, product.db), new Claims(pool, product.db)]
    const release = await one.hold('a part')
    expect(release).not.toBeNull()
    expect(await one.hold('a part')).toBeNull()
    expect(await two.hold('a part')).toBeNull()
    expect(await two.hold('another')).not.toBeNull()
    const waiting = two.claim('a part')
    await release?.()
    await waiting
    expect(await one.hold('a part')).toBeNull()
    await two.close()
    const before = await one.claim('a part')
    await product.db.transaction().execute((q) => before.stillHeld(q))
    // Its connection breaks, as when the database restarts: what it held is free, and it claims on another one.
    await pool.query(
      "select pg_terminate_backend(pid) from pg_locks where locktype = 'advisory' and database = (select oid from pg_database " +
        'where datname = current_database())',
    )
    const three = new Claims(pool, product.db)
    const after = await three.claim('a part')
    expect(after.number).toBeGreaterThan(before.number)
    // Whoever held it may go on, and puts its results nowhere.
    await expect(product.db.transaction().execute((q) => before.stillHeld(q))).rejects.toThrow(ClaimLost)
    await before.release()
    await product.db.transaction().execute((q) => after.stillHeld(q))
    let n = 0
    await until('another connection', async () => {
      n += 1
      return (await one.hold(`part ${String(n)}`)) !== null && (await three.hold(`part ${String(n)}`)) === null
    })
    await Promise.all([one.close(), three.close()])
    expect(pool.totalCount - pool.idleCount).toBe(0)
    await pool.end()
  })
})

describe('a delivery', () => {
  it('is shared by two workers, goes on when the one that helps is killed, and is the same as ever', async () => {
    await product.start('second worker')
    const id = await order({ lines: 720 })
    const helpers = async (): Promise<readonly string[]> =>
      (await product.db.selectFrom('delivery').select('helpers').where('id', '=', id).executeTakeFirstOrThrow()).helpers
    await until('somebody to help', async () => (await helpers()).length === 2)
    // It has done some of it before it is killed.
    const parts = (): Promise<readonly string[]> => readdir(join(product.data, 'store', 'segments'))
    const helped = await until(
      'a part that the helper makes',
      async () => (await parts()).find((name) => name.includes('.help.'))?.split('.help.')[0],
    )
    await until('it to be made', async () => (await parts()).includes(helped))
    await product.kill('second worker')
    const made = await finished(id)
    expect(made.facts?.frames).toBe(600)
    expect(made.facts?.encoded).toBeLessThan(600)
    expect(await decodesClean(join(product.data, 'store', 'deliveries', id, 'film.mp4'))).toBe(true)
    expect(
      (await readdir(join(product.data, 'store', 'segments'))).filter((name) => name.includes('.part') && !name.includes('help')),
    ).toEqual([])
  })
})

describe('what a file would cost', () => {
  it('is said by some of its own pictures once they were looked at, and comes to about that', async () => {
    const recipe = { ...(await client.get<TalkView>('GET', `/talks/${talk}`)).recipe, lines: 480, quality: 'fine', limit: { kind: 'none' } }
    await client.get('PUT', `/talks/${talk}/recipe`, recipe)
    const asked = () => client.get<EstimateView>('POST', `/talks/${talk}/estimate`, recipe)
    const { heard, end } = await client.listen()
    const first = await asked()
    expect(first.within.size).toBe(1)
    await until('a look at it', () => Promise.resolve(heard.some((told) => told.kind === 'estimate' && told.talk === talk)))
    end()
    const looked = await asked()
    expect(looked.within).toEqual({ size: 0.25, time: 0.3 })
    const made = await finished(await order({ lines: 480, quality: 'fine' }))
    const bytes = made.facts?.bytes ?? 0
    // This camera's noise is far from what is usual: only a look at it tells.
    expect(Math.abs(first.bytes - bytes) / bytes).toBeGreaterThan(Math.abs(looked.bytes - bytes) / bytes + 0.1)
    expect(Math.abs(looked.bytes - bytes) / bytes).toBeLessThan(0.25)
  })
})
