import { sql } from 'kysely'
import { QUEUE_NAMES } from '@contracts'
import type { Failure, FilmDay, QueueName, QueueState, ServerState } from '@contracts'
import type { Queries } from '@server/database'
import { migrations } from '@server/database'
import { settings } from '@server/settings'
import { roomLeft, wholeRoom } from '@server/store'
import { isLive } from './live-takes'

/** Jobs of each queue. */
export const JOBS_OF = {
  takes: ['finish-take', 'settle-take', 'bring-voice'],
  decks: ['read-deck', 'read-archive', 'read-film', 'take-entry'],
  letters: ['send-letter', 'send-file'],
  films: ['deliver', 'help-deliver', 'make-export', 'probe'],
  listening: ['listen'],
  ahead: ['make-ahead', 'make-stream', 'make-backdrop', 'reclaim', 'check-recent', 'check-all'],
} as const satisfies Readonly<Record<QueueName, readonly string[]>>

/** Days of films that are shown, and failures. */
const DAYS = 30
const FAILURES = 20

/** What waits in each queue. */
export async function queueStates(q: Queries): Promise<readonly QueueState[]> {
  const { rows } = await sql<{ job: string; waiting: number; under_way: number; later: number; failed: number; oldest: number }>`
    select task_identifier as job,
      count(*) filter (where locked_at is null and attempts < max_attempts and run_at <= now()) as waiting,
      count(*) filter (where locked_at is not null) as under_way,
      count(*) filter (where locked_at is null and attempts < max_attempts and run_at > now()) as later,
      count(*) filter (where locked_at is null and attempts >= max_attempts) as failed,
      coalesce(extract(epoch from now() - min(run_at) filter
        (where locked_at is null and attempts < max_attempts and run_at <= now())) * 1000, 0)::float8 as oldest
    from graphile_worker.jobs group by task_identifier`.execute(q)
  return QUEUE_NAMES.map((name) => {
    const own = rows.filter(({ job }) => JOBS_OF[name].some((one) => one === job))
    const sum = (of: 'waiting' | 'under_way' | 'later' | 'failed'): number => own.reduce((all, row) => all + row[of], 0)
    return {
      name,
      waiting: sum('waiting'),
      underWay: sum('under_way'),
      later: sum('later'),
      failed: sum('failed'),
      oldest: Math.max(0, ...own.map(({ oldest }) => oldest)),
    }
  })
}

/** Workers that gave a sign of life lately. */
export async function livingWorkers(q: Queries): Promise<number> {
  const { rows } = await sql<{ count: number }>`
    select count(*) as count from worker where seen > now() - ${settings().workerGrace} * interval '1 millisecond'`.execute(q)
  return rows[0]?.count ?? 0
}

/** How many of something there are now: what is measured of a server besides its processes. */
export interface ServerCounts {
  readonly recordings: number
  readonly people: number
  readonly talks: number
}

export async function serverCounts(q: Queries): Promise<ServerCounts> {
  const { rows } = await sql<ServerCounts>`select
    (select count(*) from take where ${isLive}) as recordings,
    (select count(*) from person where not guest and email is not null) as people,
    (select count(*) from talk where deleted is null) as talks`.execute(q)
  return rows[0] ?? { recordings: 0, people: 0, talks: 0 }
}

async function bytesHeldByKind(q: Queries): Promise<ServerState['held']> {
  const { rows } = await sql<{ brought: number; recorded: number; films: number; along: number }>`select
    (select coalesce(sum(bytes), 0)::bigint from asset) as brought,
    (select coalesce(sum(bytes), 0)::bigint from stretch) as recorded,
    (select coalesce(sum((facts ->> 'bytes')::bigint), 0)::bigint from delivery where facts is not null) as films,
    (select coalesce(sum(bytes), 0)::bigint from talk_export) as along`.execute(q)
  const { brought, recorded, films, along } = rows[0] ?? { brought: 0, recorded: 0, films: 0, along: 0 }
  return [
    { what: 'recorded', bytes: recorded },
    { what: 'brought', bytes: brought },
    { what: 'films', bytes: films },
    { what: 'taken along', bytes: along },
  ]
}

async function filmDays(q: Queries): Promise<readonly FilmDay[]> {
  const { rows } = await sql<FilmDay>`
    select to_char(day, 'YYYY-MM-DD') as day,
      count(*) filter (where state = 'done') as made,
      count(*) filter (where state = 'failed') as failed,
      coalesce(round(sum(length_ms) filter (where state = 'done') / 60000.0), 0)::integer as minutes
    from generate_series(now()::date - ${DAYS - 1}::integer, now()::date, interval '1 day') as day
    left join delivery on delivery.created >= day and delivery.created < day + interval '1 day'
    group by day order by day`.execute(q)
  return rows
}

/** What could not be done lately, the last first. What people call their talks is not told. */
async function failuresOf(q: Queries): Promise<readonly Failure[]> {
  const { rows } = await sql<{ at: Date; what: Failure['what']; sentence: string }>`
    (select created as at, 'film' as what, coalesce(sentence, '') as sentence from delivery where state = 'failed'
      order by created desc limit ${FAILURES})
    union all (select created, 'deck', coalesce(sentence, '') from import where state = 'failed' order by created desc limit ${FAILURES})
    union all (select started, 'take', coalesce(sentence, '') from take where state = 'failed' order by started desc limit ${FAILURES})
    union all (select made, 'letter', coalesce(said, '') from letter where state = 'failed' order by made desc limit ${FAILURES})
    order by at desc limit ${FAILURES}`.execute(q)
  return rows.map(({ at, what, sentence }) => ({ at: at.toISOString(), what, sentence }))
}

/** What operators see of their server. */
export async function serverState(q: Queries): Promise<ServerState> {
  const [left, whole, held, queues, workers, counts, films, failures] = await Promise.all([
    roomLeft(),
    wholeRoom(),
    bytesHeldByKind(q),
    queueStates(q),
    livingWorkers(q),
    serverCounts(q),
    filmDays(q),
    failuresOf(q),
  ])
  return { room: { left, floor: settings().freeFloor, whole }, held, queues, workers, ...counts, films, failures }
}

/** Whether the database has just the schema that this version wants. @throws what the database says when it is away */
export async function schemaIsOurs(q: Queries): Promise<boolean> {
  const { rows } = await sql<{ name: string }>`select name from kysely_migration`.execute(q)
  const there = new Set(rows.map(({ name }) => name))
  const wanted = Object.keys(migrations)
  return wanted.every((name) => there.has(name)) && there.size === wanted.length
}
