import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { zippedEntries } from '@server/domain'
import { answerForCall, parse, sendZip } from '@server/http'

export default answerForCall(async (event, call) => {
  const { pattern, entries } = parse<{ pattern: string; entries?: string }>(schemas.entriesWish, getQuery(event))
  const { stream, file } = await zippedEntries(database(), call, pattern, entries?.split(',') ?? null)
  await sendZip(event, stream, file)
})
