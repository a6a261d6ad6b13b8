import type { H3Event } from 'h3'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { localPerson, personById } from '@server/domain'
import { settings } from '@server/settings'

/** Who asks: the one person of a machine without accounts, or whoever the sealed cookie names. */
export async function whoAsks(event: H3Event): Promise<PersonView | null> {
  if (settings().accounts === 'off') return await localPerson(database())
  const { user } = await getUserSession(event)
  return user !== undefined && 'id' in user && typeof user.id === 'string' ? await personById(database(), user.id) : null
}
