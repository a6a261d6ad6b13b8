import type { ShelfView } from '@contracts'
import type { Queries } from '@server/database'
import { notOver } from './access'
import { likely } from './likely'

const shelved = (q: Queries, words: string) =>
  q
    .selectFrom('share')
    .innerJoin('talk', 'talk.id', 'share.talk')
    .where('share.level', '=', 'shelf')
    .where('talk.deleted', 'is', null)
    .where(notOver)
    .$if(words !== '', (some) =>
      some.where((either) =>
        either.or((['talk.name', 'share.presenter', 'share.description'] as const).map((column) => either(column, 'ilike', likely(words)))),
      ),
    )

/** Most series that are shown. */
const MOST_SERIES = 24

async function shelvedSeries(q: Queries, words: string): Promise<ShelfView['series']> {
  const rows = await q
    .selectFrom('series')
    .select(['key', 'name', 'description'])
    .select((build) =>
      build
        .selectFrom('series_talk')
        .select((inner) => inner.fn.countAll<number>().as('count'))
        .whereRef('series_talk.series', '=', 'series.id')
        .as('talks'),
    )
    .where('shelved', '=', true)
    .$if(words !== '', (some) =>
      some.where((either) => either.or([either('name', 'ilike', likely(words)), either('description', 'ilike', likely(words))])),
    )
    .orderBy('made', 'desc')
    .limit(MOST_SERIES)
    .execute()
  return rows.map(({ key, name, description, talks }) => ({ path: `/series/${key}`, name, description, talks: Number(talks ?? 0) }))
}

/**
 * Talks that everybody on this server may see, the newest first.
 * @param words that stand in a title, a presenter's name or what is said of it; empty: all
 * @param from how many are passed over, and `most` how many come
 */
export async function shelfOf(q: Queries, words: string, from: number, most: number): Promise<ShelfView> {
  const [rows, { count }, series] = await Promise.all([
    shelved(q, words)
      .leftJoin('programme', (join) =>
        join.onRef('programme.talk', '=', 'talk.id').onRef('programme.revision', '=', 'talk.programme_revision'),
      )
      .select(['share.key', 'talk.name', 'share.presenter', 'share.description', 'programme.length_ms'])
      .orderBy('share.changed', 'desc')
      .orderBy('share.key')
      .offset(from)
      .limit(most)
      .execute(),
    shelved(q, words)
      .select((build) => build.fn.countAll<number>().as('count'))
      .executeTakeFirstOrThrow(),
    from > 0 ? [] : shelvedSeries(q, words),
  ])
  return {
    series,
    count: Number(count),
    talks: rows.map((row) => ({
      path: `/s/${row.key}`,
      picture: `/s/${row.key}/slide.jpg`,
      title: row.name,
      presenter: row.presenter,
      description: row.description,
      length: (row.length_ms ?? 0) > 0 ? row.length_ms : null,
    })),
  }
}
