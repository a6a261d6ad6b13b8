import { randomUUID } from 'node:crypto'
import { appendFile, mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Migrator } from 'kysely'
import type { DeliveryView, FilmView, TalkCard, TakeView, TalkView } from '@contracts'
import { connect } from '@server/database/connect'
import { migrations } from '@server/database/migrations'
import { Client } from '../harness/client'
import { freePort, startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf, openTake, sendTake, toneRecording } from '../harness/recording'
import type { OpenTake } from '../harness/recording'
import { delivered, knotsTalk } from '../harness/talks'

const run = promisify(execFile)
let folder: string
let product: Product
let client: Client
let talk: string
let slide: string
let open: OpenTake
let media: Buffer

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-backup-'))
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Knots to keep')
  talk = made.talk
  slide = made.slides[0] ?? ''
  media = await toneRecording(4)
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 4000, slide }])
  await delivered(client, talk)
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

/** Runs a command on a data folder and a database. */
const command = async (name: 'backup' | 'restore', data: string, databaseUrl: string, ...args: string[]): Promise<string> => {
  const env = { ...process.env, AISLE_DATA: data, DATABASE_URL: databaseUrl }
  const { stdout } = await run(process.execPath, ['--import', 'tsx', `scripts/${name}.ts`, '--data', data, ...args], { env })
  return stdout
}
const failing = (work: Promise<string>): Promise<string> =>
  work.then(
    () => 'it worked',
    (error: unknown) => (error as { stderr: string }).stderr,
  )

/** An empty database beside those of the products. */
async function emptyDatabase(): Promise<string> {
  const name = `aisle_${randomUUID().replaceAll('-', '').slice(0, 12)}`
  const admin = new pg.Client({ connectionString: product.databaseUrl })
  await admin.connect()
  await admin.query(`create database ${name}`)
  await admin.end()
  return product.databaseUrl.replace(/\/[^/]+$/, `/${name}`)
}

const half = (n: 0 | 1): Buffer => (n === 0 ? media.subarray(0, media.length / 2) : media.subarray(media.length / 2))

describe('a backup', () => {
  const root = () => join(folder, 'backups')

  it('is made while somebody records, and copies only what is new', async () => {
    open = await openTake(client, talk, slide)
    expect(await open.send(client, 0, half(0))).toBe(200)
    const first = await command('backup', product.data, product.databaseUrl, '--to', root())
    expect(first).toMatch(/\d+ files, .* MB, [1-9]\d* of them new\.$/m)
    const again = await command('backup', product.data, product.databaseUrl, '--to', root())
    expect(again).toMatch(/, 0 of them new\.$/m)
    const once = await command('backup', product.data, product.databaseUrl, '--to', root(), '--keep', '1')
    expect(once).toMatch(/ 0 of them new/)
    expect(await readdir(join(root(), 'backups'))).toHaveLength(1)
  })

  it('comes back whole in an empty folder, on the same program: files are the same, and the take that was under way goes on', async () => {
    const film = (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`))[0]
    const bytes = await client.bytes(`/deliveries/${film?.id ?? ''}/file`)
    await product.kill('server')
    await product.kill('worker')
    const [data, databaseUrl] = [join(folder, 'restored'), await emptyDatabase()]
    expect(await command('restore', data, databaseUrl, '--from', root())).toContain('each held against its digest')
    const restored = await startProduct({ AISLE_DATA: data, DATABASE_URL: databaseUrl })
    try {
      const there = new Client(restored.url)
      expect((await there.get<TalkCard[]>('GET', '/talks')).map(({ name }) => name)).toEqual(['Knots to keep'])
      expect(digestOf(await there.bytes(`/deliveries/${film?.id ?? ''}/file`))).toBe(digestOf(bytes))
      const { programme } = await there.get<FilmView>('GET', `/talks/${talk}/film`)
      expect(programme.pieces).toHaveLength(1)
      const { take, stretch, send } = open
      expect(await send(there, 1, half(1))).toBe(200)
      await there.get('POST', `/stretches/${stretch}/close`, { chunks: 2, cues: 0, length: 4000 })
      await there.get('POST', `/takes/${take}/finish`)
      const state = await until('the take', async () => {
        const { takes } = await there.get<TalkView>('GET', `/talks/${talk}`)
        const found: TakeView | undefined = takes.find(({ id }) => id === take)
        return found?.state === 'closed' && found
      })
      expect(state.length).toBeGreaterThan(3000)
    } finally {
      await restored.stop()
    }
    // Over what is there nothing is laid.
    expect(await failing(command('restore', data, databaseUrl, '--from', root()))).toContain('There are talks in')
  })

  it('that is damaged says which file, and one of a newer version is not brought back', async () => {
    const content = (await readdir(join(root(), 'content'), { recursive: true, withFileTypes: true })).find((entry) => entry.isFile())
    await appendFile(join(content?.parentPath ?? '', content?.name ?? ''), 'x')
    const data = join(folder, 'damaged')
    expect(await failing(command('restore', data, await emptyDatabase(), '--from', root()))).toMatch(/lost: .*\n1 files of the backup/)
    const [name = ''] = await readdir(join(root(), 'backups'))
    const head = join(root(), 'backups', name, 'backup.json')
    const text = JSON.parse(await readFile(head, 'utf8')) as object
    await writeFile(head, JSON.stringify({ ...text, schema: ['9999-later'] }))
    expect(await failing(command('restore', join(folder, 'newer'), await emptyDatabase(), '--from', root()))).toContain(
      'of a newer version (9999-later)',
    )
  })

  it('of an older version is brought up to date once it is back', async () => {
    const [old, oldData] = [await emptyDatabase(), join(folder, 'old')]
    const { db, pool } = connect(old, () => undefined)
    const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve({ ...migrations }) } })
    const { error } = await migrator.migrateTo('0037-drawings')
    expect(error).toBeUndefined()
    await pool.query(`insert into person (id, name) values ('00000000-0000-4000-8000-000000000001', 'You')`)
    await pool.query(`insert into talk (id, owner, name, shape, recipe)
      values (gen_random_uuid(), '00000000-0000-4000-8000-000000000001', 'Old tides', '{"width":16,"height":9}', '{"lines":720}')`)
    await pool.end()
    await command('backup', oldData, old, '--to', join(folder, 'old-backups'))
    const [data, databaseUrl] = [join(folder, 'old-restored'), await emptyDatabase()]
    await command('restore', data, databaseUrl, '--from', join(folder, 'old-backups'))
    const env = { ...process.env, AISLE_DATA: data, DATABASE_URL: databaseUrl, AISLE_PORT: String(await freePort()) }
    await run(process.execPath, ['--import', 'tsx', 'scripts/migrate.ts'], { env })
    const restored = await startProduct({ AISLE_DATA: data, DATABASE_URL: databaseUrl })
    try {
      expect((await new Client(restored.url).get<TalkCard[]>('GET', '/talks')).map(({ name }) => name)).toEqual(['Old tides'])
    } finally {
      await restored.stop()
    }
  })
})
