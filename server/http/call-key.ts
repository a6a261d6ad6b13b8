import { getRouterParam } from 'h3'
import type { EventHandler, H3Event } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { callByKey } from '@server/domain'
import type { CallRow, Comer } from '@server/domain'
import { answer } from './answer'
import { networkOf } from './attempts'
import { partsHere } from './guests'
import { countWrongKey, refuseGuesser } from './viewer-limits'
import { whoAsks } from './who-asks'

async function callFrom(event: H3Event): Promise<CallRow> {
  const network = networkOf(event)
  await refuseGuesser(network)
  try {
    return await callByKey(database(), getRouterParam(event, 'key') ?? '')
  } catch (error) {
    if (error instanceof Refusal && error.code === 'not-found') await countWrongKey(network)
    throw error
  }
}

/** A route for whoever has the link of a call. */
export const answerForCallKey = <Result>(work: (event: H3Event, call: CallRow, comer: Comer) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const call = await callFrom(event)
    const [person, parts] = await Promise.all([whoAsks(event), partsHere(event)])
    return await work(event, call, { person, parts })
  })
