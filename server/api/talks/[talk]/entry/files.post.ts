import { database } from '@server/database'
import { databaseNow, entrantView, handInFiles, refuseUntaken } from '@server/domain'
import { answerForTalk, letPass, withFiles } from '@server/http'

/** Hands in files that were recorded elsewhere. They count from the moment at which they were begun to be sent. */
export default answerForTalk(async (event, talk) => {
  const begun = await databaseNow(database())
  try {
    await refuseUntaken(database(), talk, begun)
  } catch (error) {
    await letPass(event)
    throw error
  }
  await withFiles(event, (files) => handInFiles(database(), talk, files, begun))
  return await entrantView(database(), talk)
})
