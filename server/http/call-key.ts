import { getRouterParam } from 'h3'
import type { EventHandler, H3Event } from 'h3'
import { database } from '@server/database'
import { callByKey } from '@server/domain'
import type { CallRow, Comer } from '@server/domain'
import { answer } from './answer'
import { guarded } from './guarded'
import { partsHere } from './guests'
import { whoAsks } from './who-asks'

const callFrom = (event: H3Event): Promise<CallRow> => guarded(event, () => callByKey(database(), getRouterParam(event, 'key') ?? ''))

/** A route for whoever has the link of a call. */
export const answerForCallKey = <Result>(work: (event: H3Event, call: CallRow, comer: Comer) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const call = await callFrom(event)
    const [person, parts] = await Promise.all([whoAsks(event), partsHere(event)])
    return await work(event, call, { person, parts })
  })
