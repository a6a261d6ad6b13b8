import { sql } from 'kysely'
import { Refusal } from '@core/model'
import { megabytes } from '@core/rules'
import type { Queries } from '@server/database'
import { finishedDelivery } from './finished-delivery'
import { sendLetter } from './letters'
import { shareOf } from './shares'

/** Larger files are refused by most mail servers, in bytes; on its way a file takes a third more. */
const MOST_ATTACHED = 12_000_000
/** Letters of one person in a day. */
const MOST_A_DAY = 200

/** What is to be mailed, and to whom. */
export interface FileLetter {
  readonly to: string
  /** The file itself, or where the talk is to be seen. */
  readonly with: 'file' | 'link'
  /** What is written above it; may be empty. */
  readonly words: string
}

/**
 * Writes to somebody with a file of a talk, or with the link to its page. In one transaction.
 * @throws Refusal `conflict` when the file is not finished or the talk is not shown to anybody, `too-large` when it is no small file
 */
export async function mailFile(q: Queries, owner: string, talk: string, delivery: string, letter: FileLetter): Promise<void> {
  await notTooMany(q, owner)
  const { file, facts } = await finishedDelivery(q, talk, delivery, 'mailed')
  const { name } = await q.selectFrom('talk').select('name').where('id', '=', talk).executeTakeFirstOrThrow()
  const above = letter.words === '' ? '' : `${letter.words}\n\n`
  if (letter.with === 'file') {
    if (facts.bytes > MOST_ATTACHED)
      throw new Refusal(
        'too-large',
        `This file has ${megabytes(facts.bytes)}; mail takes ${megabytes(MOST_ATTACHED)} at most. Mail the link instead.`,
      )
    const body = `${above}“${name}” comes with this letter, as ${file}.\n`
    await sendLetter(q, owner, { recipient: letter.to, subject: name, body, delivery })
    return
  }
  const { level, address } = await shareOf(q, talk)
  if (level === 'closed')
    throw new Refusal('conflict', 'This talk is not shown to anybody yet. Say in Show who may see it; then its link can be mailed.')
  await sendLetter(q, owner, { recipient: letter.to, subject: name, body: `${above}“${name}” is here:\n\n${address}\n` })
}

/** @throws Refusal `too-many` when somebody has written to so many people already that it looks like something else */
async function notTooMany(q: Queries, owner: string): Promise<void> {
  const { count } = await q
    .selectFrom('letter')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('owner', '=', owner)
    .where(sql`made`, '>', sql`now() - interval '1 day'`)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_A_DAY) throw new Refusal('too-many', `${String(MOST_A_DAY)} letters were written today. Go on tomorrow.`)
}
