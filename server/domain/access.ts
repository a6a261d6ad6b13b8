import { createHash, createHmac } from 'node:crypto'
import { sql } from 'kysely'
import type { SqlBool } from 'kysely'
import { Refusal } from '@core/model'
import type { Asked, PersonNamed, ShareLevel } from '@contracts'
import type { Queries } from '@server/database'
import { membersOf } from './groups'
import { secretFor } from './secret-for'

/*
 * Who may see what of a talk is decided here and nowhere else, by talk, share and visitor. Every route that shows something to somebody
 * who is not its presenter asks here.
 */

/** What is known of somebody who comes. */
export interface Visitor {
  /** An address that they have shown to be theirs. */
  readonly address: string | null
  /** Marks of phrases that they have said; see `phraseMark`. */
  readonly phrases: readonly string[]
}

/** What a visitor may do with a talk. */
export interface Access {
  readonly talk: string
  /** As whom they see it: it stands in the pass to the media, which holds as long as they may. */
  readonly audience: Audience
  /** Whether everybody who comes by this link sees the same: a cache may keep it. */
  readonly open: boolean
  /** Whether it stands where everybody finds it, search engines included. */
  readonly found: boolean
  readonly key: string
  /** Whose address it is, where their presenter sees that they have watched, and they are told so. */
  readonly reported: string | null
  /** Sites that may show it within theirs. */
  readonly embedOn: readonly string[]
  readonly mayAsk: boolean
  readonly mayTake: { readonly handout: boolean; readonly viewerNotes: boolean; readonly film: string | null }
}

/** Eight bytes that tell as whom somebody sees a talk, in hex; nobody can make them up or read them. */
export type Audience = string

/** All that does not exist, has ended, or is not for this visitor looks the same from outside. */
const closed = (): Refusal =>
  new Refusal(
    'not-found',
    'Nothing is shown here. The link may be incomplete, or its presenter has ended it: ask them for the one that holds.',
  )

const ASKED: Readonly<Record<Asked, string>> = {
  address: 'This talk is for people whom its presenter named. Say by which address.',
  phrase: 'This talk is opened by a pass phrase. Its presenter can tell you.',
}
const asked = (asks: Asked): Refusal => new Refusal('not-signed-in', ASKED[asks], { asks })

/** For whom each level is: nobody, whoever comes, or those who are listed. */
const LEVELS: Readonly<Record<ShareLevel, 'nobody' | 'all' | 'listed'>> = {
  closed: 'nobody',
  link: 'all',
  people: 'listed',
  group: 'listed',
  shelf: 'all',
}

/** That a share's last day is not over, by the database's clock, which is the same for all processes. */
export const notOver = sql<SqlBool>`(share.until is null or share.until > now())`

/** Whether a talk is for everybody who comes, and nothing is asked first. */
export const isOpen = ({ level, phrase }: { readonly level: ShareLevel; readonly phrase: string | null }): boolean =>
  LEVELS[level] === 'all' && phrase === null

const shares = (q: Queries) =>
  q
    .selectFrom('share')
    .innerJoin('talk', 'talk.id', 'share.talk')
    .select(['share.talk', 'share.key', 'share.level', 'share.handout', 'share.viewer_notes', 'share.film', 'share.questions'])
    .select(['share.phrase', 'share.embed_on', 'share.viewer_group', 'share.reports'])
    .where('talk.deleted', 'is', null)
    .where(notOver)

type Row = NonNullable<Awaited<ReturnType<ReturnType<typeof shares>['executeTakeFirst']>>>

/** Those a talk is for who are listed, by name: one by one, or as members of its group. @param only whether this one is among them */
async function listed(q: Queries, row: Pick<Row, 'talk' | 'level' | 'viewer_group'>, only?: string): Promise<readonly PersonNamed[]> {
  const people =
    row.level === 'group'
      ? membersOf(q, row.viewer_group)
      : q.selectFrom('share_person').select(['address', 'name']).where('talk', '=', row.talk)
  return await q
    .selectFrom(people.as('listed'))
    .selectAll()
    .$if(only !== undefined, (some) => some.where('address', '=', only ?? ''))
    .orderBy('name')
    .execute()
}

/** Tells one phrase from another that a share had before, and says nothing of it. @param phrase hashed */
export const phraseMark = (phrase: string): string => createHash('sha256').update(phrase).digest('base64url').slice(0, 16)

/** Another link, another phrase or another address is another audience: what was opened by the old one ends with it. */
const audienceOf = ({ key, phrase }: Row, address: string | null): Audience =>
  createHmac('sha256', secretFor('audience of a talk'))
    .update(JSON.stringify([key, phrase, address]))
    .digest('hex')
    .slice(0, 16)

const access = (row: Row, audience: Audience, address: string | null): Access => ({
  talk: row.talk,
  audience,
  open: isOpen(row),
  found: row.level === 'shelf',
  key: row.key,
  reported: row.reports && LEVELS[row.level] === 'listed' ? address : null,
  embedOn: row.embed_on,
  mayAsk: row.questions,
  mayTake: { handout: row.handout, viewerNotes: row.viewer_notes, film: row.film },
})

/**
 * What somebody may do who came by a link.
 * @throws Refusal `not-found` when that is nothing, whatever the reason; `not-signed-in` saying in `asks` what they are asked first
 */
export async function accessByKey(q: Queries, key: string, visitor: Visitor): Promise<Access> {
  const row = await shares(q).where('share.key', '=', key).executeTakeFirst()
  if (row === undefined || LEVELS[row.level] === 'nobody') throw closed()
  if (LEVELS[row.level] === 'listed') {
    if (visitor.address === null) throw asked('address')
    if ((await listed(q, row, visitor.address)).length === 0) throw asked('address')
  }
  if (row.phrase !== null && !visitor.phrases.includes(phraseMark(row.phrase))) throw asked('phrase')
  const address = LEVELS[row.level] === 'listed' ? visitor.address : null
  return access(row, audienceOf(row, address), address)
}

/** What somebody may still do who was let in before. @throws Refusal `not-found` when that is nothing any more */
export async function accessToTalk(q: Queries, talk: string, audience: Audience): Promise<Access> {
  const row = await shares(q).where('share.talk', '=', talk).executeTakeFirst()
  if (row === undefined || LEVELS[row.level] === 'nobody') throw closed()
  const addresses = LEVELS[row.level] === 'all' ? [null] : (await listed(q, row)).map(({ address }) => address)
  if (!addresses.some((address) => audienceOf(row, address) === audience)) throw closed()
  return access(row, audience, null)
}

/** Those a talk is for who are listed, by name; nobody where it is for all or none. */
export async function peopleOf(q: Queries, talk: string): Promise<readonly PersonNamed[]> {
  const row = await q.selectFrom('share').select(['talk', 'level', 'viewer_group']).where('talk', '=', talk).executeTakeFirst()
  return row === undefined || LEVELS[row.level] !== 'listed' ? [] : await listed(q, row)
}

/** Whether a talk is for somebody by their address. Says nothing to whoever asks; they are written to. */
export async function isListed(q: Queries, key: string, address: string): Promise<{ readonly talk: string } | null> {
  const row = await shares(q).where('share.key', '=', key).executeTakeFirst()
  if (row === undefined || LEVELS[row.level] !== 'listed') return null
  return (await listed(q, row, address)).length === 0 ? null : { talk: row.talk }
}

/** What has to be said to see a talk, hashed; null when that is nothing. @throws Refusal `not-found` */
export async function phraseOf(q: Queries, key: string): Promise<string | null> {
  const row = await shares(q).where('share.key', '=', key).executeTakeFirst()
  if (row === undefined || LEVELS[row.level] === 'nobody') throw closed()
  return row.phrase
}
