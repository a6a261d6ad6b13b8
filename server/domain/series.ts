import { createHmac, randomUUID } from 'node:crypto'
import { Refusal, asId } from '@core/model'
import type { SeriesFields, SeriesPage, SeriesView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { isOpen, notOver } from './access'
import { isOwnGroup } from './groups'
import { sendLetter } from './letters'
import { newKey } from './link-key'
import { ownTalk } from './ownership'
import { sameWords } from './same-words'
import { secretFor } from './secret-for'
import { addressOf } from './shares'

/** Most series of one person. */
const MOST_SERIES = 200

const gone = (): Refusal => new Refusal('not-found', 'This series is not there any more.')

/** Address of a series' page. */
const pageOf = (key: string): string => `${settings().publicAddress}/series/${key}`

/** A person's series with their talks, by name. */
export async function seriesOf(q: Queries, owner: string): Promise<readonly SeriesView[]> {
  const rows = await q.selectFrom('series').selectAll().where('owner', '=', owner).orderBy('name').execute()
  if (rows.length === 0) return []
  const talks = await q
    .selectFrom('series_talk')
    .innerJoin('talk', 'talk.id', 'series_talk.talk')
    .leftJoin('share', 'share.talk', 'talk.id')
    .select(['series_talk.series', 'talk.id', 'talk.name', 'share.level'])
    .where(
      'series_talk.series',
      'in',
      rows.map(({ id }) => id),
    )
    .where('talk.deleted', 'is', null)
    .orderBy('series_talk.position')
    .execute()
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    description: row.description,
    shelved: row.shelved,
    group: row.viewer_group === null ? null : asId(row.viewer_group),
    address: pageOf(row.key),
    talks: talks.filter((talk) => talk.series === row.id).map(({ id, name, level }) => ({ id: asId(id), name, level: level ?? 'closed' })),
  }))
}

/** A series of somebody's own, with its talks in order. @throws Refusal `not-found` */
export async function ownSeries(
  q: Queries,
  owner: string,
  id: string,
): Promise<{ readonly name: string; readonly talks: readonly { readonly id: string; readonly name: string }[] }> {
  const row = await q.selectFrom('series').select('name').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (row === undefined) throw gone()
  const talks = await q
    .selectFrom('series_talk')
    .innerJoin('talk', 'talk.id', 'series_talk.talk')
    .select(['talk.id', 'talk.name'])
    .where('series_talk.series', '=', id)
    .where('talk.deleted', 'is', null)
    .orderBy('series_talk.position')
    .execute()
  return { ...row, talks }
}

/** Makes a series without talks. @throws Refusal `too-many` */
export async function makeSeries(q: Queries, owner: string, name: string): Promise<void> {
  const { count } = await q
    .selectFrom('series')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('owner', '=', owner)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_SERIES) throw new Refusal('too-many', `There are ${String(MOST_SERIES)} series already. Delete one first.`)
  await q.insertInto('series').values({ id: randomUUID(), owner, key: newKey(), name, viewer_group: null }).execute()
}

/** Changes a series and which talks are in it, in order. In one transaction. @throws Refusal `not-found` for what is not the asker's own */
export async function changeSeries(q: Queries, owner: string, id: string, { talks, group, ...fields }: SeriesFields): Promise<void> {
  if (group !== null && !(await isOwnGroup(q, owner, group)))
    throw new Refusal('not-found', 'This group is not there any more. Choose another.')
  const row = await q
    .updateTable('series')
    .set({ ...fields, viewer_group: group })
    .where('id', '=', id)
    .where('owner', '=', owner)
    .returning('id')
    .executeTakeFirst()
  if (row === undefined) throw gone()
  for (const talk of talks) await ownTalk(q, [owner], talk)
  await q
    .deleteFrom('series_talk')
    .where('series', '=', id)
    .$if(talks.length > 0, (some) => some.where('talk', 'not in', [...talks]))
    .execute()
  if (talks.length === 0) return
  await q
    .insertInto('series_talk')
    .values(talks.map((talk, position) => ({ series: id, talk, position })))
    .onConflict((conflict) => conflict.columns(['series', 'talk']).doUpdateSet((set) => ({ position: set.ref('excluded.position') })))
    .execute()
}

/** @throws Refusal `not-found` */
export async function deleteSeries(q: Queries, owner: string, id: string): Promise<void> {
  const { numDeletedRows } = await q.deleteFrom('series').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (numDeletedRows === 0n) throw gone()
}

/** Talks of a series that somebody may see, or may ask to; what is closed or over is not there. */
const shownIn = (q: Queries, series: string) =>
  q
    .selectFrom('series_talk')
    .innerJoin('talk', 'talk.id', 'series_talk.talk')
    .innerJoin('share', 'share.talk', 'talk.id')
    .leftJoin('programme', (join) =>
      join.onRef('programme.talk', '=', 'talk.id').onRef('programme.revision', '=', 'talk.programme_revision'),
    )
    .select(['share.key', 'share.level', 'share.phrase', 'share.presenter', 'share.description', 'share.changed'])
    .select(['talk.id', 'talk.name', 'programme.length_ms', 'series_talk.added'])
    .where('series_talk.series', '=', series)
    .where('talk.deleted', 'is', null)
    .where('share.level', '!=', 'closed')
    .where(notOver)
    .orderBy('series_talk.position')

/** A series as those see it who have its link. @throws Refusal `not-found` */
export async function seriesPage(q: Queries, key: string): Promise<SeriesPage> {
  const row = await q.selectFrom('series').selectAll().where('key', '=', key).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', 'Nothing is shown here. The link may be incomplete, or its presenter has ended it.')
  const talks = await shownIn(q, row.id).execute()
  return {
    name: row.name,
    description: row.description,
    path: `/series/${row.key}`,
    shelved: row.shelved,
    talks: talks.map((talk) => ({
      key: talk.key,
      title: talk.name,
      presenter: talk.presenter,
      description: talk.description,
      length: (talk.length_ms ?? 0) > 0 ? talk.length_ms : null,
      open: isOpen(talk),
      changed: (talk.changed > talk.added ? talk.changed : talk.added).toISOString(),
    })),
  }
}

/** What in a letter lets its reader say that they want no more of them. */
const tokenFor = (series: string, address: string): string =>
  createHmac('sha256', secretFor('letters of a series')).update(`${series} ${address}`).digest('base64url').slice(0, 22)

/**
 * Writes to a series' group that a talk is there, but for those who want no letters. In one transaction.
 * @returns how many were written to
 * @throws Refusal `not-found`, `malformed` when there is nobody to be written to, or the talk is shown to nobody
 */
export async function tellOfTalk(q: Queries, owner: string, id: string, talk: string): Promise<number> {
  const row = await q.selectFrom('series').selectAll().where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (row === undefined) throw gone()
  if (row.viewer_group === null) throw new Refusal('malformed', 'Choose the group that is to be written to first.')
  const shown = await shownIn(q, id).where('talk.id', '=', talk).executeTakeFirst()
  if (shown === undefined) throw new Refusal('malformed', 'This talk is shown to nobody yet. Open it on its leaf “Show” first.')
  const people = await q
    .selectFrom('group_member')
    .select('address')
    .where('viewer_group', '=', row.viewer_group)
    .where('address', 'not in', (inner) => inner.selectFrom('series_unwanted').select('address').where('series', '=', id))
    .execute()
  for (const { address } of people)
    await sendLetter(q, owner, {
      recipient: address,
      subject: `${row.name}: ${shown.name}`,
      body:
        `A new talk is there in “${row.name}”: ${shown.name}\n\n${addressOf(shown.key)}?in=${row.key}\n\n` +
        `All of them: ${pageOf(row.key)}\n\nNo more letters about this series, by one click:\n` +
        `${pageOf(row.key)}?off=${tokenFor(id, address)}&of=${encodeURIComponent(address)}\n`,
    })
  return people.length
}

/** Somebody wants no more letters about a series. @throws Refusal `not-allowed` when the link is not one of theirs */
export async function wantNoLetters(q: Queries, key: string, address: string, token: string): Promise<void> {
  const row = await q.selectFrom('series').select('id').where('key', '=', key).executeTakeFirst()
  if (row === undefined || !sameWords(tokenFor(row.id, address), token))
    throw new Refusal('not-allowed', 'This link is not complete. Take it from the letter as it is.')
  await q
    .insertInto('series_unwanted')
    .values({ series: row.id, address })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
}
