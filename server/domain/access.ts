import { Refusal } from '@core/model'
import type { ShareLevel } from '@contracts'
import type { Queries } from '@server/database'

/*
 * Who may see what of a talk is decided here and nowhere else, by talk, share and visitor. Every route that shows something to somebody
 * who is not its presenter asks here.
 */

/** What a visitor may do with a talk. */
export interface Access {
  readonly talk: string
  readonly mayAsk: boolean
  readonly mayTake: { readonly handout: boolean; readonly viewerNotes: boolean; readonly film: string | null }
}

/** All that does not exist, has ended, or is not for this visitor looks the same from outside. */
const closed = (): Refusal =>
  new Refusal(
    'not-found',
    'Nothing is shown here. The link may be incomplete, or its presenter has ended it: ask them for the one that holds.',
  )

const LEVELS: Readonly<Record<ShareLevel, boolean>> = { closed: false, link: true }

const shares = (q: Queries) =>
  q
    .selectFrom('share')
    .innerJoin('talk', 'talk.id', 'share.talk')
    .select(['share.talk', 'share.level', 'share.handout', 'share.viewer_notes', 'share.film', 'share.questions'])
    .where('talk.deleted', 'is', null)

type Row = Awaited<ReturnType<ReturnType<typeof shares>['executeTakeFirst']>>

function accessBy(row: Row): Access {
  if (row === undefined || !LEVELS[row.level]) throw closed()
  return {
    talk: row.talk,
    mayAsk: row.questions,
    mayTake: { handout: row.handout, viewerNotes: row.viewer_notes, film: row.film },
  }
}

/** What somebody may do who came by a link. @throws Refusal `not-found` when that is nothing, whatever the reason */
export const accessByKey = async (q: Queries, key: string): Promise<Access> =>
  accessBy(await shares(q).where('share.key', '=', key).executeTakeFirst())

/** What somebody may still do who was let in before. @throws Refusal `not-found` when that is nothing any more */
export const accessToTalk = async (q: Queries, talk: string): Promise<Access> =>
  accessBy(await shares(q).where('share.talk', '=', talk).executeTakeFirst())
