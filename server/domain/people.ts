import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { PersonView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { sendLetter } from './letters'
import { makePersonLink, takePersonLink } from './person-links'
import { endPlaces } from './signed-in'

/** The one person of a machine without accounts. Fixed, so that a second start finds the same talks. */
const LOCAL = '00000000-0000-4000-8000-000000000001'

const view = ({ id, name, email, operator }: PersonView): PersonView => ({ id, name, email, operator })

/** Whether this process has seen to it that there is such a person. */
let madeLocal = false

/** The one person of a machine without accounts, who runs it; made when first asked for. */
export async function localPerson(q: Queries): Promise<PersonView> {
  if (!madeLocal)
    await q
      .insertInto('person')
      .values({ id: LOCAL, name: 'You', email: null, password: null })
      .onConflict((conflict) => conflict.doNothing())
      .execute()
  madeLocal = true
  return { id: LOCAL, name: 'You', email: null, operator: true }
}

/** What somebody is called by others; empty on a machine without accounts, where nobody is named. */
export async function publicName(q: Queries, person: string): Promise<string> {
  if (settings().accounts === 'off') return ''
  return (await q.selectFrom('person').select('name').where('id', '=', person).executeTakeFirst())?.name ?? ''
}

/** Whether an address is of one of the domains whose people may make accounts. */
const isOfDomains = (email: string): boolean => settings().signUpDomains.includes(email.split('@').at(-1) ?? '')

/** @throws Refusal `not-allowed` unless whoever has this address may make an account for themselves */
function maySignUp(email: string): void {
  const { signUp, signUpDomains } = settings()
  if (signUp === 'open' || (signUp === 'domain' && isOfDomains(email))) return
  throw new Refusal(
    'not-allowed',
    signUp === 'domain'
      ? `Accounts here are for addresses that end in ${signUpDomains.join(' or ')}. With another, ask whoever runs this server for an ` +
          'invitation.'
      : 'New accounts are not made here by oneself. Ask whoever runs this server for an invitation.',
  )
}

/** Somebody who makes an account. */
export interface NewPerson {
  readonly name: string
  readonly email: string
  /** Hashed already; null: they sign in by a provider. */
  readonly password: string | null
}

/**
 * Makes an account, unless there is one with this address: whoever asked is not told which. Where there is a mail server, the address has
 * to be shown to be theirs before anybody signs in. In one transaction.
 * @throws Refusal `not-allowed` when they may not
 */
export async function signUp(q: Queries, { name, email, password }: NewPerson): Promise<void> {
  maySignUp(email)
  const id = randomUUID()
  const made = await q
    .insertInto('person')
    .values({ id, name, email, password })
    .onConflict((conflict) => conflict.doNothing())
    .returning('id')
    .executeTakeFirst()
  if (made === undefined || !addressesAreShown()) return
  await writeVerification(q, id, email)
}

/** Writes to an address by which somebody made an account, so that they show that it is theirs. In one transaction. */
export async function writeVerification(q: Queries, id: string, email: string): Promise<void> {
  const link = await makePersonLink(q, { kind: 'verify', address: email, person: id, by: null })
  await sendLetter(q, id, {
    recipient: email,
    subject: 'Your account at Aisle Talk',
    body:
      `Somebody made an account with this address. If it was you, open this link within three days; then sign in:\n\n${link}\n\n` +
      'If it was not you, do nothing: without this letter nobody gets in.\n',
    private: true,
  })
}

/** Whether addresses are shown to be somebody's by letters; without a mail server nobody can. */
export const addressesAreShown = (): boolean => settings().smtpUrl !== null

/** Somebody came by the link of a letter that only they have. In one transaction. @returns who */
export async function showAddress(q: Queries, key: string): Promise<string> {
  const { person } = await takePersonLink(q, key, 'verify')
  const row = await q
    .updateTable('person')
    .set({ verified: sql`now()` })
    .where('id', '=', person)
    .returning('id')
    .executeTakeFirstOrThrow()
  return row.id
}

/** Invites somebody: the letter is sent, and its link given for who has no mail server. In one transaction. @throws Refusal `conflict` */
export async function invite(q: Queries, by: PersonView | null, email: string, operator: boolean): Promise<string> {
  const there = await q.selectFrom('person').select('id').where('email', '=', email).executeTakeFirst()
  if (there !== undefined) throw new Refusal('conflict', `${email} has an account already.`)
  const link = await makePersonLink(q, { kind: 'invite', address: email, person: null, operator, by: by?.id ?? null })
  if (by === null) return link
  await sendLetter(q, by.id, {
    recipient: email,
    subject: 'You are invited to Aisle Talk',
    body:
      `${by.name} invites you to record talks at ${settings().publicAddress}. Open this link within two weeks and choose a ` +
      `password:\n\n${link}\n`,
    private: true,
  })
  return link
}

/** Makes the account that somebody was invited to. Their address is theirs: the link went there. In one transaction. @returns who */
export async function joinByInvitation(q: Queries, key: string, name: string, password: string): Promise<string> {
  const { address, operator } = await takePersonLink(q, key, 'invite')
  const made = await q
    .insertInto('person')
    .values({ id: randomUUID(), name, email: address, password, operator, verified: sql`now()` })
    .onConflict((conflict) => conflict.doNothing())
    .returning('id')
    .executeTakeFirst()
  if (made === undefined) throw new Refusal('conflict', `${address} has an account already. Sign in with its password.`)
  return made.id
}

/** Writes to somebody who does not know their password any more, if they have an account. Whoever asks is not told. In one transaction. */
export async function writeReset(q: Queries, email: string): Promise<void> {
  const person = await q.selectFrom('person').select('id').where('email', '=', email).where('blocked', 'is', null).executeTakeFirst()
  if (person === undefined) return
  const link = await resetLink(q, person.id, email, null)
  await sendLetter(q, person.id, {
    recipient: email,
    subject: 'Another password for Aisle Talk',
    body:
      `Somebody asked for another password for your account. If it was you, this link sets one, once and within the hour:\n\n${link}\n\n` +
      'If it was not you, do nothing: your password stays as it is.\n',
    private: true,
  })
}

/** A link that sets somebody's password. @param by the operator who asked for it; null: they themselves */
export const resetLink = (q: Queries, person: string, address: string, by: string | null): Promise<string> =>
  makePersonLink(q, { kind: 'reset', address, person, by })

/** Sets a password by a link; all places that were signed in are so no longer. In one transaction. @returns whose */
export async function resetPassword(q: Queries, key: string, password: string): Promise<string> {
  const { person } = await takePersonLink(q, key, 'reset')
  if (person === null) throw new Error('a link to a password is somebody’s')
  // Whoever has the letter has the address.
  await q
    .updateTable('person')
    .set({ verified: sql`coalesce(verified, now())` })
    .where('id', '=', person)
    .execute()
  await setPassword(q, person, null, password)
  return person
}

/** Sets a password by who is signed in; every other place is so no longer. @param password hashed already */
export const changePassword = (q: Queries, person: string, here: string, password: string): Promise<void> =>
  setPassword(q, person, here, password)

/** Sets a password, ends all places but one, and tells whose it is. */
async function setPassword(q: Queries, person: string, here: string | null, password: string): Promise<void> {
  const { email } = await q.updateTable('person').set({ password }).where('id', '=', person).returning('email').executeTakeFirstOrThrow()
  await endPlaces(q, person, here)
  if (email === null) return
  await sendLetter(q, person, {
    recipient: email,
    subject: 'Your password at Aisle Talk is another one',
    body:
      `The password of your account at ${settings().publicAddress} was changed, and every other browser is signed out. If it was you, ` +
      `all is well. If it was not, ask for another one at ${settings().publicAddress}/sign-in, and tell whoever runs the server.\n`,
  })
}

/** A person with what is looked at when they sign in. */
export interface PersonToSignIn extends PersonView {
  readonly password: string
  readonly blocked: boolean
  readonly verified: boolean
}

/** Who has an address and signs in by a password. */
export async function personByEmail(q: Queries, email: string): Promise<PersonToSignIn | null> {
  const row = await q.selectFrom('person').selectAll().where('email', '=', email).executeTakeFirst()
  if (row?.password == null) return null
  return { ...view(row), password: row.password, blocked: row.blocked !== null, verified: row.verified !== null }
}

/** The hash of somebody's own password; null: they sign in by a provider alone. */
export const passwordOf = async (q: Queries, person: string): Promise<string | null> =>
  (await q.selectFrom('person').select('password').where('id', '=', person).executeTakeFirst())?.password ?? null
