import { getRouterParam } from 'h3'
import type { ExportKind } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { removeExport, talkExports } from '@server/domain'
import { answerForTalk, parse } from '@server/http'
import { exportFolder, removeTree } from '@server/store'

export default answerForTalk(async (event, talk) => {
  const { kind } = parse<{ kind: ExportKind }>(schemas.exportOfKind, { kind: getRouterParam(event, 'kind') })
  const id = await database()
    .transaction()
    .execute((q) => removeExport(q, talk, kind))
  await removeTree(exportFolder(id))
  return await talkExports(database(), talk)
})
