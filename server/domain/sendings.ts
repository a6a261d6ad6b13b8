import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { Recipe } from '@core/model'
import { factsOfDelivery, faultsIn, judge } from '@core/rules'
import { companyOf } from '@contracts'
import type { Receipt, SendingState, SendingWish } from '@contracts'
import type { Queries, ResumePoint, SendingNotes, SendingTable } from '@server/database'
import type { Selectable } from 'kysely'
import { tell } from './events'
import { finishedDelivery } from './finished-delivery'
import type { FinishedDelivery } from './finished-delivery'
import { handInOf } from './hand-ins'
import { addJob, removeJob } from './jobs'
import { openPlace } from './places'

/** Most files of a talk that are on their way at a time. */
const MOST_WAITING = 20

const jobOf = (id: string): string => `send-file:${id}`

/** @throws Refusal `conflict` with what the rules are not kept in, or when there is no desk */
async function deskFor(
  q: Queries,
  talk: string,
  { file, recipe, facts }: FinishedDelivery,
): Promise<{ address: string; notes: SendingNotes; name: string }> {
  const view = await handInOf(q, talk)
  const { rules, desk, fields } = view
  if (rules === null || desk === null)
    throw new Refusal('conflict', 'These rules did not come from a desk, so there is none to hand in at.')
  const faults = faultsIn(judge(rules, factsOfDelivery(file, recipe.format, facts), companyOf(view, Date.now())))
  if (faults.length > 0) throw new Refusal('conflict', `It would be refused. ${faults.join(' ')}`)
  return { address: desk, notes: { kind: 'fields', fields }, name: rules.name }
}

interface Recipient {
  readonly address: string
  readonly name: string
  readonly notes: SendingNotes
  readonly place: string | null
}

async function recipientOf(q: Queries, owner: string, talk: string, wish: SendingWish, file: FinishedDelivery): Promise<Recipient> {
  switch (wish.kind) {
    case 'desk':
      return { ...(await deskFor(q, talk, file)), place: null }
    case 'site':
      return { address: wish.address, name: new URL(wish.address).host, notes: { kind: 'site', ...wish.notes }, place: null }
    case 'place': {
      const { address, name } = await openPlace(q, owner, wish.place)
      return { address, name, notes: { kind: 'none' }, place: wish.place }
    }
  }
}

/**
 * Has a finished file sent, with what goes along. In one transaction.
 * @returns the sending's id
 * @throws Refusal `conflict` when the file is not finished, is on its way there already, or would be refused by the desk's rules
 */
export async function orderSending(q: Queries, owner: string, talk: string, delivery: string, wish: SendingWish): Promise<string> {
  // Two at once must not both be the last try.
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  const file = await finishedDelivery(q, talk, delivery, 'sent')
  const { address, name, notes, place } = await recipientOf(q, owner, talk, wish, file)
  const under = await q
    .selectFrom('sending')
    .select(['delivery', 'address'])
    .where('talk', '=', talk)
    .where('state', 'in', ['queued', 'sending'])
    .execute()
  if (under.some((one) => one.delivery === delivery && one.address === address))
    throw new Refusal('conflict', `This file is on its way to ${name} already.`)
  if (under.length >= MOST_WAITING)
    throw new Refusal('too-many', `${String(MOST_WAITING)} files are on their way already. Wait for one of them.`)
  const id = randomUUID()
  await q
    .insertInto('sending')
    .values({
      id,
      talk,
      delivery,
      kind: wish.kind,
      recipient: name,
      address,
      place,
      file: file.file,
      digest: null,
      total: file.facts.bytes,
      notes: JSON.stringify(notes),
      sentence: null,
      receipt: null,
    })
    .execute()
  await addJob(q, 'send-file', { sending: id }, jobOf(id))
  await tell(q, { talk, kind: 'sending', id })
  return id
}

/** Stops a file on its way; whoever sends it notices at its next piece. */
export async function cancelSending(q: Queries, talk: string, id: string): Promise<void> {
  await q
    .updateTable('sending')
    .set({ state: 'cancelled', sentence: 'Stopped.' })
    .where('id', '=', id)
    .where('state', 'in', ['queued', 'sending'])
    .execute()
  await removeJob(q, jobOf(id))
  await tell(q, { talk, kind: 'sending', id })
}

/** Sends a file on that did not arrive, from where it came to. @throws Refusal `conflict` when it is none of those, or is gone */
export async function retrySending(q: Queries, talk: string, id: string): Promise<void> {
  const changed = await q
    .updateTable('sending')
    .set({ state: 'queued', sentence: null })
    .where('id', '=', id)
    .where('state', 'in', ['failed', 'cancelled'])
    .where('delivery', 'is not', null)
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) throw new Refusal('conflict', 'This file does not wait to be sent again.')
  await addJob(q, 'send-file', { sending: id }, jobOf(id))
  await tell(q, { talk, kind: 'sending', id })
}

/** A file that is to be sent, with its owner and what it was made as. */
export type SendingToDo = Selectable<SendingTable> & {
  readonly delivery: string
  readonly owner: string
  readonly recipe: Recipe
}

/** Takes up a file that somebody waits for; null when nobody does any more, or the file is gone. */
export async function sendingToDo(q: Queries, id: string): Promise<SendingToDo | null> {
  const row = await q
    .updateTable('sending')
    .set({ state: 'sending' })
    .where('id', '=', id)
    .where('state', 'in', ['queued', 'sending'])
    .returningAll()
    .executeTakeFirst()
  if (row === undefined) return null
  const { delivery } = row
  const file = await q
    .selectFrom('talk')
    .leftJoin('delivery', 'delivery.talk', 'talk.id')
    .select(['talk.owner', 'delivery.recipe'])
    .where('talk.id', '=', row.talk)
    .where('delivery.id', '=', delivery)
    .executeTakeFirst()
  if (delivery === null || file?.recipe == null) {
    await settleSending(q, row, { state: 'failed', sentence: 'The file was deleted before it was sent.' })
    return null
  }
  await tell(q, { talk: row.talk, kind: 'sending', id })
  return { ...row, delivery, owner: file.owner, recipe: file.recipe }
}

/** Notes how far a file came. @returns whether somebody still waits for it */
export async function sendingProgress(
  q: Queries,
  { id, talk }: { readonly id: string; readonly talk: string },
  now: { readonly sent?: number; readonly total?: number; readonly digest?: string; readonly resume?: ResumePoint },
): Promise<boolean> {
  const { resume, ...columns } = now
  const changed = await q
    .updateTable('sending')
    .set({ ...columns, ...(resume === undefined ? {} : { resume: JSON.stringify(resume) }) })
    .where('id', '=', id)
    .where('state', '=', 'sending')
    .executeTakeFirst()
  if (changed.numUpdatedRows > 0n) await tell(q, { talk, kind: 'sending', id })
  return changed.numUpdatedRows > 0n
}

/** How a sending ended. */
export type SendingEnd =
  | { readonly state: Extract<SendingState, 'done'>; readonly file: string; readonly receipt: Receipt }
  | { readonly state: Extract<SendingState, 'refused' | 'failed'>; readonly sentence: string }

/** A sending came to its end; one that was stopped meanwhile stays so. What was left over there is of no use once it was refused. */
export async function settleSending(
  q: Queries,
  { id, talk }: { readonly id: string; readonly talk: string },
  end: SendingEnd,
): Promise<void> {
  const columns =
    end.state === 'done'
      ? { state: end.state, file: end.file, receipt: JSON.stringify(end.receipt), sentence: null }
      : { state: end.state, sentence: end.sentence.slice(0, 2000), ...(end.state === 'refused' ? { resume: '{}' } : {}) }
  await q
    .updateTable('sending')
    .set((build) => ({ ...columns, ...(end.state === 'done' ? { sent: build.ref('total') } : {}) }))
    .where('id', '=', id)
    .where('state', 'in', ['queued', 'sending'])
    .execute()
  await tell(q, { talk, kind: 'sending', id })
}

/** Whose a sending is. For our own use: nobody is told. */
export const talkOfSending = async (q: Queries, id: string): Promise<string | null> =>
  (await q.selectFrom('sending').select('talk').where('id', '=', id).executeTakeFirst())?.talk ?? null
