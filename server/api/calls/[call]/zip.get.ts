import { getQuery, sendStream, setResponseHeaders } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { zippedEntries } from '@server/domain'
import { answerForCall, parse } from '@server/http'

export default answerForCall(async (event, call) => {
  const { pattern, entries } = parse<{ pattern: string; entries?: string }>(schemas.entriesWish, getQuery(event))
  const { stream, file } = await zippedEntries(database(), call, pattern, entries?.split(',') ?? null)
  setResponseHeaders(event, {
    'content-type': 'application/zip',
    'cache-control': 'private, no-store',
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file)}`,
  })
  await sendStream(event, stream)
})
