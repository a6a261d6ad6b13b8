import { database } from '@server/database'
import { screeningView } from '@server/domain'
import { answerByKey } from '@server/http'

export default answerByKey((_event, access) => screeningView(database(), access))
