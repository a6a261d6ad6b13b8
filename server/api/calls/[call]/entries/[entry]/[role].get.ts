import { getRouterParam } from 'h3'
import { withoutEnding } from '@core/plan'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { entryOfCall } from '@server/domain'
import { answerForCall, idOf, sendFile } from '@server/http'
import { entryPath } from '@server/store'

/** A file that goes with an entry's film. */
export default answerForCall(async (event, call) => {
  const { id, companions, file } = await entryOfCall(database(), call, idOf<'entry'>(event, 'entry'))
  const found = companions.find(({ role }) => role === getRouterParam(event, 'role'))
  if (found === undefined) throw new Refusal('not-found', 'No such file goes with this entry.')
  await sendFile(event, {
    path: entryPath(id, found.role, found.ending),
    mime: found.ending === 'vtt' ? 'text/vtt; charset=utf-8' : 'application/octet-stream',
    fixed: true,
    download: `${withoutEnding(file)}-${found.role}.${found.ending}`,
  })
})
