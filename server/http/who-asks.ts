import type { H3Event } from 'h3'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { localPerson, personSignedIn, signIn, signOut } from '@server/domain'
import { settings } from '@server/settings'
import { agentOf } from './agent'

/** The place at which somebody is signed in, as the sealed cookie names it. */
export async function placeOf(event: H3Event): Promise<string | null> {
  const { user } = await getUserSession(event)
  return user !== undefined && 'place' in user && typeof user.place === 'string' ? user.place : null
}

/** Who asks: the one person of a machine without accounts, or whoever is signed in at the place that the cookie names. */
export async function whoAsks(event: H3Event): Promise<PersonView | null> {
  if (settings().accounts === 'off') return await localPerson(database())
  const place = await placeOf(event)
  return place === null ? null : await personSignedIn(database(), place)
}

/** Somebody is signed in from now on, in this browser. */
export async function signInHere(event: H3Event, person: string): Promise<void> {
  await setUserSession(event, { user: { place: await signIn(database(), person, agentOf(event)) } })
}

/** Nobody is signed in any more in this browser: a copy of its cookie is worth nothing either. */
export async function signOutHere(event: H3Event): Promise<void> {
  const place = await placeOf(event)
  if (place !== null) await signOut(database(), place)
  await clearUserSession(event)
}
