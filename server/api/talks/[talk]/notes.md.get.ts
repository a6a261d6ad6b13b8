import { getQuery } from 'h3'
import type { NotesKind } from '@core/formats'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { notesFile } from '@server/domain'
import { answerForTalk, parse, sendMade } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { kind } = parse<{ kind: NotesKind }>(schemas.notesKind, getQuery(event))
  const { text, file } = await notesFile(database(), talk, kind)
  return sendMade(event, text, 'text/markdown; charset=utf-8', file)
})
