import { group } from 'd3'
import { sql } from 'kysely'
import { countedEntry, registerTable } from '@core/calls'
import type { Review } from '@core/calls'
import { Refusal } from '@core/model'
import { faultsIn } from '@core/rules'
import type { Ms } from '@core/model'
import type { EntryView, RegisterRow, RegisterView } from '@contracts'
import type { Queries } from '@server/database'
import { sendRemark } from './call-letters'
import { callView, peopleCalled } from './calls'
import type { CallRow } from './calls'
import { entryView } from './entries'
import type { EntryRow } from './entries'
import { tell } from './events'

const noEntry = (): Refusal => new Refusal('not-found', 'This entry is not there any more: something newer was handed in. Look again.')

/** Those who take part in a call, with the length that they are held to. */
const entrantsOf = (q: Queries, call: string) =>
  q
    .selectFrom('entrant')
    .leftJoin('hand_in', 'hand_in.talk', 'entrant.talk')
    .selectAll('entrant')
    .select(sql<number | null>`(hand_in.rules -> 'length' ->> 'most')::float8`.as('most'))
    .select('hand_in.talk as held')
    .where('entrant.call', '=', call)
    .orderBy('entrant.name')
    .orderBy('entrant.id')
    .execute()

async function entriesOfCall(q: Queries, call: string): Promise<ReadonlyMap<string, readonly EntryRow[]>> {
  const rows = await q
    .selectFrom('entry')
    .innerJoin('entrant', 'entrant.id', 'entry.entrant')
    .selectAll('entry')
    .where('entrant.call', '=', call)
    .orderBy('entry.number', 'desc')
    .execute()
  return group(rows, ({ entrant }) => entrant)
}

/** A register: the newest entry first, and behind them those who have handed in nothing. */
export async function registerOf(q: Queries, call: CallRow): Promise<RegisterView> {
  const [view, entrants, entries, people] = await Promise.all([
    callView(q, call),
    entrantsOf(q, call.id),
    entriesOfCall(q, call.id),
    peopleCalled(q, call),
  ])
  const most = call.rules.length?.most
  const listed = new Set(people.map(({ address }) => address))
  const rows = entrants
    // Who was written to, has not begun, and is not listed any more is asked no longer.
    .filter(({ begun, address }) => begun !== null || listed.has(address ?? ''))
    .map((row): RegisterRow => {
      const own = entries.get(row.id) ?? []
      const counted = countedEntry(own)
      const limit = row.held === null ? (most ?? null) : row.most
      return {
        entrant: row.id,
        name: row.name,
        address: row.address,
        begun: row.begun?.toISOString() ?? null,
        reminded: (row.reminded ?? row.invited)?.toISOString() ?? null,
        entry: counted === null ? null : entryView(counted),
        entries: own.filter(({ state }) => state === 'taken').length,
        earlierRules: row.begun !== null && row.rules_version < call.rules_version,
        limit: limit === null ? null : limit * 1000,
      }
    })
  const known = new Set(entrants.map(({ address }) => address))
  const others = people
    .filter(({ address }) => !known.has(address))
    .map(({ address, name }): RegisterRow => ({
      entrant: '',
      name,
      address,
      begun: null,
      reminded: null,
      entry: null,
      entries: 0,
      earlierRules: false,
      limit: most === undefined ? null : most * 1000,
    }))
  const when = ({ entry }: RegisterRow): string => entry?.at ?? ''
  return { call: view, rows: [...rows, ...others].sort((a, b) => when(b).localeCompare(when(a)) || a.name.localeCompare(b.name)) }
}

/** An entry of a call that counts. @throws Refusal `not-found` when it is none, or something newer counts */
export async function entryOfCall(q: Queries, call: CallRow, id: string): Promise<EntryRow> {
  const rows = await q
    .selectFrom('entry')
    .innerJoin('entrant', 'entrant.id', 'entry.entrant')
    .selectAll('entry')
    .where('entrant.call', '=', call.id)
    .where('entry.entrant', '=', (inner) => inner.selectFrom('entry as named').select('named.entrant').where('named.id', '=', id))
    .orderBy('entry.number', 'desc')
    .execute()
  const counted = countedEntry(rows)
  if (counted?.id !== id) throw noEntry()
  return counted
}

/** What is written to whom an entry is from. */
const TOLD: Readonly<Record<Review, boolean>> = { unseen: false, seen: false, 'sent-back': true, accepted: true }

/**
 * Says of an entry that it was seen, is to be handed in again, or is accepted; a remark goes to whom it is from. In one transaction.
 * @throws Refusal `not-found` when something newer was handed in meanwhile, `malformed` when it is sent back without a word
 */
export async function reviewEntry(q: Queries, call: CallRow, id: string, review: Review, remark: string): Promise<EntryView> {
  // Nothing can be handed in meanwhile.
  const entrant = await q
    .selectFrom('entrant')
    .selectAll()
    .where('call', '=', call.id)
    .where('id', '=', (inner) => inner.selectFrom('entry').select('entrant').where('id', '=', id))
    .forUpdate()
    .executeTakeFirst()
  if (entrant === undefined) throw noEntry()
  const before = await entryOfCall(q, call, id)
  if (review === 'sent-back' && remark === '') throw new Refusal('malformed', 'Say what is to be done otherwise; it goes with it.')
  if (before.review === review && before.remark === remark) return entryView(before)
  const row = await q
    .updateTable('entry')
    .set({ review, ...(TOLD[review] ? { remark, remarked: sql<Date>`now()` } : {}) })
    .where('id', '=', id)
    .returningAll()
    .executeTakeFirstOrThrow()
  if (TOLD[review]) await sendRemark(q, call, entrant, review === 'sent-back', remark)
  if (entrant.talk !== null) await tell(q, { talk: entrant.talk, kind: 'entry', id })
  return entryView(row)
}

const STATE_WORDS: Readonly<Record<Review, string>> = {
  unseen: 'handed in',
  seen: 'seen',
  'sent-back': 'sent back',
  accepted: 'accepted',
}

const seconds = (ms: Ms | null | undefined): number | null => (ms == null ? null : ms / 1000)

/** What is written of an entry in the table; nothing where there is none. */
const NO_ENTRY = { talk: '', handedIn: '', late: false, length: null, faults: '', state: '', remark: '', file: '' } as const
const lineOf = (entry: EntryView, file: string) => ({
  talk: entry.title,
  handedIn: entry.at,
  late: entry.late,
  length: seconds(entry.length),
  faults: faultsIn(entry.lines).join(' '),
  state: STATE_WORDS[entry.review],
  remark: entry.remark,
  file,
})

/** A register as a table for a spreadsheet. @param files names of films beside it, by entry; left out: there are none */
export const registerCsv = ({ rows }: RegisterView, files: ReadonlyMap<string, string> = new Map()): string =>
  registerTable(
    rows.map(({ name, address, entry, limit }) => ({
      name,
      address: address ?? '',
      limit: seconds(limit),
      ...(entry === null ? NO_ENTRY : lineOf(entry, files.get(entry.id) ?? '')),
    })),
  )
