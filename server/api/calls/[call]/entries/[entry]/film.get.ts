import { getQuery } from 'h3'
import { database } from '@server/database'
import { endingOf, entryOfCall, entryView } from '@server/domain'
import { answerForCall, idOf, sendFile } from '@server/http'
import { entryPath } from '@server/store'

export default answerForCall(async (event, call) => {
  const row = await entryOfCall(database(), call, idOf<'entry'>(event, 'entry'))
  const { plays, file } = entryView(row)
  await sendFile(event, {
    path: entryPath(row.id, 'film', endingOf(file)),
    mime: plays ?? 'application/octet-stream',
    fixed: true,
    ...('show' in getQuery(event) && plays !== null ? {} : { download: file }),
  })
})
