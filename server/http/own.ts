import type { EventHandler, H3Event } from 'h3'
import { Refusal } from '@core/model'
import type { DeliveryId, StretchId, TakeId, TalkId } from '@core/model'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { ownCall, ownDelivery, ownSending, ownStretch, ownTake, ownTalk } from '@server/domain'
import type { CallRow } from '@server/domain'
import { answer, answerTo, idOf } from './answer'
import { guestsHere } from './guests'
import { whoAsks } from './who-asks'

/*
 * Routes about a talk are open to its owner: to who is signed in, and to who came by the link of a part in a call. What goes beyond the
 * talk itself, such as showing it or sending it to others, is for people with an account.
 */

/** As whom a browser is known. @throws Refusal `not-signed-in` when as nobody */
export async function askers(event: H3Event): Promise<readonly PersonView[]> {
  const [person, guests] = await Promise.all([whoAsks(event), guestsHere(event)])
  const all = person === null ? guests : [person, ...guests]
  if (all.length === 0) throw new Refusal('not-signed-in', 'Sign in to go on.')
  return all
}
const idsOf = (people: readonly PersonView[]): readonly string[] => people.map(({ id }) => id)
const personOf = (people: readonly PersonView[], owner: string): PersonView => {
  const found = people.find(({ id }) => id === owner)
  if (found === undefined) throw new Error('the owner is none of those who ask')
  return found
}

/** A route about a talk, open to its owner alone. */
export const answerForTalk = <Result>(work: (event: H3Event, talk: TalkId, person: PersonView) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const people = await askers(event)
    const talk = idOf<'talk'>(event, 'talk')
    const owner = await ownTalk(database(), idsOf(people), talk)
    return await work(event, talk, personOf(people, owner))
  })

/** A route about a talk that its owner may ask who is signed in. */
export const answerForAccountTalk = <Result>(work: (event: H3Event, talk: TalkId, person: PersonView) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    const talk = idOf<'talk'>(event, 'talk')
    await ownTalk(database(), [person.id], talk)
    return await work(event, talk, person)
  })

/** A route about a take, open to the owner of its talk alone. */
export const answerForTake = <Result>(work: (event: H3Event, take: TakeId, talk: string) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const people = await askers(event)
    const take = idOf<'take'>(event, 'take')
    return await work(event, take, (await ownTake(database(), idsOf(people), take)).talk)
  })

/** A route about a stretch, open to the owner of its talk alone. */
export const answerForStretch = <Result>(
  work: (event: H3Event, stretch: StretchId, of: { readonly talk: string; readonly take: string }) => Promise<Result>,
): EventHandler =>
  answer(async (event) => {
    const people = await askers(event)
    const stretch = idOf<'stretch'>(event, 'stretch')
    return await work(event, stretch, await ownStretch(database(), idsOf(people), stretch))
  })

/** A route about a delivery, open to the owner of its talk alone. */
export const answerForDelivery = <Result>(
  work: (event: H3Event, delivery: DeliveryId, talk: string, person: PersonView) => Promise<Result>,
): EventHandler =>
  answer(async (event) => {
    const people = await askers(event)
    const delivery = idOf<'delivery'>(event, 'delivery')
    const { talk, owner } = await ownDelivery(database(), idsOf(people), delivery)
    return await work(event, delivery, talk, personOf(people, owner))
  })

/** A route about a delivery that the owner of its talk may ask who is signed in. */
export const answerForAccountDelivery = <Result>(
  work: (event: H3Event, delivery: DeliveryId, talk: string, person: PersonView) => Promise<Result>,
): EventHandler =>
  answerTo(async (event, person) => {
    const delivery = idOf<'delivery'>(event, 'delivery')
    const { talk } = await ownDelivery(database(), [person.id], delivery)
    return await work(event, delivery, talk, person)
  })

/** A route about a file on its way, open to the owner of its talk alone. */
export const answerForSending = <Result>(work: (event: H3Event, sending: string, talk: string) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    const sending = idOf<'sending'>(event, 'sending')
    return await work(event, sending, await ownSending(database(), person.id, sending))
  })

/** A route about a call, open to who made it alone. */
export const answerForCall = <Result>(work: (event: H3Event, call: CallRow, person: PersonView) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => await work(event, await ownCall(database(), person.id, idOf<'call'>(event, 'call')), person))
