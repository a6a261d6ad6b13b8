import { randomUUID } from 'node:crypto'
import { chmod, mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Migrator, sql } from 'kysely'
import { max } from 'd3'
import { connect, migrate } from '@server/database/connect'
import type { Database } from '@server/database/connect'
import { migrations } from '@server/database/migrations'
import { startCluster } from '../scripts/start/postgres'
import { copyTalks } from '../tests/harness/many-talks'
import { sleep } from '../tests/harness/timed-take'
import type { Figure } from './figure'

/** The version before the last upgrades, and how many talks it has. */
const BEFORE = '0037-drawings'
const TALKS = 50_000
const PEOPLE = 500
const REVISIONS = 4
/** What a programme of some length takes as text, in pieces. */
const PIECES = 40
/** Nobody may wait longer for an answer while the schema is brought up to date, in ms. */
const MOST_WAIT = 1000

/** Puts in one talk as the first version had it; later versions bring it up to date. */
async function firstTalk(db: Database): Promise<string> {
  const [person, talk, slide, take] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
  const framing = { rect: { x: 0.1, y: 0.2, w: 0.2, h: 0.3 }, outline: 'round', mirrored: true, off: false }
  const pieces = Array.from({ length: PIECES }, (_, n) => ({ kind: 'still', id: randomUUID(), slide, step: 0, length: 1500 + n }))
  await db.transaction().execute(async (q) => {
    await sql`insert into person (id, name) values (${person}, 'Maren')`.execute(q)
    await sql`insert into talk (id, owner, name, shape, recipe) values (${talk}, ${person}, 'Knots', '{"width": 16, "height": 9}',
      '{}')`.execute(q)
    await sql`insert into slide (id, talk, position, version, title, notes, skip) values (${slide}, ${talk}, 0, 1, 'Bowline', 'over',
      false)`.execute(q)
    await sql`insert into slide_version (slide, version, steps, framing) values (${slide}, 1, '[{}]', ${JSON.stringify(framing)})`.execute(
      q,
    )
    await sql`insert into take (id, talk, kind, intent, state) values (${take}, ${talk}, 'full', '{"kind": "replaceAll"}',
      'closed')`.execute(q)
    for (let revision = 1; revision <= REVISIONS; revision += 1)
      await sql`insert into programme (talk, revision, value, reason) values (${talk}, ${revision}, ${JSON.stringify({ pieces })},
        ${`take ${take}`})`.execute(q)
  })
  return talk
}

/** How long people wait who read and change talks, in ms, until it is over. */
async function waits(url: string, talk: string, over: () => boolean): Promise<readonly number[]> {
  const { db, pool } = connect(url, () => undefined)
  const found: number[] = []
  await sql`select 1`.execute(db)
  while (!over()) {
    const began = performance.now()
    await sql`select * from talk where id = ${talk}`.execute(db)
    await sql`select value from programme where talk = ${talk} order by revision desc limit 1`.execute(db)
    await sql`update talk set changed = now() where id = ${talk}`.execute(db)
    await sql`select * from person limit 1`.execute(db)
    found.push(performance.now() - began)
    await sleep(5)
  }
  await pool.end()
  return found
}

/** How long anybody waits for an answer while a database of 50,000 talks is brought up to date. */
export async function measure(): Promise<Figure> {
  const data = await mkdtemp(join(tmpdir(), 'aisle-upgrade-'))
  await chmod(data, 0o755)
  const cluster = await startCluster(data)
  const { db, pool } = connect(cluster.url, () => undefined)
  try {
    const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve({ ...migrations }) } })
    await migrator.migrateTo('0001-first')
    const talk = await firstTalk(db)
    await migrator.migrateTo(BEFORE)
    await copyTalks(db, talk, TALKS, PEOPLE, 0)
    const rows = await sql<{ size: string }>`select pg_size_pretty(pg_database_size(current_database())) as size`.execute(db)
    let done = false
    const waiting = waits(cluster.url, talk, () => done)
    const began = performance.now()
    const run = await migrate(db)
    const took = performance.now() - began
    done = true
    const found = await waiting
    const longest = Math.round(max(found) ?? 0)
    return {
      value: longest,
      unit: 'ms that somebody waits at most',
      target: `≤ ${String(MOST_WAIT)}`,
      ok: longest <= MOST_WAIT,
      detail: { from: BEFORE, run, took: Math.round(took), answers: found.length, talks: TALKS, size: rows.rows[0]?.size },
    }
  } finally {
    await pool.end()
    cluster.stop()
    await rm(data, { recursive: true, force: true })
  }
}
