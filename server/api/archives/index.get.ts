import { database } from '@server/database'
import { accountArchives } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => accountArchives(database(), person.id))
