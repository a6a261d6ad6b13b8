import { getRouterParam } from 'h3'
import type { ExportKind } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { finishedExport } from '@server/domain'
import { answerForTalk, parse, sendFile } from '@server/http'
import { exportPath } from '@server/store'

const PPTX = 'application/vnd.openxmlformats-officedocument.presentationml.presentation'
const MIME: Readonly<Record<ExportKind, string>> = {
  bundle: 'application/zip',
  'small-bundle': 'application/zip',
  shown: 'application/pdf',
  'narrated-deck': PPTX,
  archive: 'application/zip',
}

export default answerForTalk(async (event, talk) => {
  const { kind } = parse<{ kind: ExportKind }>(schemas.exportOfKind, { kind: getRouterParam(event, 'kind') })
  const { id, file } = await finishedExport(database(), talk, kind)
  await sendFile(event, { path: exportPath(id), mime: MIME[kind], download: file, fixed: false })
})
