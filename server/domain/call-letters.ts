import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { Queries } from '@server/database'
import { callAddress, ownAddress } from './entrant-links'
import { peopleCalled } from './calls'
import type { CallRow } from './calls'
import { addEntrants } from './entrants'
import type { EntrantRow } from './entrants'
import { sendLetter } from './letters'

/** Nobody is reminded again within so many minutes. */
const REMIND_AGAIN = 60

const dayOf = (moment: Date): string =>
  `${new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeStyle: 'short', timeZone: 'UTC' }).format(moment)} (UTC)`

const linkOf = (call: CallRow, { id, link_number: number }: EntrantRow): string =>
  call.accounts ? callAddress(call.key) : ownAddress(call.key, { entrant: id, number })

/** What stands under every letter of a call. */
const ending = (call: CallRow, entrant: EntrantRow): string =>
  `Your talk is here:\n\n${linkOf(call, entrant)}\n\n` +
  (call.accounts ? 'Sign in to get to it.\n' : 'This link is yours alone: whoever has it can change your talk and hand it in.\n')

/** Writes to somebody who takes part, if their address is known. @returns whether it is */
async function write(q: Queries, call: CallRow, entrant: EntrantRow, subject: string, words: string): Promise<boolean> {
  if (entrant.address === null) return false
  await sendLetter(q, call.owner, {
    recipient: entrant.address,
    subject: `${subject}: ${call.title}`,
    body: `${words}\n\n${ending(call, entrant)}`,
    private: true,
  })
  return true
}

const asked = (call: CallRow): string => `${call.asks === '' ? '' : `${call.asks}\n\n`}The last moment is ${dayOf(call.until)}.`

/** Sends somebody the link by which they find their talk, or begin it. */
export const sendOwnLink = (q: Queries, call: CallRow, entrant: EntrantRow): Promise<boolean> =>
  write(q, call, entrant, 'Your link', `Here is the link to your talk for “${call.title}”.\n\n${asked(call)}`)

/** What was handed in, as far as a receipt says it. */
export interface Received {
  readonly title: string
  readonly file: string
  readonly digest: string
  readonly at: Date
  readonly late: boolean
}

/** Tells somebody that what they handed in was taken. */
export const sendReceipt = (
  q: Queries,
  call: CallRow,
  entrant: EntrantRow,
  { title, file, digest, at, late }: Received,
): Promise<boolean> =>
  write(
    q,
    call,
    entrant,
    'Handed in',
    `“${title}” was handed in on ${dayOf(at)}${late ? ', after the last day' : ''}.\n\nFile: ${file}\nSHA-256: ${digest}`,
  )

/** Tells somebody why what they handed in was not taken. */
export const sendNotTaken = (q: Queries, call: CallRow, entrant: EntrantRow, sentence: string): Promise<boolean> =>
  write(q, call, entrant, 'Not handed in', `What you handed in was not taken. ${sentence}`)

/** Tells somebody what was said of what they handed in. */
export const sendRemark = (q: Queries, call: CallRow, entrant: EntrantRow, sentBack: boolean, remark: string): Promise<boolean> =>
  write(
    q,
    call,
    entrant,
    sentBack ? 'Sent back' : 'Accepted',
    (sentBack ? 'It was looked at, and is to be handed in again.' : 'What you handed in was accepted.') +
      (remark === '' ? '' : `\n\n${remark}`),
  )

const MINUTES = sql.lit(REMIND_AGAIN)

async function noteWritten(q: Queries, as: 'invited' | 'reminded', entrants: readonly EntrantRow[]): Promise<void> {
  if (entrants.length === 0) return
  const ids = entrants.map(({ id }) => id)
  await q
    .updateTable('entrant')
    .set({ [as]: sql<Date>`now()` })
    .where('id', 'in', ids)
    .execute()
}

/**
 * Writes to everybody of whom nothing was taken yet: who is listed and was not written to gets an invitation, all others are reminded,
 * but nobody twice within the hour. In one transaction.
 * @param only entrants who are written to; null: all
 * @returns how many were written to
 * @throws Refusal `conflict` when the call is over and takes nothing any more
 */
export async function writeToMissing(q: Queries, call: CallRow, only: readonly string[] | null): Promise<number> {
  if (call.late === 'refused' && call.until.getTime() < Date.now())
    throw new Refusal('conflict', 'The last day is over. Put it off first; then there is something to remind people of.')
  const people = await peopleCalled(q, call)
  await addEntrants(q, call, people)
  const listed = new Set(people.map(({ address }) => address))
  const missing = await q
    .selectFrom('entrant')
    .selectAll()
    .where('call', '=', call.id)
    .where('address', 'is not', null)
    .where((is) =>
      is.not(is.exists(is.selectFrom('entry').select('id').whereRef('entry.entrant', '=', 'entrant.id').where('state', '=', 'taken'))),
    )
    .where(sql<boolean>`(reminded is null or reminded < now() - make_interval(mins => ${MINUTES}))`)
    .where(sql<boolean>`(invited is null or invited < now() - make_interval(mins => ${MINUTES}))`)
    .$if(only !== null, (query) => query.where('id', 'in', [...(only ?? [])]))
    .execute()
  // Who was taken off the list and has not begun is not asked any more.
  const concerned = missing.filter(({ begun, address }) => begun !== null || listed.has(address ?? ''))
  const isFirst = ({ invited, begun }: EntrantRow): boolean => invited === null && begun === null
  for (const entrant of concerned) {
    if (isFirst(entrant)) await write(q, call, entrant, 'A talk of yours', `A talk is asked of you: “${call.title}”.\n\n${asked(call)}`)
    else await write(q, call, entrant, 'Still to be handed in', `Nothing of yours was handed in yet for “${call.title}”.\n\n${asked(call)}`)
  }
  await noteWritten(q, 'invited', concerned.filter(isFirst))
  await noteWritten(
    q,
    'reminded',
    concerned.filter((one) => !isFirst(one)),
  )
  return concerned.length
}

/** Writes somebody's link to them once more. @throws Refusal `not-found`, `conflict` when their address is not known */
export async function sendLinkAgain(q: Queries, call: CallRow, entrant: string): Promise<void> {
  const row = await q.selectFrom('entrant').selectAll().where('id', '=', entrant).where('call', '=', call.id).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', 'Nobody of that name takes part any more.')
  if (!(await sendOwnLink(q, call, row)))
    throw new Refusal('conflict', `${row.name} gave no address, so nothing can be sent. They can begin again by the link of the call.`)
}
