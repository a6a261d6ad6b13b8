import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { quantile } from 'd3'
import type { DeliveryView, TalkCard } from '@contracts'
import { connect } from '@server/database/connect'
import type { Database } from '@server/database/connect'
import { runningCluster } from '../scripts/start/postgres'
import { LARGE, copyTalks } from '../tests/harness/many-talks'
import { ask, sleep } from '../tests/harness/timed-take'
import { present, shared } from './present'
import { spentByParts } from './processes'
import { recordingOf } from './recorded'
import { startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import { viewersOf } from './viewers-of'
import type { Figure } from './figure'

const TALKS = 50_000
const PRESENTERS = 50
const VIEWERS = 300
const FILES = [
  { lines: 1080, quality: 'fine' },
  { lines: 1080, quality: 'good' },
  { lines: 720, quality: 'fine' },
  { lines: 720, quality: 'good' },
] as const
/** For how long, in s. */
const SPAN = Number(process.env['AISLE_MANY_SECONDS'] ?? 600)
const MOST_ACK = 2000
const MOST_ROUTE = 100

/** How long what is asked often takes, by route, in ms: each once a second. */
async function routes(
  product: RunningProduct,
  talk: string,
  key: string,
  end: number,
): Promise<Readonly<Record<string, readonly number[]>>> {
  const paths = {
    Talks: '/talks?order=waiting&most=60',
    talk: `/talks/${talk}`,
    film: `/talks/${talk}/film`,
    history: `/talks/${talk}/programme/history?browser=${randomUUID()}`,
    deliveries: `/talks/${talk}/deliveries`,
    screening: `/screenings/${key}`,
    state: `/screenings/${key}/state`,
  }
  const times: Record<string, number[]> = Object.fromEntries(Object.keys(paths).map((name) => [name, []]))
  while (performance.now() < end) {
    const began = performance.now()
    for (const [name, path] of Object.entries(paths)) {
      const asked = performance.now()
      const answer = await fetch(`${product.url}/api${path}`)
      await answer.arrayBuffer()
      times[name]?.push(answer.ok ? performance.now() - asked : Infinity)
    }
    const rest = 1000 - (performance.now() - began)
    if (rest > 0) await sleep(rest)
  }
  return times
}

/** How often all rows of a large table were read so far. */
async function scansOf(db: Database): Promise<number> {
  const { rows } = await sql<{ scans: number }>`select coalesce(sum(seq_scan), 0)::bigint as scans from pg_stat_user_tables
    where relname = any(${[...LARGE]}::text[])`.execute(db)
  return rows[0]?.scans ?? 0
}

const at = (times: readonly number[], share: number): number => Math.round(quantile([...times], share) ?? Infinity)

/** Many at once on one machine of two processors: who records, who watches, whose files are made, and who looks at their talks. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4391)
  const { db } = connect(runningCluster(product.data) ?? '', () => undefined)
  try {
    const [example] = (await ask<TalkCard[]>(product, 'GET', '/talks')).filter(({ name }) => name === 'The rule of twelfths')
    const talk = example?.id ?? ''
    const { key, media } = await shared(product, talk)
    await copyTalks(db, talk, TALKS, 500, PRESENTERS)
    const own = (await ask<TalkCard[]>(product, 'GET', '/talks?words=talk&order=name')).filter(({ name }) => /^Talk \d+$/.test(name))
    const recording = await recordingOf(SPAN)
    // Four that have no part in common.
    const ordered = await Promise.all(
      FILES.map(
        async (recipe) =>
          (await ask<{ id: string }>(product, 'POST', `/talks/${talk}/deliveries`, { ...recipe, name: 'many', limit: { kind: 'none' } }))
            .id,
      ),
    )
    const [scans, before] = [await scansOf(db), spentByParts(product.data)]
    const end = performance.now() + SPAN * 1000
    const [watched, asked, ...acks] = await Promise.all([
      viewersOf(`${product.url}${media}`, VIEWERS, SPAN),
      routes(product, talk, key, end),
      ...own
        .slice(0, PRESENTERS)
        .map(({ id }, n) => present(product, { talk: id, media: recording, seconds: SPAN, phase: n / PRESENTERS }, end)),
    ])
    const after = spentByParts(product.data)
    const times = acks.flat()
    const slowest = Object.fromEntries(Object.entries(asked).map(([name, all]) => [name, at(all, 0.95)]))
    const made = (await ask<DeliveryView[]>(product, 'GET', `/talks/${talk}/deliveries`))
      .filter(({ id }) => ordered.includes(id))
      .map(({ state }) => state)
    const value = at(times, 0.99)
    const worstRoute = Math.max(...Object.values(slowest))
    return {
      value,
      unit: 'ms until 99 of 100 chunks are acknowledged',
      target: `${String(MOST_ACK)} or less; each route 95 of 100 within ${String(MOST_ROUTE)}; no buffer empty`,
      ok: value <= MOST_ACK && worstRoute <= MOST_ROUTE && watched.empty === 0,
      detail: {
        seconds: SPAN,
        chunkPosts: times.length,
        refused: times.filter((time) => time === Infinity).length,
        median: at(times, 0.5),
        routes95: slowest,
        emptyBuffers: watched.empty,
        viewersMegabytes: Math.round(watched.bytes / 1e6),
        recordedMegabytes: Math.round((PRESENTERS * recording.length) / 1e6),
        files: made,
        scansOfLargeTables: (await scansOf(db)) - scans,
        processorSeconds: Object.fromEntries(
          (['server', 'worker', 'database'] as const).map((part) => [part, Math.round(after[part] - before[part])]),
        ),
      },
    }
  } finally {
    await db.destroy()
    await product.stop()
  }
}
