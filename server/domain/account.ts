import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { AccountView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { largestTalks } from './held-bytes'
import { sendLetter } from './letters'
import { quotaOf, quotaUseOf } from './person-quota'

/** So many of the talks that hold most are shown. */
const LARGEST_SHOWN = 5
const DAY = 86_400_000

/** When an account goes that was left at a moment. */
export const goesAt = (leaving: Date | null): string | null =>
  leaving === null ? null : new Date(leaving.getTime() + settings().graceDays * DAY).toISOString()

/** Somebody's own account. */
export async function accountView(q: Queries, person: string): Promise<AccountView> {
  const [quota, used, largest, row] = await Promise.all([
    quotaOf(q, person),
    quotaUseOf(q, person),
    largestTalks(q, person, LARGEST_SHOWN),
    q.selectFrom('person').select(['password', 'leaving']).where('id', '=', person).executeTakeFirstOrThrow(),
  ])
  const { untouchedDays } = settings()
  return {
    quota,
    used,
    largest,
    password: row.password !== null,
    goes: goesAt(row.leaving),
    keptUntouched: untouchedDays === 0 ? null : untouchedDays * DAY,
  }
}

/**
 * Somebody leaves, or stays after all: until the time of grace is over all that they have is there, then it is gone with them. In one
 * transaction.
 * @throws Refusal `conflict` when the server would be left without an operator
 */
export async function leave(q: Queries, person: string, leaves: boolean): Promise<void> {
  if (leaves) await anotherOperator(q, person)
  const row = await q
    .updateTable('person')
    .set({ leaving: leaves ? sql`coalesce(leaving, now())` : null })
    .where('id', '=', person)
    .returning(['email', 'leaving'])
    .executeTakeFirstOrThrow()
  if (row.email === null || row.leaving === null) return
  const day = (goesAt(row.leaving) ?? '').slice(0, 10)
  await sendLetter(q, person, {
    recipient: row.email,
    subject: 'Your account at Aisle Talk goes',
    body:
      `On ${day} your account goes with all talks, recordings, films and pages that are in it, for good.\n\n` +
      `Until then you can take everything along at ${settings().publicAddress}/archives, or stay after all at ` +
      `${settings().publicAddress}/account.\n`,
  })
}

/** @throws Refusal `conflict` when nobody else who can sign in runs the server */
export async function anotherOperator(q: Queries, person: string): Promise<void> {
  // Two operators who leave at the same moment take turns.
  const operators = await q
    .selectFrom('person')
    .select('id')
    .where('operator', '=', true)
    .where('blocked', 'is', null)
    .where('leaving', 'is', null)
    .orderBy('id')
    .forUpdate()
    .execute()
  if (operators.length > 0 && operators.every(({ id }) => id === person))
    throw new Refusal('conflict', 'Nobody else runs this server. Make somebody else an operator first.')
}
