import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { PersonLinkKind, PersonLinkView } from '@contracts'
import type { PersonLinkTable, Queries } from '@server/database'
import { settings } from '@server/settings'
import type { Selectable } from 'kysely'
import { digestOfTicket, newTicket } from './ticket'

/** So long each kind can be used, in hours by the database's clock. */
const HOURS: Readonly<Record<PersonLinkKind, number>> = { invite: 14 * 24, verify: 3 * 24, reset: 1 }

/** A link that is to be made. */
export interface PersonLink {
  readonly kind: PersonLinkKind
  readonly address: string
  /** Whose account it opens; null: there is none yet. */
  readonly person: string | null
  /** Whether whoever comes by it will run the server. */
  readonly operator?: boolean
  /** Who made it; null: nobody who is known here. */
  readonly by: string | null
}

/**
 * Makes a link; one of its kind that its address had before opens nothing any more. In one transaction.
 * @returns the address to be opened. Its key stands behind the sign of a fragment: it reaches no server's log
 */
export async function makePersonLink(q: Queries, { kind, address, person, operator, by }: PersonLink): Promise<string> {
  const key = newTicket()
  await q
    .deleteFrom('person_link')
    .where((is) =>
      is.or([is('until', '<', sql<Date>`now() - interval '1 day'`), is.and([is('kind', '=', kind), is('address', '=', address)])]),
    )
    .execute()
  await q
    .insertInto('person_link')
    .values({
      digest: digestOfTicket(key),
      kind,
      address,
      person,
      operator: operator ?? false,
      made_by: by,
      until: sql`now() + make_interval(hours => ${HOURS[kind]})`,
    })
    .execute()
  return `${settings().publicAddress}/enter#${key}`
}

const found = (q: Queries, key: string) =>
  q
    .selectFrom('person_link')
    .selectAll()
    .where('digest', '=', digestOfTicket(key))
    .where('until', '>', sql<Date>`now()`)

const over = (): Refusal => new Refusal('not-found', 'This link was used before, or is too old. Have another sent to your address.')

/** What a link is for. @throws Refusal `not-found` when it opens nothing */
export async function personLink(q: Queries, key: string): Promise<PersonLinkView> {
  const row = await found(q, key).executeTakeFirst()
  if (row === undefined) throw over()
  return { kind: row.kind, address: row.address }
}

/** Takes a link in. It is good once. In one transaction. @throws Refusal `not-found` when it opens nothing, or something else */
export async function takePersonLink(q: Queries, key: string, kind: PersonLinkKind): Promise<Selectable<PersonLinkTable>> {
  const row = await found(q, key).where('kind', '=', kind).forUpdate().executeTakeFirst()
  if (row === undefined) throw over()
  await q.deleteFrom('person_link').where('digest', '=', row.digest).execute()
  return row
}
