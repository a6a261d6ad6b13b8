import { useSession } from 'h3'
import type { H3Event } from 'h3'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { guestsOf, partsKnown } from '@server/domain'
import type { KnownPart, PartKnown } from '@server/domain'
import { settings } from '@server/settings'

/*
 * Parts in calls that a browser was brought the links of. They lie sealed in it; whether a link still holds is asked each time.
 */

interface Known {
  readonly parts?: readonly KnownPart[]
}

/** So long a browser is known, in s: half a year, as long as any call. */
const HALF_YEAR = 183 * 24 * 3600
/** Parts that are remembered: those that were come to last. */
const MOST = 12

const sessionOf = (event: H3Event) =>
  useSession<Known>(event, {
    name: 'aisle-entrant',
    password: settings().secret,
    maxAge: HALF_YEAR,
    cookie: { httpOnly: true, sameSite: 'lax', path: '/', secure: settings().publicAddress.startsWith('https:') },
  })

/** Parts in calls whose links this browser knows. Nothing is put into the browser of somebody who has none. */
export async function partsHere(event: H3Event): Promise<readonly PartKnown[]> {
  if (!(event.node.req.headers.cookie ?? '').includes('aisle-entrant=')) return []
  const { data } = await sessionOf(event)
  return await partsKnown(database(), data.parts ?? [])
}

/** People without an account who may be this browser's. */
export const guestsHere = async (event: H3Event): Promise<readonly PersonView[]> => guestsOf(await partsHere(event))

/** Somebody came by a link of theirs, or has begun. */
export async function rememberPart(event: H3Event, part: KnownPart): Promise<void> {
  const session = await sessionOf(event)
  const others = (session.data.parts ?? []).filter(({ entrant }) => entrant !== part.entrant)
  await session.update({ parts: [...others, part].slice(-MOST) })
}
