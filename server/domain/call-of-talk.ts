import type { TalkView } from '@contracts'
import type { Queries } from '@server/database'
import { callPath } from './entrant-links'

/** The call that a talk is made for; null: none. */
export async function callOfTalk(q: Queries, talk: string): Promise<TalkView['call']> {
  const row = await q
    .selectFrom('entrant')
    .innerJoin('call', 'call.id', 'entrant.call')
    .innerJoin('person', 'person.id', 'entrant.person')
    .select(['call.title', 'call.key', 'person.guest'])
    .where('entrant.talk', '=', talk)
    .executeTakeFirst()
  return row === undefined ? null : { title: row.title, page: callPath(row.key), guest: row.guest }
}
