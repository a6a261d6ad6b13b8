import { randomUUID } from 'node:crypto'
import type { LetterView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { addJob } from './jobs'

/** Letters that are shown, the newest first. */
const SHOWN = 200

/** A letter to be sent. */
export interface Letter {
  readonly recipient: string
  readonly subject: string
  readonly body: string
  /** A file that goes with it. */
  readonly delivery?: string
  /** It holds a link that is its reader's alone: on whose behalf it is sent is not shown what is in it. */
  readonly private?: boolean
}

/**
 * Sends a letter by mail, as soon as somebody comes to it; without a mail server it is kept, to be looked at.
 * @param owner on whose behalf
 */
export async function sendLetter(q: Queries, owner: string, letter: Letter): Promise<void> {
  const id = randomUUID()
  const mailed = settings().smtpUrl !== null
  await q
    .insertInto('letter')
    .values({ id, owner, ...letter, delivery: letter.delivery ?? null, said: null, ...(mailed ? {} : { state: 'kept' as const }) })
    .execute()
  if (mailed) await addJob(q, 'send-letter', { letter: id }, `letter:${id}`)
}

/** What was sent on somebody's behalf, or would have been. */
export async function lettersOf(q: Queries, owner: string): Promise<readonly LetterView[]> {
  const rows = await q.selectFrom('letter').selectAll().where('owner', '=', owner).orderBy('made', 'desc').limit(SHOWN).execute()
  // The one person of a machine without accounts runs it.
  const all = settings().accounts === 'off'
  return rows.map(({ id, recipient, subject, body, state, said, made, private: hidden }) => ({
    id,
    recipient,
    subject,
    body: hidden && !all ? null : body,
    private: hidden,
    state,
    said,
    made: made.toISOString(),
  }))
}

/** A letter with the file that goes with it. */
export interface LetterToSend extends Omit<Letter, 'delivery' | 'private'> {
  readonly attached?: { readonly delivery: string; readonly file: string }
}

/** A letter that waits to be sent; null when it is not there any more, or was sent. */
export async function letterToSend(q: Queries, id: string): Promise<LetterToSend | null> {
  const row = await q
    .selectFrom('letter')
    .leftJoin('delivery', 'delivery.id', 'letter.delivery')
    .select(['recipient', 'subject', 'body', 'delivery', 'file'])
    .where('letter.id', '=', id)
    .where('letter.state', '=', 'waiting')
    .executeTakeFirst()
  if (row?.body == null) return null
  const { recipient, subject, body, delivery, file } = row
  return { recipient, subject, body, ...(delivery === null || file === null ? {} : { attached: { delivery, file } }) }
}

/** A letter was taken by the mail server, or refused. What was in it is forgotten. @param said why not; null: it was taken */
export async function letterSettled(q: Queries, id: string, said: string | null): Promise<void> {
  await q
    .updateTable('letter')
    .set({ state: said === null ? 'sent' : 'failed', said: said?.slice(0, 500) ?? null, body: null })
    .where('id', '=', id)
    .execute()
}
