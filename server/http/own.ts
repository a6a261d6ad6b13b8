import type { EventHandler, H3Event } from 'h3'
import type { DeliveryId, StretchId, TakeId, TalkId } from '@core/model'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { ownDelivery, ownSending, ownStretch, ownTake, ownTalk } from '@server/domain'
import { answerTo, idOf } from './answer'

/** A route about a talk, open to its owner alone. */
export const answerForTalk = <Result>(work: (event: H3Event, talk: TalkId, person: PersonView) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    const talk = idOf<'talk'>(event, 'talk')
    await ownTalk(database(), person.id, talk)
    return await work(event, talk, person)
  })

/** A route about a take, open to the owner of its talk alone. */
export const answerForTake = <Result>(work: (event: H3Event, take: TakeId, talk: string) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    const take = idOf<'take'>(event, 'take')
    return await work(event, take, await ownTake(database(), person.id, take))
  })

/** A route about a stretch, open to the owner of its talk alone. */
export const answerForStretch = <Result>(
  work: (event: H3Event, stretch: StretchId, of: { readonly talk: string; readonly take: string }) => Promise<Result>,
): EventHandler =>
  answerTo(async (event, person) => {
    const stretch = idOf<'stretch'>(event, 'stretch')
    return await work(event, stretch, await ownStretch(database(), person.id, stretch))
  })

/** A route about a delivery, open to the owner of its talk alone. */
export const answerForDelivery = <Result>(
  work: (event: H3Event, delivery: DeliveryId, talk: string, person: PersonView) => Promise<Result>,
): EventHandler =>
  answerTo(async (event, person) => {
    const delivery = idOf<'delivery'>(event, 'delivery')
    return await work(event, delivery, await ownDelivery(database(), person.id, delivery), person)
  })

/** A route about a file on its way, open to the owner of its talk alone. */
export const answerForSending = <Result>(work: (event: H3Event, sending: string, talk: string) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    const sending = idOf<'sending'>(event, 'sending')
    return await work(event, sending, await ownSending(database(), person.id, sending))
  })
