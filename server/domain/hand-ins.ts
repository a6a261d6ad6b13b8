import { Refusal } from '@core/model'
import type { Recipe } from '@core/model'
import { recipeByRules } from '@core/rules'
import type { Rules } from '@core/rules'
import { indexFilm } from '@core/scene'
import * as schemas from '@contracts/schemas'
import type { HandInView, SendingView, SentView } from '@contracts'
import type { HandInTable, Queries, SendingTable } from '@server/database'
import { askOutside } from '@server/outside'
import type { Selectable } from 'kysely'
import { estimateDelivery } from './deliveries'
import { tell } from './events'
import { filmOf } from './films'
import { changeTalk, saveRecipe } from './talks'
import { languageOfTalk, wordsOfFilm } from './words'

const toView = (row: Selectable<SendingTable>): SendingView => ({
  id: row.id,
  delivery: row.delivery,
  kind: row.kind,
  to: row.recipient,
  file: row.file,
  digest: row.digest,
  state: row.state,
  sent: row.sent,
  total: row.total,
  sentence: row.sentence,
  receipt: row.receipt,
  created: row.created.toISOString(),
})

const rowOf = async (q: Queries, talk: string): Promise<Selectable<HandInTable> | undefined> =>
  await q.selectFrom('hand_in').selectAll().where('talk', '=', talk).executeTakeFirst()

/** Language of what is said in a talk; null: nobody has listened yet, or nothing is said. */
async function languageOfWords(q: Queries, talk: string): Promise<string | null> {
  const film = await filmOf(q, talk)
  if (film.programme.pieces.length === 0) return null
  const words = await wordsOfFilm(q, indexFilm(film))
  return words.length === 0 ? null : await languageOfTalk(q, talk)
}

/** How often a talk was handed in at a desk, taken or not. */
const triesAt = (sendings: readonly Selectable<SendingTable>[], desk: string | null): number =>
  sendings.filter(({ kind, address, state }) => kind === 'desk' && address === desk && (state === 'done' || state === 'refused')).length

/** What was sent of a talk. */
export async function sentOf(q: Queries, talk: string): Promise<SentView> {
  const [row, sendings] = await Promise.all([
    rowOf(q, talk),
    q.selectFrom('sending').selectAll().where('talk', '=', talk).orderBy('number', 'desc').execute(),
  ])
  return { sendings: sendings.map(toView), tries: triesAt(sendings, row?.desk ?? null) }
}

/** How often a talk was taken for the call that it is made for; null: it is made for none. */
async function entriesTaken(q: Queries, talk: string): Promise<number | null> {
  const row = await q
    .selectFrom('entrant')
    .leftJoin('entry', (join) => join.onRef('entry.entrant', '=', 'entrant.id').on('entry.state', '=', 'taken'))
    .select((build) => build.fn.count<number>('entry.id').as('count'))
    .where('entrant.talk', '=', talk)
    .groupBy('entrant.id')
    .executeTakeFirst()
  return row === undefined ? null : Number(row.count)
}

const withoutUntil = ({ until: _, ...rules }: Rules): Rules => rules

/** How a talk is to be handed in, and what was sent of it. */
export async function handInOf(q: Queries, talk: string): Promise<HandInView> {
  const [row, sent, words, entries] = await Promise.all([rowOf(q, talk), sentOf(q, talk), languageOfWords(q, talk), entriesTaken(q, talk)])
  return {
    ...sent,
    ...(entries === null ? {} : { tries: entries }),
    // The last moment of a call is its own, and is for all who take part.
    rules: row === undefined || entries === null ? (row?.rules ?? null) : withoutUntil(row.rules),
    desk: row?.desk ?? null,
    fields: row?.fields ?? {},
    cover: row?.cover ?? null,
    words,
  }
}

/** Reads the rules that a desk has. @throws Refusal in words when there is no desk there, or what it says are no rules */
export async function rulesOfDesk(desk: string): Promise<Rules> {
  const { status, body } = await askOutside(`${desk}/rules.json`, 'GET')
  const { hostname } = new URL(desk)
  if (status !== 200)
    throw new Refusal('not-found', `There is no desk at ${desk}: it answered ${String(status)}. Look at the address again.`)
  const { value, error } = schemas.rules.validate(body) as { value: Rules; error?: Error }
  if (error !== undefined) throw new Refusal('malformed', `What ${hostname} says are its rules cannot be read: ${error.message}.`)
  return value
}

/**
 * Has a talk handed in by rules: its recipe becomes one that keeps them, and its limit theirs. What was filled in stays where the
 * rules ask for it too. In one transaction.
 * @param desk where the rules came from, and the talk goes; null: it is handed in by hand
 */
export async function takeRules(q: Queries, talk: string, rules: Rules, desk: string | null): Promise<void> {
  const { recipe, shape } = await q
    .selectFrom('talk')
    .select(['recipe', 'shape'])
    .where('id', '=', talk)
    .forUpdate()
    .executeTakeFirstOrThrow()
  const before = await rowOf(q, talk)
  const keys = (rules.fields ?? []).map(({ key }) => key)
  const known = { ...recipe.fields, ...before?.fields }
  const fields = Object.fromEntries(keys.flatMap((key) => (known[key] === undefined ? [] : [[key, known[key]]])))
  const kept = { rules: JSON.stringify(rules), desk, fields: JSON.stringify(fields) }
  await q
    .insertInto('hand_in')
    .values({ talk, ...kept, cover: before?.cover ?? null })
    .onConflict((conflict) => conflict.column('talk').doUpdateSet(kept))
    .execute()
  const most = rules.length?.most
  if (most !== undefined) await changeTalk(q, talk, { limit: most * 1000 })
  await saveRecipe(q, talk, { ...recipeByRules(rules, recipe, shape, await reckonedBytes(q, talk, recipe)), fields: known })
  await tell(q, { talk, kind: 'talk', id: null })
}

/** Bytes that a file is reckoned to have; null while there is nothing to make a file of. */
async function reckonedBytes(q: Queries, talk: string, recipe: Recipe): Promise<number | null> {
  const film = await filmOf(q, talk)
  if (film.programme.pieces.length === 0) return null
  return (await estimateDelivery(q, talk, { ...recipe, bits: { kind: 'free' } })).bytes
}

/** Puts what is filled in for a hand-in in its place; names of files take it too. In one transaction. */
export async function fillIn(
  q: Queries,
  talk: string,
  { fields, cover }: { readonly fields?: Readonly<Record<string, string>>; readonly cover?: string | null },
): Promise<void> {
  const { recipe } = await q.selectFrom('talk').select('recipe').where('id', '=', talk).forUpdate().executeTakeFirstOrThrow()
  const changed = await q
    .updateTable('hand_in')
    .set({
      ...(fields === undefined ? {} : { fields: JSON.stringify(fields) }),
      ...(cover === undefined ? {} : { cover }),
    })
    .where('talk', '=', talk)
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) throw new Refusal('conflict', 'There are no rules for this talk any more.')
  if (fields !== undefined) await saveRecipe(q, talk, { ...recipe, fields: { ...recipe.fields, ...fields } })
  await tell(q, { talk, kind: 'talk', id: null })
}

/** @throws Refusal `conflict` for a talk that is made for a call: its rules are the call's */
export async function refuseForCall(q: Queries, talk: string): Promise<void> {
  if ((await entriesTaken(q, talk)) !== null)
    throw new Refusal('conflict', 'This talk is made for a call, and is handed in by its rules. Duplicate the talk for anything else.')
}

/** A talk is handed in by no rules any more; its recipe and limit stay. @throws Refusal `conflict` as of `refuseForCall` */
export async function leaveRules(q: Queries, talk: string): Promise<void> {
  await refuseForCall(q, talk)
  await q.deleteFrom('hand_in').where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'talk', id: null })
}
