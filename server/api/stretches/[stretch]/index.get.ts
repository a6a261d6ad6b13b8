import { database } from '@server/database'
import { stretchHoldings } from '@server/domain'
import { answerForStretch } from '@server/http'

export default answerForStretch((_event, stretch) => stretchHoldings(database(), stretch))
