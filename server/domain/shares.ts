import { sql } from 'kysely'
import { Refusal, asId } from '@core/model'
import type { ShareFields, ShareView } from '@contracts'
import type { Queries, ShareTable, Tables } from '@server/database'
import type { Selectable, UpdateObject } from 'kysely'
import { settings } from '@server/settings'
import { tell } from './events'
import { isOwnGroup } from './groups'
import { newKey } from './link-key'
import { ownerOf } from './ownership'
import { publicName } from './people'
import { wantStream } from './streams'

/** Address of the page that a key opens. */
export const addressOf = (key: string): string => `${settings().publicAddress}/s/${key}`

/** Who presents a talk until somebody says otherwise. */
const presenterOf = async (q: Queries, talk: string): Promise<string> => await publicName(q, (await ownerOf(q, talk)) ?? '')

const viewOf = (row: Selectable<ShareTable>): ShareView => ({
  address: addressOf(row.key),
  level: row.level,
  presenter: row.presenter,
  description: row.description,
  handout: row.handout,
  viewerNotes: row.viewer_notes,
  film: row.film === null ? null : asId(row.film),
  questions: row.questions,
  until: row.until?.toISOString() ?? null,
  group: row.viewer_group === null ? null : asId(row.viewer_group),
  embedOn: row.embed_on,
  reports: row.reports,
  phrased: row.phrase !== null,
})

const shareRow = (q: Queries, talk: string) => q.selectFrom('share').selectAll().where('talk', '=', talk)

/** How a talk is shared; closed, with a link of its own, until somebody says otherwise. */
export async function shareOf(q: Queries, talk: string): Promise<ShareView> {
  const found = await shareRow(q, talk).executeTakeFirst()
  if (found !== undefined) return viewOf(found)
  await q
    .insertInto('share')
    .values({
      talk,
      key: newKey(),
      level: 'closed',
      presenter: await presenterOf(q, talk),
      film: null,
      until: null,
      phrase: null,
      viewer_group: null,
    })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
  return viewOf(await shareRow(q, talk).executeTakeFirstOrThrow())
}

/** Has whoever else changes what goes with a talk's share wait until this transaction ends. */
export async function lockShare(q: Queries, talk: string): Promise<void> {
  // One that nobody has looked at yet is not there yet.
  await shareOf(q, talk)
  await q.selectFrom('share').select('talk').where('talk', '=', talk).forUpdate().execute()
}

/** Changes a talk's share, which is told. */
async function updateShare(q: Queries, talk: string, values: UpdateObject<Tables, 'share'>): Promise<ShareView> {
  // One that nobody has looked at yet is not there yet.
  await shareOf(q, talk)
  const row = await q
    .updateTable('share')
    .set({ ...values, changed: new Date() })
    .where('talk', '=', talk)
    .returningAll()
    .executeTakeFirstOrThrow()
  await tell(q, { talk, kind: 'share', id: null })
  return viewOf(row)
}

/**
 * Changes who may see a talk and what they may do.
 * @param phrase what has to be said besides, hashed; null: nothing any more; undefined: as it is
 * @throws Refusal `not-found` when the file to be taken along is none of the talk's finished ones, or the group is somebody else's
 */
export async function changeShare(
  q: Queries,
  talk: string,
  { viewerNotes, until, group, embedOn, ...fields }: ShareFields,
  phrase: string | null | undefined,
): Promise<ShareView> {
  if (group !== null) {
    const { owner } = await q.selectFrom('talk').select('owner').where('id', '=', talk).executeTakeFirstOrThrow()
    if (!(await isOwnGroup(q, owner, group))) throw new Refusal('not-found', 'This group is not there any more. Choose another.')
  }
  if (fields.film !== null) {
    const found = await q
      .selectFrom('delivery')
      .select('id')
      .where('id', '=', fields.film)
      .where('talk', '=', talk)
      .where('state', '=', 'done')
      // A player is told that it is one.
      .where(sql`recipe ->> 'format'`, '=', 'mp4')
      .executeTakeFirst()
    if (found === undefined) throw new Refusal('not-found', 'This file is not there any more. Choose another to be taken along.')
  }
  const view = await updateShare(q, talk, {
    ...fields,
    viewer_notes: viewerNotes,
    until: until === null ? null : new Date(until),
    viewer_group: group,
    embed_on: [...embedOn],
    ...(phrase === undefined ? {} : { phrase }),
  })
  await wantStream(q, talk)
  return view
}

/** Gives a talk another link: whoever has the old one sees nothing any more. */
export const renewLink = (q: Queries, talk: string): Promise<ShareView> => updateShare(q, talk, { key: newKey() })
