import { randomBytes } from 'node:crypto'
import { Refusal, asId } from '@core/model'
import type { ShareFields, ShareView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { tell } from './events'
import { wantStream } from './streams'

/** Bytes of a key: nobody finds one by trying. */
const KEY_BYTES = 16
const newKey = (): string => randomBytes(KEY_BYTES).toString('base64url')

/** What stands in its place for the one person of a machine without accounts. */
const NOBODY_ELSE = 'You'

const addressOf = (key: string): string => `${settings().publicAddress}/s/${key}`

const rowOf = (q: Queries, talk: string) => q.selectFrom('share').selectAll().where('talk', '=', talk).executeTakeFirst()

async function presenterOf(q: Queries, talk: string): Promise<string> {
  const { name } = await q
    .selectFrom('talk')
    .innerJoin('person', 'person.id', 'talk.owner')
    .select('person.name')
    .where('talk.id', '=', talk)
    .executeTakeFirstOrThrow()
  return name === NOBODY_ELSE ? '' : name
}

/** How a talk is shared; closed, with a link of its own, until somebody says otherwise. */
export async function shareOf(q: Queries, talk: string): Promise<ShareView> {
  if ((await rowOf(q, talk)) === undefined)
    await q
      .insertInto('share')
      .values({ talk, key: newKey(), level: 'closed', presenter: await presenterOf(q, talk), film: null })
      .onConflict((conflict) => conflict.doNothing())
      .execute()
  const row = await q.selectFrom('share').selectAll().where('talk', '=', talk).executeTakeFirstOrThrow()
  return {
    address: addressOf(row.key),
    level: row.level,
    presenter: row.presenter,
    description: row.description,
    handout: row.handout,
    viewerNotes: row.viewer_notes,
    film: row.film === null ? null : asId(row.film),
    questions: row.questions,
  }
}

/** @throws Refusal `not-found` when the file to be taken along is none of the talk's finished ones */
export async function changeShare(q: Queries, talk: string, fields: ShareFields): Promise<ShareView> {
  await shareOf(q, talk)
  if (fields.film !== null) {
    const found = await q
      .selectFrom('delivery')
      .select('id')
      .where('id', '=', fields.film)
      .where('talk', '=', talk)
      .where('state', '=', 'done')
      .executeTakeFirst()
    if (found === undefined) throw new Refusal('not-found', 'This file is not there any more. Choose another to be taken along.')
  }
  const { viewerNotes, ...rest } = fields
  await q
    .updateTable('share')
    .set({ ...rest, viewer_notes: viewerNotes, changed: new Date() })
    .where('talk', '=', talk)
    .execute()
  await wantStream(q, talk)
  await tell(q, { talk, kind: 'share', id: null })
  return await shareOf(q, talk)
}

/** Gives a talk another link: whoever has the old one sees nothing any more. */
export async function renewLink(q: Queries, talk: string): Promise<ShareView> {
  await shareOf(q, talk)
  await q.updateTable('share').set({ key: newKey(), changed: new Date() }).where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'share', id: null })
  return await shareOf(q, talk)
}
