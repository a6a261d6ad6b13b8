import { getQuery } from 'h3'
import type { Tune } from '@core/music'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { takeInMusic, takeTune } from '@server/domain'
import { answerForTalk, parse, withFiles } from '@server/http'

/** Music for a talk: a file that is sent, or one of the tunes that ship. */
export default answerForTalk(async (event, talk) => {
  const { tune } = parse<{ tune?: Tune }>(schemas.musicWanted, getQuery(event))
  if (tune !== undefined) return await takeTune(database(), talk, tune)
  return await withFiles(event, (files) => takeInMusic(database(), talk, files))
})
