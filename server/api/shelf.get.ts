import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { shelfOf } from '@server/domain'
import { answer, parse } from '@server/http'

export default answer(async (event) => {
  const { find, from } = parse<{ find: string; from: number }>(schemas.shelfWish, getQuery(event))
  return await shelfOf(database(), find, from, schemas.SHELF_PART)
})
