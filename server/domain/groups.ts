import { randomUUID } from 'node:crypto'
import { Refusal, asId } from '@core/model'
import type { GroupFields, GroupView, PersonNamed } from '@contracts'
import type { Queries } from '@server/database'

/** Most groups of one person. */
const MOST_GROUPS = 200

const gone = (): Refusal => new Refusal('not-found', 'This group is not there any more.')

/** Those who are in a group, by name. */
export const membersOf = (q: Queries, group: string | null) =>
  q.selectFrom('group_member').select(['address', 'name']).where('viewer_group', '=', group).orderBy('name').orderBy('address')

/** A person's groups with their members, by name. */
export async function groupsOf(q: Queries, owner: string): Promise<readonly GroupView[]> {
  const groups = await q.selectFrom('viewer_group').select(['id', 'name']).where('owner', '=', owner).orderBy('name').execute()
  if (groups.length === 0) return []
  const rows = await q
    .selectFrom('group_member')
    .selectAll()
    .where(
      'viewer_group',
      'in',
      groups.map(({ id }) => id),
    )
    .orderBy('name')
    .orderBy('address')
    .execute()
  return groups.map(({ id, name }) => ({
    id: asId(id),
    name,
    members: rows.filter((row) => row.viewer_group === id).map(({ address, name: called }) => ({ address, name: called })),
  }))
}

async function putMembers(q: Queries, group: string, members: readonly PersonNamed[]): Promise<void> {
  await q.deleteFrom('group_member').where('viewer_group', '=', group).execute()
  if (members.length > 0)
    await q
      .insertInto('group_member')
      .values(members.map(({ address, name }) => ({ viewer_group: group, address, name })))
      .execute()
}

/** Makes a group. In one transaction. @throws Refusal `too-many` */
export async function makeGroup(q: Queries, owner: string, { name, members }: GroupFields): Promise<GroupView> {
  const { count } = await q
    .selectFrom('viewer_group')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('owner', '=', owner)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_GROUPS) throw new Refusal('too-many', `There are ${String(MOST_GROUPS)} groups already. Delete one first.`)
  const id = randomUUID()
  await q.insertInto('viewer_group').values({ id, owner, name }).execute()
  await putMembers(q, id, members)
  return { id: asId(id), name, members }
}

/**
 * Changes a group: who is no longer in it sees nothing any more of what is shared with it. In one transaction.
 * @throws Refusal `not-found`
 */
export async function changeGroup(q: Queries, owner: string, id: string, { name, members }: GroupFields): Promise<GroupView> {
  const row = await q
    .updateTable('viewer_group')
    .set({ name })
    .where('id', '=', id)
    .where('owner', '=', owner)
    .returning('id')
    .executeTakeFirst()
  if (row === undefined) throw gone()
  await putMembers(q, id, members)
  return { id: asId(id), name, members }
}

/** Deletes a group; what was shared with it is shown to nobody any more. @throws Refusal `not-found` */
export async function deleteGroup(q: Queries, owner: string, id: string): Promise<void> {
  const { numDeletedRows } = await q.deleteFrom('viewer_group').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()
  if (numDeletedRows === 0n) throw gone()
}

/** Whether a group is somebody's own. */
export async function isOwnGroup(q: Queries, owner: string, id: string): Promise<boolean> {
  return (await q.selectFrom('viewer_group').select('id').where('id', '=', id).where('owner', '=', owner).executeTakeFirst()) !== undefined
}
