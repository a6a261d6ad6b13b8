import { EMPTY_PROGRAMME, Refusal } from '@core/model'
import type { Ms, Programme } from '@core/model'
import { momentAt, momentOf } from '@core/screening'
import type { Moment } from '@core/screening'
import type { SharedLink } from '@contracts'
import type { Queries, SharedLinkTable } from '@server/database'
import type { Selectable } from 'kysely'
import { tell } from './events'
import { programmeShown } from './screenings'
import { lockShare } from './shares'

type Row = Selectable<SharedLinkTable>

const placed = (visit: string | null, into: Ms | null): Moment | null => (visit === null || into === null ? null : { visit, into })

/** When a link stands beside the film; null when it is only listed, or nothing that it stood beside is in the film any more. */
function duringOf(row: Row, programme: Programme): SharedLink['during'] {
  const [first, last] = [placed(row.from_visit, row.from_into_ms), placed(row.to_visit, row.to_into_ms)]
  if (first === null || last === null) return null
  // Where what it comes or goes with was cut, it stands for as long as what is left.
  const from = momentOf(programme, first) ?? momentOf(programme, { ...last, into: 0 })
  const to = momentOf(programme, last) ?? momentOf(programme, { ...first, into: Infinity })
  return from === null || to === null || to <= from ? null : { from, to }
}

/** Links that go with a talk, with their times in a version of its film. */
export async function sharedLinks(q: Queries, talk: string, programme: Programme): Promise<readonly SharedLink[]> {
  const rows = await q.selectFrom('shared_link').selectAll().where('talk', '=', talk).orderBy('position').execute()
  return rows.map((row) => ({ address: row.address, title: row.title, during: duringOf(row, programme) }))
}

/** The same at the film as it is now. */
export async function sharedLinksNow(q: Queries, talk: string): Promise<readonly SharedLink[]> {
  const any = await q.selectFrom('shared_link').select('position').where('talk', '=', talk).limit(1).executeTakeFirst()
  return any === undefined ? [] : await sharedLinks(q, talk, await programmeShown(q, talk))
}

/**
 * Puts others in place of the links that go with a talk. In one transaction.
 * @throws Refusal `malformed` when one ends before it begins
 */
export async function changeSharedLinks(q: Queries, talk: string, links: readonly SharedLink[]): Promise<readonly SharedLink[]> {
  const wrong = links.find(({ during }) => during !== null && during.to <= during.from)
  if (wrong !== undefined)
    throw new Refusal('malformed', `“${wrong.title === '' ? wrong.address : wrong.title}” would go before it comes. Nothing was changed.`)
  await lockShare(q, talk)
  const programme = links.some(({ during }) => during !== null) ? await programmeShown(q, talk) : EMPTY_PROGRAMME
  await q.deleteFrom('shared_link').where('talk', '=', talk).execute()
  const rows = links.map(({ address, title, during }, position) => {
    const [from, to] = during === null ? [null, null] : [momentAt(programme, during.from), momentAt(programme, during.to)]
    const times = {
      from_visit: from?.visit ?? null,
      from_into_ms: from?.into ?? null,
      to_visit: to?.visit ?? null,
      to_into_ms: to?.into ?? null,
    }
    return { talk, position, address, title, ...times }
  })
  if (rows.length > 0) await q.insertInto('shared_link').values(rows).execute()
  await tell(q, { talk, kind: 'share', id: null })
  return await sharedLinksNow(q, talk)
}
