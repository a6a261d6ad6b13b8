import { getRouterParam } from 'h3'
import type { EventHandler, H3Event } from 'h3'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { accessByKey, accessToTalk, readPass, screeningOf } from '@server/domain'
import type { Access, Audience, Screening, ScreeningVersion } from '@server/domain'
import { answer } from './answer'
import { networkOf } from './attempts'
import { countWrongKey, refuseGuesser } from './viewer-limits'
import { visitorOf } from './visitor'

/** What a key opens to who asks. @throws Refusal `not-found`, `too-many` to who has tried too many that open nothing */
export async function accessByKeyFrom(event: H3Event, key: string): Promise<Access> {
  const network = networkOf(event)
  await refuseGuesser(network)
  try {
    return await accessByKey(database(), key, await visitorOf(event))
  } catch (error) {
    if (error instanceof Refusal && error.code === 'not-found') await countWrongKey(network)
    throw error
  }
}

/** A route for whoever has a link to a talk's screening page. */
export const answerByKey = <Result>(work: (event: H3Event, access: Access) => Promise<Result>): EventHandler =>
  answer(async (event) => await work(event, await accessByKeyFrom(event, getRouterParam(event, 'key') ?? '')))

/** What may be had with a pass. */
export interface PassedIn {
  readonly version: ScreeningVersion
  readonly access: Access
  readonly screening: Screening
}

/** For how long it is taken for granted that a talk is still shown, in ms: many ask at once. */
const GRANTED = 2000
const granted = new Map<string, { readonly until: number; readonly access: Promise<Access> }>()
/** Most that are remembered. */
const MOST_GRANTED = 1000

function accessNow(talk: string, audience: Audience): Promise<Access> {
  const now = Date.now()
  const name = `${talk} ${audience}`
  const found = granted.get(name)
  if (found !== undefined && found.until > now) return found.access
  const access = accessToTalk(database(), talk, audience)
  if (granted.size >= MOST_GRANTED) granted.clear()
  granted.set(name, { until: now + GRANTED, access })
  return access
}

/** A route for what a screening page loads: the pass in its path says which version of which talk, and that it may be seen. */
export const answerWithPass = <Result>(work: (event: H3Event, passed: PassedIn) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const { version, audience } = readPass(getRouterParam(event, 'pass') ?? '', Date.now())
    const access = await accessNow(version.talk, audience)
    return await work(event, { version, access, screening: await screeningOf(database(), version) })
  })
