import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { Rules } from '@core/rules'
import type { RuleSetView } from '@contracts'
import type { Queries } from '@server/database'

/** Most sets that a person keeps. */
const MOST = 50

/** Rules that a person keeps for other talks, by name. */
export const ruleSetsOf = async (q: Queries, owner: string): Promise<readonly RuleSetView[]> =>
  await q.selectFrom('rule_set').select(['id', 'rules']).where('owner', '=', owner).orderBy('name').execute()

/** Keeps rules; those of the same name are exchanged. In one transaction. @throws Refusal `too-large` when there are too many */
export async function keepRuleSet(q: Queries, owner: string, rules: Rules): Promise<void> {
  await q.selectFrom('person').select('id').where('id', '=', owner).forUpdate().execute()
  const kept = await ruleSetsOf(q, owner)
  if (kept.length >= MOST && !kept.some((one) => one.rules.name === rules.name))
    throw new Refusal('too-large', `There are ${String(MOST)} sets of rules already. Delete one first.`)
  const json = JSON.stringify(rules)
  await q
    .insertInto('rule_set')
    .values({ id: randomUUID(), owner, name: rules.name, rules: json })
    .onConflict((conflict) => conflict.columns(['owner', 'name']).doUpdateSet({ rules: json }))
    .execute()
}

/** @throws Refusal `not-found` unless they are this person's */
export async function dropRuleSet(q: Queries, owner: string, id: string): Promise<void> {
  const gone = await q.deleteFrom('rule_set').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (gone.numDeletedRows === 0n) throw new Refusal('not-found', 'There are no such rules here.')
}
