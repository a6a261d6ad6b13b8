import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { takingAt } from '@core/calls'
import type { CallTerms } from '@core/calls'
import { Refusal } from '@core/model'
import type { BegunView, CallSheet, PersonView } from '@contracts'
import type { Queries } from '@server/database'
import { peopleCalled } from './calls'
import type { CallRow } from './calls'
import { copySlides } from './copied-slides'
import { slidesOf } from './decks'
import { ownAddress, partByToken } from './entrant-links'
import type { KnownPart } from './entrant-links'
import { addEntrants, entrantOfAddress, listedEntrant } from './entrants'
import type { EntrantRow } from './entrants'
import { takeRules } from './hand-ins'
import { sendOwnLink } from './call-letters'
import { publicName } from './people'
import { addTalk, recipeOf, saveRecipe } from './talks'

/** Most people who take part in one call. */
const MOST_PARTS = 5000

const noCall = (): Refusal =>
  new Refusal('not-found', 'Nothing is asked for here. The link may be incomplete: ask whoever gave it to you for the one that holds.')

export const termsOf = ({ until, late, deleted }: Pick<CallRow, 'until' | 'late' | 'deleted'>): CallTerms => ({
  until: until.getTime(),
  late,
  withdrawn: deleted !== null,
})

/** The moment by the database's clock, which is the same for all processes, in ms since 1970. */
export const databaseNow = async (q: Queries): Promise<number> =>
  (await sql<{ now: Date }>`select clock_timestamp() as now`.execute(q)).rows[0]?.now.getTime() ?? Date.now()

/** @throws Refusal `not-found` */
export async function callByKey(q: Queries, key: string): Promise<CallRow> {
  const row = await q.selectFrom('call').selectAll().where('key', '=', key).executeTakeFirst()
  if (row === undefined) throw noCall()
  return row
}

/** Parts in calls of which a browser knows the links that hold, with whose they are. */
export async function partsKnown(q: Queries, known: readonly KnownPart[]) {
  if (known.length === 0) return []
  const rows = await q
    .selectFrom('entrant')
    .leftJoin('person', 'person.id', 'entrant.person')
    .leftJoin('talk', (join) => join.onRef('talk.id', '=', 'entrant.talk').on('talk.deleted', 'is', null))
    .select(['entrant.id', 'entrant.call', 'entrant.name', 'entrant.address', 'entrant.link_number', 'entrant.begun', 'talk.id as talk'])
    .select(['person.id as person', 'person.name as called', 'person.guest'])
    .where(
      'entrant.id',
      'in',
      known.map(({ entrant }) => entrant),
    )
    .execute()
  return rows.filter(({ id, link_number }) => known.some((one) => one.entrant === id && one.number === link_number))
}
export type PartKnown = Awaited<ReturnType<typeof partsKnown>>[number]

/** People without an account of whom a browser knows the links. Whoever signs in is not let in by such a link. */
export const guestsOf = (parts: readonly PartKnown[]): readonly PersonView[] =>
  parts.flatMap(({ person, called, guest }) =>
    person === null || guest !== true ? [] : [{ id: person, name: called ?? '', email: null, operator: false }],
  )

/** Who comes to the page of a call. */
export interface Comer {
  /** Who is signed in; null: nobody. */
  readonly person: PersonView | null
  /** Parts in calls that their browser knows. */
  readonly parts: readonly PartKnown[]
}

/** Somebody's part in a call: by the link that their browser knows, or as who is signed in. */
async function partIn(q: Queries, call: CallRow, { person, parts }: Comer) {
  const known = parts.find((one) => one.call === call.id)
  if (known !== undefined || person === null) return known ?? null
  const own = await q
    .selectFrom('entrant')
    .select(['id', 'link_number'])
    .where('call', '=', call.id)
    .where('person', '=', person.id)
    .executeTakeFirst()
  if (own === undefined) return null
  return (await partsKnown(q, [{ entrant: own.id, number: own.link_number }]))[0] ?? null
}

/** A call as those see it who are asked. */
export async function callSheet(q: Queries, call: CallRow, comer: Comer): Promise<CallSheet> {
  const [part, now, organiser] = await Promise.all([partIn(q, call, comer), databaseNow(q), publicName(q, call.owner)])
  return {
    title: call.title,
    asks: call.asks,
    organiser,
    rules: call.rules,
    until: call.until.toISOString(),
    late: call.late,
    over: now > call.until.getTime(),
    withdrawn: call.deleted !== null,
    listed: call.audience !== 'link',
    accounts: call.accounts,
    signedIn: comer.person !== null,
    address: call.address,
    deck: call.deck !== null,
    own: part === null ? null : { name: part.name, talk: part.talk },
  }
}

/** What somebody says of themselves who begins. */
export interface Beginner {
  readonly name: string
  readonly address: string | null
}

/** Somebody new who comes by the link of a call. In one transaction. */
async function newPart(q: Queries, call: CallRow, { name, address }: Beginner): Promise<string> {
  if (call.audience !== 'link')
    throw new Refusal('not-allowed', 'This call is for people who were named. Have your own link sent to your address, and begin by that.')
  if (call.address === 'required' && address === null)
    throw new Refusal('malformed', 'Say your address too: receipts and remarks are sent there.')
  const { count } = await q
    .selectFrom('entrant')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('call', '=', call.id)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_PARTS) throw new Refusal('too-many', 'As many people as can have begun already. Write to whoever asked for it.')
  const [id] = await addEntrants(q, call, [{ name, address: call.address === 'no' ? null : address }])
  if (id === undefined)
    throw new Refusal('conflict', 'A talk was begun by this address already. Have its link sent there, and go on with that.', {
      begun: true,
    })
  return id
}

async function newGuest(q: Queries, name: string): Promise<string> {
  const id = randomUUID()
  await q.insertInto('person').values({ id, name, email: null, password: null, guest: true }).execute()
  return id
}

/** Gives an empty talk the slides of the deck that a call begins with, while that is there. */
async function beginWithDeck(q: Queries, call: CallRow, talk: string): Promise<void> {
  if (call.deck === null) return
  const deck = await q
    .selectFrom('talk')
    .select(['shape', 'language'])
    .where('id', '=', call.deck)
    .where('deleted', 'is', null)
    .executeTakeFirst()
  if (deck === undefined) return
  await q
    .updateTable('talk')
    .set({ shape: JSON.stringify(deck.shape), language: deck.language })
    .where('id', '=', talk)
    .execute()
  const slides = (await slidesOf(q, call.deck)).map(({ id }) => id)
  if (slides.length > 0) await copySlides(q, call.deck, slides, talk, 0)
}

/** Has a talk made by the rules of a call, as they are now. In one transaction. */
export async function takeCallRules(q: Queries, call: CallRow, talk: string): Promise<void> {
  await takeRules(q, talk, call.rules, null)
  const recipe = await recipeOf(q, talk)
  // What is taken although it is too long has to be made first.
  if (call.faulty === 'marked' && recipe?.limit.kind === 'hold')
    await saveRecipe(q, talk, { ...recipe, limit: { ...recipe.limit, kind: 'warn' } })
}

/** Makes the talk of somebody who takes part, and has it theirs. In one transaction. @returns its id */
async function beginTalk(q: Queries, call: CallRow, entrant: EntrantRow, account: string | null, name: string): Promise<string> {
  const called = entrant.name === '' ? name : entrant.name
  const person = entrant.person ?? account ?? (await newGuest(q, called))
  const talk = await addTalk(q, person, call.title, null)
  await beginWithDeck(q, call, talk)
  await takeCallRules(q, call, talk)
  await q
    .updateTable('entrant')
    .set({ person, talk, rules_version: call.rules_version, begun: sql<Date>`now()`, name: called })
    .where('id', '=', entrant.id)
    .execute()
  if (entrant.begun === null && !call.accounts) await sendOwnLink(q, call, entrant)
  return talk
}

/** @throws Refusal `conflict` when nothing is taken any more, `not-signed-in` where entrants have accounts */
async function refuseUnlessOpen(q: Queries, call: CallRow, { person }: Comer): Promise<void> {
  if (call.accounts && person === null)
    throw new Refusal('not-signed-in', 'This call is for people with an account here. Sign in, then begin.')
  const taking = takingAt(termsOf(call), [], await databaseNow(q))
  if (taking.kind === 'refused') throw new Refusal('conflict', taking.sentence)
}

/**
 * Begins a talk for a call: an empty one, or with its deck, with limit and rules set. Who has one already is given that. In one
 * transaction.
 * @throws Refusal `not-signed-in` where entrants have accounts, `conflict` when nothing is taken any more or the address has begun,
 * `not-allowed` to who is not listed
 */
export async function beginPart(
  q: Queries,
  key: string,
  comer: Comer,
  beginner: Beginner,
): Promise<{ readonly part: KnownPart; readonly begun: BegunView }> {
  const call = await callByKey(q, key)
  // Two that begin at the same moment are counted together, and one who begins twice has one talk.
  await q.selectFrom('call').select('id').where('id', '=', call.id).forUpdate().execute()
  const own = await partIn(q, call, comer)
  if (own?.talk != null) {
    const part = { entrant: own.id, number: own.link_number }
    return { part, begun: { talk: own.talk, link: ownAddress(key, part) } }
  }
  await refuseUnlessOpen(q, call, comer)
  const id = own?.id ?? (await newPart(q, call, beginner))
  const entrant = await q.selectFrom('entrant').selectAll().where('id', '=', id).forUpdate().executeTakeFirstOrThrow()
  const account = call.accounts ? (comer.person?.id ?? null) : null
  const talk = await beginTalk(q, call, entrant, account, beginner.name)
  const part = { entrant: id, number: entrant.link_number }
  return { part, begun: { talk, link: ownAddress(key, part) } }
}

/**
 * Somebody comes by a link of their own.
 * @returns their part, to be remembered by their browser
 * @throws Refusal `not-found` when it opens nothing, whatever the reason
 */
export async function enterByLink(q: Queries, key: string, token: string): Promise<KnownPart> {
  const [call, part] = [await callByKey(q, key), await partByToken(q, token)]
  if (part?.call !== call.id)
    throw new Refusal('not-found', 'This link opens nothing. It may be incomplete, or another was sent since. Have yours sent again.')
  return { entrant: part.entrant, number: part.number }
}

/**
 * Sends somebody the link that is theirs, if they take part or are listed. Whoever asks is not told. In one transaction.
 */
export async function sendLinkTo(q: Queries, key: string, address: string): Promise<void> {
  const call = await callByKey(q, key)
  const listed = (await peopleCalled(q, call)).find((one) => one.address === address)
  const row = listed === undefined ? await entrantOfAddress(q, call.id, address) : await listedEntrant(q, call, listed)
  if (row !== undefined) await sendOwnLink(q, call, row)
}

/** Gives somebody another link: who has the one that there was is not let in by it any more. */
export async function renewPartLink(q: Queries, entrant: string): Promise<KnownPart> {
  const { link_number: number } = await q
    .updateTable('entrant')
    .set((build) => ({ link_number: build('link_number', '+', 1) }))
    .where('id', '=', entrant)
    .returning('link_number')
    .executeTakeFirstOrThrow()
  return { entrant, number }
}
