import { sql } from 'kysely'
import { dequal } from 'dequal'
import { create } from 'jsondiffpatch'
import type { Delta } from 'jsondiffpatch'
import { Refusal } from '@core/model'
import type { Programme } from '@core/model'
import type { Database, Queries } from '@server/database'

/*
 * Each revision of a programme is written whole. Later, at night, older ones are kept by how they differ from the one after them: else a
 * long history of ink grows with the square of its length.
 */

/** One revision in so many stays whole: as many differences are followed at most to see an older one. */
export const WHOLE_EVERY = 50
/** Talks whose histories are looked at in one night. */
const MOST_TALKS = 5000

/** What has an id is told by it: pieces, strokes, overlays. What has none is told by what it is. */
const differ = create({
  objectHash: (item: object) => ('id' in item && typeof item.id === 'string' ? item.id : JSON.stringify(item)),
  arrays: { detectMove: true },
  cloneDiffValues: true,
})

/** What makes of one value another. */
export type Difference = NonNullable<Delta>

/** How a value differs from another, both as JSON has them; null: in nothing, or in no way that leads back. */
export function differenceOf(from: Programme, to: Programme): Difference | null {
  const difference = differ.diff(from, to)
  if (difference === undefined) return null
  return dequal(withDifference(from, difference), to) ? difference : null
}

/** Makes of a value another, by how it differs; the first is left as it is. */
export const withDifference = (from: Programme, difference: Difference): Programme =>
  differ.patch(structuredClone(from), structuredClone(difference)) as Programme

/** A programme as it once was. @throws Refusal `not-found` when there is no such revision */
export async function programmeAt(q: Queries, talk: string, revision: number): Promise<Programme> {
  const missing = (): Refusal => new Refusal('not-found', 'There is no such version of this programme.')
  const rows = await q
    .selectFrom('programme')
    .select(['revision', 'value', 'difference'])
    .where('talk', '=', talk)
    .where('revision', '>=', revision)
    // Up to the first that is whole, which is this one as a rule.
    .where('revision', '<=', (first) =>
      first
        .selectFrom('programme as whole')
        .select((build) => build.fn.min('whole.revision').as('revision'))
        .where('whole.talk', '=', talk)
        .where('whole.revision', '>=', revision)
        .where('whole.value', 'is not', null),
    )
    .orderBy('revision', 'desc')
    .execute()
  const [whole, ...older] = rows
  if (whole?.value == null || rows.at(-1)?.revision !== revision) throw missing()
  let value = whole.value
  for (const { difference } of older) {
    if (difference === null) throw missing()
    value = withDifference(value, difference)
  }
  return value
}

/** Keeps a talk's older revisions by how they differ. @param before only those made before this @returns how many are kept so now */
async function compactHistory(db: Database, talk: string, before: Date): Promise<number> {
  return await db.transaction().execute(async (q) => {
    const { programme_revision: now } = await q
      .selectFrom('talk')
      .select('programme_revision')
      .where('id', '=', talk)
      .forUpdate()
      .executeTakeFirstOrThrow()
    const whole = await q
      .selectFrom('programme')
      .select('revision')
      .where('talk', '=', talk)
      .where('made', '<', before)
      .where('value', 'is not', null)
      .where('revision', '<', now)
      .where(sql<boolean>`revision % ${WHOLE_EVERY} <> 0`)
      .orderBy('revision', 'desc')
      .execute()
    let [kept, after, next] = [0, -1, null as Programme | null]
    for (const { revision } of whole) {
      if (after !== revision + 1 || next === null) next = await programmeAt(q, talk, revision + 1).catch(() => null)
      // Where the one after it is not there it stays whole.
      if (next === null) continue
      const value = await programmeAt(q, talk, revision)
      const difference = differenceOf(next, value)
      if (difference !== null) {
        await q
          .updateTable('programme')
          .set({ value: null, difference: JSON.stringify(difference) })
          .where('talk', '=', talk)
          .where('revision', '=', revision)
          .execute()
        kept += 1
      }
      ;[after, next] = [revision, value]
    }
    return kept
  })
}

/** Keeps older revisions of all talks by how they differ. @param before only those made before this @returns how many were turned */
export async function compactHistories(db: Database, before: Date): Promise<number> {
  const talks = await db
    .selectFrom('programme')
    .innerJoin('talk', 'talk.id', 'programme.talk')
    .select('talk.id')
    .distinct()
    .where('programme.value', 'is not', null)
    .where('programme.made', '<', before)
    .whereRef('programme.revision', '<', 'talk.programme_revision')
    .where(sql<boolean>`programme.revision % ${WHOLE_EVERY} <> 0`)
    .limit(MOST_TALKS)
    .execute()
  let kept = 0
  for (const { id } of talks) kept += await compactHistory(db, id, before)
  return kept
}
