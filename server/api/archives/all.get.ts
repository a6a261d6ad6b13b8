import { database } from '@server/database'
import { zippedArchives } from '@server/domain'
import { answerTo, sendZip } from '@server/http'

export default answerTo(async (event, person) => {
  await sendZip(event, await zippedArchives(database(), person.id), 'aisle-all-talks.zip')
})
