import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { Refusal, USUAL_RECIPE, asId } from '@core/model'
import type { Ms, Recipe, Slide, Take } from '@core/model'
import { starterSlides } from '@core/starters'
import type { StarterName } from '@core/starters'
import type { ImportView, TakeView, TalkView } from '@contracts'
import type { Database, Queries } from '@server/database'
import { saveDeck, slidesOf } from './decks'
import { wantAhead } from './ahead'
import { tell } from './events'
import { roomForTalk } from './quotas'
import { rehearsalsOf } from './rehearsals'
import { callOfTalk } from './call-of-talk'
import { rateOfOwner } from './speech'
import { isLive } from './live-takes'

/** What the files of a talk are called until somebody says otherwise. */
export const firstName = (name: string): string =>
  `aisle-${
    name
      .normalize('NFC')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 80) || 'talk'
  }`

const firstRecipe = (name: string, limit: Ms | null): Recipe => ({
  ...USUAL_RECIPE,
  name: firstName(name),
  limit: limit === null ? { kind: 'none' } : { kind: 'hold', limit },
})

/** Makes a talk. @param starter a deck to begin from; null: an empty one */
export async function createTalk(
  db: Database,
  owner: string,
  name: string,
  limit: Ms | null,
  starter: StarterName | null = null,
): Promise<string> {
  return await db.transaction().execute(async (q) => {
    const id = await addTalk(q, owner, name, limit)
    if (starter !== null)
      await saveDeck(
        q,
        id,
        [],
        starterSlides(starter, () => asId(randomUUID())),
        0,
      )
    return id
  })
}

/** Adds an empty talk. In one transaction with what else belongs to it. @throws Refusal `too-many` */
export async function addTalk(q: Queries, owner: string, name: string, limit: Ms | null): Promise<string> {
  await roomForTalk(q, owner)
  const id = randomUUID()
  await q
    .insertInto('talk')
    .values({
      id,
      owner,
      name,
      limit_ms: limit,
      shape: JSON.stringify({ width: 16, height: 9 }),
      recipe: JSON.stringify(firstRecipe(name, limit)),
      deleted: null,
    })
    .execute()
  return id
}

const takeView = (row: {
  id: string
  kind: Take['kind']
  intent: TakeView['intent']
  state: TakeView['state']
  started: Date
  sentence: string | null
  length: number | null
  live: boolean
}): TakeView => ({ ...row, started: row.started.toISOString(), length: row.length ?? 0 })

const takesOf = (q: Queries, talk: string) =>
  q
    .selectFrom('take')
    .leftJoin('stretch', (join) => join.onRef('stretch.take', '=', 'take.id').on('stretch.window_of', 'is', null))
    .select(['take.id', 'take.kind', 'take.intent', 'take.state', 'take.started', 'take.sentence', isLive.as('live')])
    .select((build) => build.fn.sum<number>(build.fn.coalesce('stretch.kept_ms', 'stretch.length_ms')).as('length'))
    .where('take.talk', '=', talk)
    .groupBy('take.id')
    .orderBy('take.started', 'desc')
    .execute()

const importsOf = async (q: Queries, talk: string): Promise<readonly ImportView[]> =>
  (
    await q
      .selectFrom('import')
      .select([
        'id',
        'name',
        'state',
        'pages_done',
        'pages_total',
        'sentence',
        'builds',
        'slides',
        'report',
        'report_seen',
        'take',
        'replaces',
      ])
      .where('talk', '=', talk)
      .orderBy('created', 'desc')
      .limit(5)
      .execute()
  ).map((row) => ({
    id: row.id,
    name: row.name,
    state: row.state,
    pagesDone: row.pages_done,
    pagesTotal: row.pages_total,
    sentence: row.sentence,
    builds: (row.builds ?? []).map((group) => group.map((id) => asId<'slide'>(id))),
    slides: (row.slides ?? []).map((id) => asId<'slide'>(id)),
    reports: row.report ?? [],
    reportSeen: row.report_seen,
    take: row.take,
    replaces: row.replaces,
  }))

/** A talk with its deck, as its stations show it. */
export async function talkView(q: Queries, id: string): Promise<TalkView> {
  // Read before the slides: whoever is told that a deck has been read in must be given its slides too.
  const imports = await importsOf(q, id)
  const [talk, slides, takes, rehearsals, rate, call] = await Promise.all([
    q.selectFrom('talk').selectAll().where('id', '=', id).executeTakeFirstOrThrow(),
    slidesOf(q, id),
    takesOf(q, id),
    rehearsalsOf(q, id),
    rateOfOwner(q, id),
    callOfTalk(q, id),
  ])
  return {
    id,
    name: talk.name,
    limit: talk.limit_ms,
    shape: talk.shape,
    language: talk.language,
    rate,
    revision: talk.revision,
    slides,
    takes: takes.map(takeView),
    imports,
    rehearsals,
    recipe: talk.recipe,
    changed: talk.changed.toISOString(),
    call,
  }
}

export async function changeTalk(
  q: Queries,
  id: string,
  fields: { readonly name?: string; readonly limit?: Ms | null; readonly language?: string },
): Promise<void> {
  const before = await q.selectFrom('talk').select(['name', 'recipe']).where('id', '=', id).forUpdate().executeTakeFirstOrThrow()
  // The recipe follows the talk until somebody gave it a name or limit of its own.
  const named =
    fields.name !== undefined && before.recipe.name === firstName(before.name)
      ? { ...before.recipe, name: firstName(fields.name) }
      : before.recipe
  const limited =
    fields.limit === undefined
      ? named
      : {
          ...named,
          limit: fields.limit === null ? { kind: 'none' } : { kind: named.limit.kind === 'warn' ? 'warn' : 'hold', limit: fields.limit },
        }
  await q
    .updateTable('talk')
    .set({
      ...(fields.name === undefined ? {} : { name: fields.name }),
      ...(fields.limit === undefined ? {} : { limit_ms: fields.limit }),
      ...(fields.language === undefined ? {} : { language: fields.language }),
      recipe: JSON.stringify(limited),
      changed: new Date(),
    })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk: id, kind: 'talk', id: null })
}

/** Puts a talk away or brings it back. Nothing of it is erased. */
export async function setDeleted(q: Queries, id: string, deleted: boolean): Promise<void> {
  await q
    .updateTable('talk')
    .set({ deleted: deleted ? new Date() : null })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk: id, kind: 'talk', id: null })
}

/** A new talk with the same deck, notes and plan, and nothing recorded. */
export async function duplicateTalk(q: Queries, owner: string, id: string): Promise<string> {
  const talk = await q.selectFrom('talk').selectAll().where('id', '=', id).executeTakeFirstOrThrow()
  const name = `${talk.name} (copy)`
  const copy = await addTalk(q, owner, name.slice(0, 160), talk.limit_ms)
  await q
    .updateTable('talk')
    .set({ shape: JSON.stringify(talk.shape), language: talk.language })
    .where('id', '=', copy)
    .execute()
  await q
    .insertInto('asset')
    .columns(['talk', 'digest', 'mime', 'bytes'])
    .expression((build) =>
      build
        .selectFrom('asset')
        .select([sql<string>`${copy}::uuid`.as('talk'), 'digest', 'mime', 'bytes'])
        .where('talk', '=', id),
    )
    .execute()
  const slides: readonly Slide[] = (await slidesOf(q, id)).map((slide) => ({ ...slide, id: randomUUID() as Slide['id'], version: 1 }))
  await saveDeck(q, copy, [], slides, 1)
  return copy
}

/** What a talk's next file is to be; null when the talk was deleted. */
export async function recipeOf(q: Queries, id: string): Promise<Recipe | null> {
  const row = await q.selectFrom('talk').select('recipe').where('id', '=', id).where('deleted', 'is', null).executeTakeFirst()
  return row?.recipe ?? null
}

export async function saveRecipe(q: Queries, id: string, recipe: Recipe): Promise<void> {
  await q
    .updateTable('talk')
    .set({ recipe: JSON.stringify(recipe) })
    .where('id', '=', id)
    .execute()
  await wantAhead(q, id)
}

/** @throws Refusal `not-found` when the file is none of this talk's */
export async function assetOf(q: Queries, talk: string, digest: string): Promise<{ readonly mime: string; readonly bytes: number }> {
  const asset = await q
    .selectFrom('asset')
    .select(['mime', 'bytes'])
    .where('talk', '=', talk)
    .where('digest', '=', digest)
    .executeTakeFirst()
  if (asset === undefined) throw new Refusal('not-found', 'There is no such picture in this talk.')
  return asset
}
