import { database } from '@server/database'
import { callsOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => callsOf(database(), person.id))
