import { sql } from 'kysely'
import { WATCHED_PART, partsOf } from '@core/screening'
import type { FilmPart, WatchReport } from '@core/screening'
import type { WatchedView } from '@contracts'
import type { Queries } from '@server/database'
import { peopleOf } from './access'
import type { Access } from './access'
import { visitsNow } from './screenings'

/** Days that are shown. */
const DAYS = 60

type Counted = 'played' | 'gone_back' | 'gone'

/** Counts parts of a film, each once; less where somebody had not left after all. */
async function countParts(q: Queries, talk: string, column: Counted, parts: readonly FilmPart[], by: 1 | -1): Promise<void> {
  if (parts.length === 0) return
  const none = { played: 0, gone_back: 0, gone: 0 }
  const distinct = [...new Map(parts.map((one) => [`${one.visit} ${String(one.part)}`, one])).values()]
  await q
    .insertInto('watched_part')
    .values(distinct.map(({ visit, part }) => ({ talk, visit, part, ...none, [column]: by })))
    .onConflict((conflict) =>
      conflict
        .columns(['talk', 'visit', 'part'])
        .doUpdateSet((set) => ({ [column]: sql<number>`${set.ref(`watched_part.${column}`)} + ${by}` })),
    )
    .execute()
}

/** Counts what one page tells of how a talk is watched there. Parts that are not in the film now are passed over. In one transaction. */
export async function countWatching(q: Queries, { talk, reported }: Access, told: WatchReport): Promise<void> {
  const lengths = new Map((await visitsNow(q, talk)).map((visit) => [String(visit.id), partsOf(visit)]))
  const there = (parts: readonly (FilmPart | null)[]): readonly FilmPart[] =>
    parts.filter((one): one is FilmPart => one !== null && one.part < (lengths.get(one.visit) ?? 0))
  const [visits, finished] = [told.begun ? 1 : 0, told.finished ? 1 : 0]
  if (visits + finished > 0)
    await q
      .insertInto('watched_day')
      .values({ talk, day: sql`current_date`, visits, finished })
      .onConflict((conflict) =>
        conflict.columns(['talk', 'day']).doUpdateSet({
          visits: sql`watched_day.visits + ${visits}`,
          finished: sql`watched_day.finished + ${finished}`,
        }),
      )
      .execute()
  await countParts(q, talk, 'played', there(told.played), 1)
  await countParts(q, talk, 'gone_back', there(told.back), 1)
  await countParts(q, talk, 'gone', there([told.left]), 1)
  await countParts(q, talk, 'gone', there([told.stayed]), -1)
  if (told.finished && reported !== null)
    await q
      .insertInto('watched_by')
      .values({ talk, address: reported })
      .onConflict((conflict) => conflict.doNothing())
      .execute()
}

/** Who is named, and when they had watched to the end; null where they were not told that this is seen. */
async function finishedBy(q: Queries, talk: string): Promise<WatchedView['people']> {
  const share = await q.selectFrom('share').select('reports').where('talk', '=', talk).executeTakeFirst()
  if (share?.reports !== true) return null
  const [people, rows] = await Promise.all([peopleOf(q, talk), q.selectFrom('watched_by').selectAll().where('talk', '=', talk).execute()])
  const finished = new Map(rows.map((row) => [row.address, row.finished.toISOString()]))
  return people.map((person) => ({ ...person, finished: finished.get(person.address) ?? null }))
}

/** How a talk was watched, for its presenter, over the film as it is now. */
export async function watchedOf(q: Queries, talk: string): Promise<WatchedView> {
  const [days, rows, visits, people] = await Promise.all([
    q
      .selectFrom('watched_day')
      .select([sql<string>`day::text`.as('day'), 'visits', 'finished'])
      .where('talk', '=', talk)
      .orderBy('day', 'desc')
      .execute(),
    q.selectFrom('watched_part').selectAll().where('talk', '=', talk).execute(),
    visitsNow(q, talk),
    finishedBy(q, talk),
  ])
  const counted = new Map(rows.map((row) => [`${row.visit} ${String(row.part)}`, row]))
  const sum = (of: 'visits' | 'finished'): number => days.reduce((all, day) => all + day[of], 0)
  const last = visits.at(-1)
  return {
    visits: sum('visits'),
    finished: sum('finished'),
    days: days.slice(0, DAYS),
    length: last === undefined ? 0 : last.start + last.length,
    parts: visits.flatMap((visit) =>
      Array.from({ length: partsOf(visit) }, (_, part) => {
        const row = counted.get(`${visit.id} ${String(part)}`)
        const left = Math.max(0, row?.gone ?? 0)
        return { at: visit.start + part * WATCHED_PART, played: row?.played ?? 0, back: row?.gone_back ?? 0, left }
      }),
    ),
    people,
  }
}
