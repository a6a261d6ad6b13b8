import { database } from '@server/database'
import { groupsOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => groupsOf(database(), person.id))
