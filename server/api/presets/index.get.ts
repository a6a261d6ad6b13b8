import { database } from '@server/database'
import { presetsOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => presetsOf(database(), person.id))
