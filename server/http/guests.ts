import type { H3Event } from 'h3'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { guestsOf, partsKnown } from '@server/domain'
import type { KnownPart, PartKnown } from '@server/domain'
import { isBrought, sealed } from './sealed'
import type { Sealed } from './sealed'

/*
 * Parts in calls that a browser was brought the links of. They lie sealed in it; whether a link still holds is asked each time.
 */

interface Known {
  readonly parts?: readonly KnownPart[]
}

/** Half a year. */
const ENTRANT: Sealed = { name: 'aisle-entrant', maxAge: 183 * 24 * 3600 }
/** Parts that are remembered: those that were come to last. */
const MOST = 12

/** Parts in calls whose links this browser knows. Nothing is put into the browser of somebody who has none. */
export async function partsHere(event: H3Event): Promise<readonly PartKnown[]> {
  if (!isBrought(event, ENTRANT)) return []
  const { data } = await sealed<Known>(event, ENTRANT)
  return await partsKnown(database(), data.parts ?? [])
}

/** People without an account who may be this browser's. */
export const guestsHere = async (event: H3Event): Promise<readonly PersonView[]> => guestsOf(await partsHere(event))

/** Somebody came by a link of theirs, or has begun. */
export async function rememberPart(event: H3Event, part: KnownPart): Promise<void> {
  const session = await sealed<Known>(event, ENTRANT)
  const others = (session.data.parts ?? []).filter(({ entrant }) => entrant !== part.entrant)
  await session.update({ parts: [...others, part].slice(-MOST) })
}
