import type { H3Event } from 'h3'
import { sealed } from './sealed'
import type { Sealed } from './sealed'

/** What lies in the browser of somebody who is on their way to a provider of identities and back. */
interface Way {
  readonly state: string
  readonly nonce: string
  readonly verifier: string
  /** Where they wanted to go. */
  readonly to: string
}

const WAY: Sealed = { name: 'aisle-provider', maxAge: 15 * 60 }

export async function rememberWay(event: H3Event, way: Way): Promise<void> {
  await (await sealed<Way>(event, WAY)).update(way)
}

/** The way that somebody is on, which ends with that; null: on none. */
export async function endWay(event: H3Event): Promise<Way | null> {
  const session = await sealed<Partial<Way>>(event, WAY)
  const { state, nonce, verifier, to } = session.data
  await session.clear()
  return state === undefined || nonce === undefined || verifier === undefined ? null : { state, nonce, verifier, to: to ?? '/' }
}
