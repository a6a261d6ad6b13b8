import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView, Readiness, ServerState, TalkView } from '@contracts'
import { programFile } from '../../scripts/start/programs'
import { Client, sentenceOf } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

const WORD = 'the word of the watchers'
const PASSWORD = 'heron lantern gravel'
let product: Product
let [maren, wenna] = [new Client(''), new Client('')]
/** A recorded talk of each. */
let [hers, theirs] = ['', '']

async function signedUp(name: string): Promise<Client> {
  const client = new Client(product.url)
  const email = `${name}@harbour.example`
  await client.get('POST', '/people', { name, email, password: PASSWORD })
  await client.get('POST', '/session', { email, password: PASSWORD })
  return client
}

async function recorded(client: Client, name: string): Promise<string> {
  const { talk, slides } = await knotsTalk(client, name)
  const media = await toneRecording(2)
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 2000, slide: slides[0] ?? '' }])
  return talk
}

beforeAll(async () => {
  product = await startProduct({
    AISLE_ACCOUNTS: 'on',
    AISLE_SIGN_UP: 'open',
    AISLE_QUEUES: 'films=1',
    AISLE_METRICS_WORD: WORD,
    AISLE_FREE_FLOOR_MB: '1',
  })
  maren = await signedUp('maren')
  wenna = await signedUp('wenna')
  ;[hers, theirs] = [await recorded(maren, 'Tides'), await recorded(wenna, 'Ropes')]
})
afterAll(async () => {
  await product.stop()
})

const order = (client: Client, talk: string, name: string, starts?: Date): Promise<{ readonly id: string }> =>
  client.get('POST', `/talks/${talk}/deliveries`, {
    lines: 480,
    quality: 'good',
    name,
    limit: { kind: 'none' },
    ...(starts === undefined ? {} : { starts: starts.toISOString() }),
  })
const files = (client: Client, talk: string): Promise<DeliveryView[]> => client.get('GET', `/talks/${talk}/deliveries`)

/** Names of waiting films in the order in which they would be made. */
async function turns(): Promise<readonly string[]> {
  const { rows } = await sql<{ file: string }>`select file from graphile_worker.jobs
    join delivery on jobs.key = 'deliver:' || delivery.id where jobs.locked_at is null and delivery.state = 'queued'
    order by jobs.priority, jobs.run_at, jobs.id`.execute(product.db)
  return rows.map(({ file }) => file.replace('.mp4', ''))
}

describe('films', () => {
  it('are made in turn among people, however many each ordered; put first is among one’s own', async () => {
    await product.kill('worker')
    for (const name of ['a1', 'a2', 'a3', 'a4']) await order(maren, hers, name)
    for (const name of ['b1', 'b2']) await order(wenna, theirs, name)
    expect(await turns()).toEqual(['a1', 'b1', 'a2', 'b2', 'a3', 'a4'])
    const last = (await files(maren, hers)).find(({ file }) => file === 'a4.mp4')
    await maren.get('POST', `/deliveries/${last?.id ?? ''}/first`)
    expect(await turns()).toEqual(['b1', 'a4', 'a1', 'b2', 'a2', 'a3'])
    // One that is taken back leaves its turn to the next of the same person.
    const first = (await files(wenna, theirs)).find(({ file }) => file === 'b1.mp4')
    await wenna.get('POST', `/deliveries/${first?.id ?? ''}/cancel`)
    expect((await turns()).slice(0, 2).sort()).toEqual(['a4', 'b2'])
  })

  it('hold up no take, though the one worker makes them', async () => {
    await product.start('worker')
    await until('a film under way', async () => (await files(maren, hers)).some(({ state }) => state === 'making'))
    const media = await toneRecording(1)
    const { slides } = await wenna.get<TalkView>('GET', `/talks/${theirs}`)
    await sendTake(wenna, theirs, 'full', { kind: 'append' }, [{ media, length: 1000, slide: slides[0]?.id ?? '' }])
    expect((await files(maren, hers)).some(({ state }) => state === 'queued' || state === 'making')).toBe(true)
    await until('all films', async () =>
      [...(await files(maren, hers)), ...(await files(wenna, theirs))].every(({ state }) => state === 'done' || state === 'cancelled'),
    )
  })
})

describe('a disk with less room than is kept for recordings', () => {
  it('has films wait until there is room, and takes are recorded and closed all the same', async () => {
    await product.kill('worker')
    const full = await startProduct({
      AISLE_DATA: product.data,
      DATABASE_URL: product.databaseUrl,
      AISLE_ACCOUNTS: 'on',
      AISLE_FREE_FLOOR_MB: '1000000',
    })
    let id = ''
    try {
      const client = new Client(full.url)
      await client.get('POST', '/session', { email: 'wenna@harbour.example', password: PASSWORD })
      ;({ id } = await order(client, theirs, 'later'))
      await until('the film to be put off', async () => {
        const { rows } = await sql`select 1 from graphile_worker.jobs where key = ${`deliver:${id}`} and run_at > now()`.execute(product.db)
        return rows.length === 1
      })
      const media = await toneRecording(1)
      const { slides } = await client.get<TalkView>('GET', `/talks/${theirs}`)
      await sendTake(client, theirs, 'full', { kind: 'append' }, [{ media, length: 1000, slide: slides[0]?.id ?? '' }])
      expect((await files(client, theirs)).find((file) => file.id === id)?.state).toBe('queued')
    } finally {
      await full.stop()
    }
    // It is looked at again after half a minute, which nobody need wait for here.
    await sql`select graphile_worker.reschedule_jobs(array_agg(id::bigint), run_at => now()) from graphile_worker.jobs
      where key = ${`deliver:${id}`}`.execute(product.db)
    await product.start('worker')
    await until('the film', async () => (await files(wenna, theirs)).find((file) => file.id === id)?.state === 'done')
  })
})

describe('how the server does', () => {
  it('is told to who brings the word, in the form that watchers read, without a name or an address', async () => {
    const nobody = await fetch(`${product.url}/api/metrics`, { headers: { authorization: `Bearer ${WORD}.` } })
    expect(nobody.status).toBe(404)
    const text = await (await fetch(`${product.url}/api/metrics`, { headers: { authorization: `Bearer ${WORD}` } })).text()
    expect(text).toMatch(/^aisle_jobs_waiting\{queue="films"\} 0$/m)
    expect(text).toMatch(/^aisle_workers [1-9]/m)
    expect(text).toMatch(/^aisle_request_seconds_count\{method="GET",route="\/api\/talks\/:talk\/deliveries",status="200"\} \d+$/m)
    expect(text).not.toMatch(/harbour\.example|Tides|Ropes/)
    expect(text).not.toContain(hers)
  })

  it('is seen on the page of operators', async () => {
    await product.db.updateTable('person').set({ operator: true }).where('email', '=', 'maren@harbour.example').execute()
    const state = await maren.get<ServerState>('GET', '/operator/state')
    expect(state).toMatchObject({ people: 2, talks: 2, recordings: 0 })
    expect(state.workers).toBeGreaterThan(0)
    expect(state.queues.map(({ name }) => name)).toEqual(['takes', 'decks', 'letters', 'films', 'listening', 'ahead'])
    expect(state.films.at(-1)?.made).toBe(6)
    expect(state.held.find(({ what }) => what === 'films')?.bytes).toBeGreaterThan(10_000)
  })

  it('is not served by a worker whose store is another one: that ends, and says why', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'aisle-other-store-'))
    const env = { ...process.env, AISLE_DATA: folder, DATABASE_URL: product.databaseUrl, AISLE_LOG: 'error' }
    const other = spawn(process.execPath, [programFile('worker')], { env, stdio: ['ignore', 'pipe', 'ignore'] })
    const [said, [code]] = await Promise.all([text(other.stdout), once(other, 'exit')])
    expect([code, said]).toEqual([1, expect.stringContaining('is not the one in which the media of this database are')])
    expect(await readFile(product.storedAt('identity'), 'utf8')).toBe(
      (await product.db.selectFrom('store_identity').selectAll().execute())[0]?.id,
    )
    await rm(folder, { recursive: true })
  })

  it('is another question than whether it answers: without a worker it is not ready', async () => {
    const ready = async () => {
      const answer = await fetch(`${product.url}/api/ready`)
      return [answer.status, (await answer.json()) as Readiness] as const
    }
    expect(await ready()).toEqual([200, { ready: true, database: true, schema: true, store: true, workers: true }])
    await product.kill('worker')
    await until('the worker to be missed', async () => (await ready())[0] === 503)
    expect((await ready())[1]).toEqual({ ready: false, database: true, schema: true, store: true, workers: false })
    expect((await fetch(`${product.url}/api/health`)).status).toBe(200)
    await product.db.deleteFrom('kysely_migration' as never).execute()
    expect((await ready())[1]).toMatchObject({ schema: false })
  })

  it('is asked under an id that answers and jobs name', async () => {
    const answer = await fetch(`${product.url}/api/session`)
    expect(answer.headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/)
    const refused = await maren.ask('POST', `/talks/${hers}/deliveries`, {})
    expect(sentenceOf(refused.body)).toContain('lines')
    await order(maren, hers, 'named')
    const { rows } = await sql<{ payload: { request?: string } }>`select payload from graphile_worker._private_jobs as jobs
      where key like 'deliver:%' order by id desc limit 1`.execute(product.db)
    expect(rows[0]?.payload.request).toMatch(/^[0-9a-f-]{36}$/)
  })
})
