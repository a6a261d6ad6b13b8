import { database } from '@server/database'
import { seriesOf } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo((_event, person) => seriesOf(database(), person.id))
