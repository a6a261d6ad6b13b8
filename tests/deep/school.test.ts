import { execFile } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtemp, readdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import pg from 'pg'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { DeliveryView, FilmView, SessionView, TalkCard, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { startIdentityProvider } from '../harness/identity-provider'
import type { IdentityProvider } from '../harness/identity-provider'
import { startObjects } from '../harness/object-store'
import type { ObjectService } from '../harness/object-store'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { openProxy, stubborn } from '../harness/proxy'
import type { Proxy } from '../harness/proxy'
import { digestOf, openTake, toneRecording } from '../harness/recording'
import { delivered, knotsTalk } from '../harness/talks'

const run = promisify(execFile)
const PASSWORD = 'heron lantern gravel'
const PIECES = 16

let folder: string
let objects: ObjectService
let provider: IdentityProvider
let proxy: Proxy
let product: Product

/** Runs a command as an operator does, with the settings of the servers. */
async function command(name: string, settings: Readonly<Record<string, string>>, ...args: readonly string[]): Promise<string> {
  const env = { ...process.env, AISLE_PUBLIC_ADDRESS: proxy.url, AISLE_ACCOUNTS: 'on', ...settings }
  const { stdout } = await run(process.execPath, ['--import', 'tsx', `scripts/${name}.ts`, ...args], { env })
  return stdout.trim()
}

/** What servers, workers and commands are set to alike. */
const shared = (store: string) => ({
  ...objects.settings,
  ...provider.settings,
  AISLE_STORE: store,
  AISLE_ACCOUNTS: 'on',
  AISLE_PUBLIC_ADDRESS: proxy.url,
  AISLE_TRUSTED_PROXIES: '1',
  NUXT_SESSION_PASSWORD: 'a secret of all machines of this school',
})

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-school-'))
  objects = await startObjects()
  provider = await startIdentityProvider({ ilse: { name: 'Ilse Brandt', email: 'ilse@harbour.example', email_verified: true } })
  proxy = await openProxy()
  provider.sendsBackTo(proxy.url)
  product = await startProduct(shared('s3://talks/school'))
  for (const more of ['second server', 'second worker'] as const) await product.start(more)
  await proxy.before(product)
})
afterAll(async () => {
  await product.stop()
  await proxy.close()
  await provider.close()
  await objects.close()
  await rm(folder, { recursive: true, force: true })
})

/** A take of a talk that is sent piece by piece, and made into a file. */
async function presents(client: Client, name: string, between: (piece: number) => Promise<void>): Promise<string> {
  const { talk, slides } = await knotsTalk(client, name)
  const media = await toneRecording(6)
  const { take, stretch, send } = await openTake(client, talk, slides[0] ?? '')
  const size = Math.ceil(media.length / PIECES)
  for (let n = 0; n < PIECES; n += 1) {
    await between(n)
    await stubborn(async () => (await send(client, n, media.subarray(n * size, (n + 1) * size))) === 200)
  }
  await stubborn(() => client.get('POST', `/stretches/${stretch}/close`, { chunks: PIECES, cues: 0, length: 6000 }))
  await stubborn(() => client.get('POST', `/takes/${take}/finish`))
  await until('the take', async () => {
    const { takes } = await stubborn(() => client.get<TalkView>('GET', `/talks/${talk}`))
    return takes.find(({ id }) => id === take)?.state === 'closed'
  })
  return talk
}

it('goes on on several machines whatever ends, and comes back from a backup when all of it is gone', async () => {
  const own = { AISLE_DATA: product.data, DATABASE_URL: product.databaseUrl }
  const link = await command('people', { ...shared('s3://talks/school'), ...own }, 'invite', 'maren@harbour.example', '--operator')
  const maren = new Client(proxy.url)
  await maren.get('POST', '/person-links/join', { key: link.split('#')[1], name: 'Maren Holt', password: PASSWORD })
  const { link: invitation } = await maren.get<{ link: string }>('POST', '/operator/people', {
    email: 'wenna@harbour.example',
    operator: false,
  })
  const wenna = new Client(proxy.url)
  await wenna.get('POST', '/person-links/join', { key: invitation.split('#')[1], name: 'Wenna Sole', password: PASSWORD })
  const ilse = new Client(proxy.url)
  ilse.take((await provider.go(proxy.url, 'ilse')).cookie)
  expect((await ilse.get<SessionView>('GET', '/session')).person?.name).toBe('Ilse Brandt')

  const talks = await Promise.all([
    presents(wenna, 'Bends for a rope', async (piece) => {
      if (piece === 6) await product.kill('server')
      if (piece === 12) await product.kill('worker')
    }),
    presents(ilse, 'Hitches for a post', () => Promise.resolve()),
  ])
  for (const [client, name] of [
    [wenna, 'Wenna Sole'],
    [ilse, 'Ilse Brandt'],
  ] as const)
    expect((await stubborn(() => client.get<SessionView>('GET', '/session'))).person?.name).toBe(name)
  await product.start('server')
  await delivered(wenna, talks[0])
  const film = (await wenna.get<DeliveryView[]>('GET', `/talks/${talks[0]}/deliveries`))[0]?.id ?? ''
  const bytes = digestOf(await wenna.bytes(`/deliveries/${film}/file`))

  const backups = join(folder, 'backups')
  expect(await command('backup', { ...shared('s3://talks/school'), ...own }, '--data', product.data, '--to', backups)).toMatch(
    /of them new\.$/,
  )
  const { databaseUrl } = product
  await proxy.close()
  await product.stop()
  for (const gone of await readdir(objects.folder)) await rm(join(objects.folder, gone), { recursive: true })
  const name = `aisle_${randomUUID().replaceAll('-', '').slice(0, 12)}`
  const again = { AISLE_DATA: join(folder, 'restored'), DATABASE_URL: databaseUrl.replace(/\/[^/]+$/, `/${name}`) }
  const admin = new pg.Client({ connectionString: again.DATABASE_URL.replace(/\/[^/]+$/, '/aisle') })
  await admin.connect()
  await admin.query(`create database ${name}`)
  await admin.end()
  proxy = await openProxy()
  provider.sendsBackTo(proxy.url)
  const restored = { ...shared('s3://talks/again'), ...again }
  expect(await command('restore', restored, '--from', backups, '--data', again.AISLE_DATA)).toContain('each held against its digest')

  product = await startProduct(restored)
  await product.start('second server')
  await proxy.before(product)
  const back = new Client(proxy.url)
  await back.get('POST', '/session', { email: 'wenna@harbour.example', password: PASSWORD })
  expect((await back.get<TalkCard[]>('GET', '/talks')).map((card) => card.name)).toEqual(['Bends for a rope'])
  expect(digestOf(await back.bytes(`/deliveries/${film}/file`))).toBe(bytes)
  const { programme } = await back.get<FilmView>('GET', `/talks/${talks[0]}/film`)
  expect(programme.pieces).toHaveLength(1)
  const other = new Client(proxy.url)
  other.take((await provider.go(proxy.url, 'ilse')).cookie)
  // What was recorded can be made into a file there.
  await delivered(other, talks[1])
})
