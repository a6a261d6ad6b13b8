import type { PersonNamed } from '@contracts'
import type { Queries } from '@server/database'
import { tell } from './events'
import { lockShare } from './shares'

/** Those who may see a talk by their address. */
export const sharedWith = (q: Queries, talk: string): Promise<PersonNamed[]> =>
  q.selectFrom('share_person').select(['address', 'name']).where('talk', '=', talk).orderBy('name').orderBy('address').execute()

/** Puts others in their place: who is no longer named sees nothing any more. In one transaction. */
export async function changeSharedWith(q: Queries, talk: string, people: readonly PersonNamed[]): Promise<readonly PersonNamed[]> {
  await lockShare(q, talk)
  await q.deleteFrom('share_person').where('talk', '=', talk).execute()
  if (people.length > 0)
    await q
      .insertInto('share_person')
      .values(people.map(({ address, name }) => ({ talk, address, name })))
      .execute()
  await tell(q, { talk, kind: 'share', id: null })
  return await sharedWith(q, talk)
}
