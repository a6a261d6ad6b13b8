import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { PlaceKind, PlaceView, StandIns } from '@contracts'
import type { Queries } from '@server/database'
import { outsideRefusal, seal, tryTus, tryWebdav, unseal } from '@server/outside'
import type { SignIn } from '@server/outside'
import { settings } from '@server/settings'
import { secretFor } from './secret-for'

/** Most places that a person keeps. */
const MOST = 20

const NOT_HERE = 'There is no such place here.'

/** A place as somebody fills it in. */
export interface PlaceFields {
  readonly name: string
  readonly kind: PlaceKind
  readonly address: string
  readonly user: string
  /** What signs in there with the name; left out: the one that is kept. */
  readonly word?: string
}

/** Places that a person sends files to, by name. */
export const placesOf = async (q: Queries, owner: string): Promise<readonly PlaceView[]> =>
  await q
    .selectFrom('place')
    .select(['id', 'name', 'kind', 'address', 'username as user'])
    .where('owner', '=', owner)
    .orderBy('name')
    .execute()

/** What is sealed is of no use to whoever has the database alone. */
const sealed = (word: string): Buffer | null => (word === '' ? null : seal(word, secretFor('places')))

/** @throws Refusal `too-large` when there are too many, `conflict` when another has that name */
function roomForPlace(kept: readonly PlaceView[], id: string | null, name: string): void {
  if (id === null && kept.length >= MOST) throw new Refusal('too-large', `There are ${String(MOST)} places already. Delete one first.`)
  if (kept.some((one) => one.name === name && one.id !== id)) throw new Refusal('conflict', `There is a place called “${name}” already.`)
}

/**
 * Keeps a place. One that is another one by now is not given the word that was kept for the first.
 * In one transaction.
 * @param id of one that is there; null: a new one
 * @throws Refusal `not-found` unless it is this person's, and as of `roomForPlace`
 */
export async function keepPlace(q: Queries, owner: string, id: string | null, fields: PlaceFields): Promise<string> {
  await q.selectFrom('person').select('id').where('id', '=', owner).forUpdate().execute()
  const kept = await placesOf(q, owner)
  roomForPlace(kept, id, fields.name)
  const { name, kind, address, user, word } = fields
  const row = { name, kind, address, username: user }
  if (id === null) {
    const made = randomUUID()
    await q
      .insertInto('place')
      .values({ id: made, owner, ...row, word: sealed(word ?? '') })
      .execute()
    return made
  }
  const before = kept.find((one) => one.id === id)
  if (before === undefined) throw new Refusal('not-found', NOT_HERE)
  const same = before.address === address && before.kind === kind && before.user === user
  await q
    .updateTable('place')
    .set({ ...row, ...(word === undefined && same ? {} : { word: sealed(word ?? '') }) })
    .where('id', '=', id)
    .execute()
  return id
}

/** @throws Refusal `not-found` unless it is this person's */
export async function dropPlace(q: Queries, owner: string, id: string): Promise<void> {
  const gone = await q.deleteFrom('place').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (gone.numDeletedRows === 0n) throw new Refusal('not-found', NOT_HERE)
}

/** A place with what signs in there. For our own use: nobody is told. */
export interface OpenPlace extends SignIn {
  readonly kind: PlaceKind
  readonly name: string
}

/**
 * A place with what signs in there.
 * @param owner whose it must be
 * @throws Refusal `not-found` unless it is this person's, `conflict` when its word was sealed with another secret
 */
export async function openPlace(q: Queries, owner: string, id: string): Promise<OpenPlace> {
  const row = await q.selectFrom('place').selectAll().where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', NOT_HERE)
  const { kind, name, address, username: user, word } = row
  try {
    return { kind, name, address, user, word: word === null ? '' : unseal(word, secretFor('places')) }
  } catch {
    throw new Refusal('conflict', `The password for “${name}” was kept under another secret of this server. Fill it in again.`)
  }
}

/**
 * Looks whether a place is there and lets one in.
 * @throws Refusal saying what it answered
 */
export async function tryPlace(place: OpenPlace): Promise<void> {
  const { hostname } = new URL(place.address)
  try {
    if (place.kind === 'webdav') await tryWebdav(place)
    else await tryTus(place)
  } catch (error) {
    const status = error instanceof Error && 'status' in error ? error.status : undefined
    if (status === 401 || status === 403) throw new Refusal('conflict', `${hostname} does not let “${place.user}” in with this password.`)
    if (status === 404) throw new Refusal('conflict', `There is nothing at ${place.address}.`)
    throw outsideRefusal(error, hostname)
  }
}

/** Addresses of the stand-ins that ship with the product; null: none run. */
export function standIns(): StandIns | null {
  const at = settings().standIns
  return at === null ? null : { desk: `${at}/desk`, site: `${at}/site` }
}
