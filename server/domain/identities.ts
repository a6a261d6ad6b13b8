import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'

/** What a provider says of somebody (OpenID Connect Core 1.0, 5.1). */
export interface Identity {
  readonly issuer: string
  readonly subject: string
  readonly name: string
  /** In small letters; null: it was not told. */
  readonly email: string | null
  /** Whether the provider has made sure that the address is theirs. */
  readonly emailVerified: boolean
}

/**
 * Whose account an identity opens: the one it is known by; else one whose address is theirs by the word of both sides; else a new one,
 * where the provider's people are given accounts. In one transaction.
 * @returns the person
 * @throws Refusal `not-allowed` saying why it opens none
 */
export async function personOfIdentity(q: Queries, identity: Identity): Promise<string> {
  const { issuer, subject, email, emailVerified } = identity
  const known = await q
    .selectFrom('identity')
    .innerJoin('person', 'person.id', 'identity.person')
    .select(['person.id', 'person.blocked'])
    .where('issuer', '=', issuer)
    .where('subject', '=', subject)
    .executeTakeFirst()
  if (known !== undefined) return open(known)
  if (email === null || !emailVerified)
    throw new Refusal('not-allowed', 'Your provider does not vouch for your e-mail address, so no account can be opened by it.')
  const there = await q.selectFrom('person').select(['id', 'blocked', 'verified']).where('email', '=', email).forUpdate().executeTakeFirst()
  if (there !== undefined && there.verified === null)
    throw new Refusal(
      'not-allowed',
      `There is an account with the address ${email} whose owner has not shown that it is theirs. Open the link in its letter first, or ` +
        'ask whoever runs this server.',
    )
  const id = there === undefined ? await newPerson(q, identity, email) : open(there)
  await q.insertInto('identity').values({ issuer, subject, person: id }).execute()
  return id
}

function open({ id, blocked }: { readonly id: string; readonly blocked: Date | null }): string {
  if (blocked !== null) throw new Refusal('not-allowed', 'This account is blocked. Ask whoever runs this server.')
  return id
}

/** Makes an account for who is given one, or was invited. */
async function newPerson(q: Queries, { name }: Identity, email: string): Promise<string> {
  const invited = await q
    .deleteFrom('person_link')
    .where('kind', '=', 'invite')
    .where('address', '=', email)
    .where('until', '>', sql<Date>`now()`)
    .returning('operator')
    .executeTakeFirst()
  if (invited === undefined && settings().provider?.signUp !== true)
    throw new Refusal('not-allowed', `There is no account with the address ${email} here. Ask whoever runs this server for an invitation.`)
  const id = randomUUID()
  await q
    .insertInto('person')
    .values({ id, name: name.slice(0, 100), email, password: null, operator: invited?.operator ?? false, verified: sql`now()` })
    .execute()
  return id
}
