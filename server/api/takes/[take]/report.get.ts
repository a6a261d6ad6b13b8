import { database } from '@server/database'
import { takeReport } from '@server/domain'
import { answerForTake } from '@server/http'

export default answerForTake((_event, take) => takeReport(database(), take))
