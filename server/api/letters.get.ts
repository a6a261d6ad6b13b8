import { database } from '@server/database'
import { lettersOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => lettersOf(database(), person.id))
