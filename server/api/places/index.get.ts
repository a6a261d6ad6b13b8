import type { PlacesView } from '@contracts'
import { database } from '@server/database'
import { placesOf, standIns } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo<PlacesView>(async (_event, person) => ({ places: await placesOf(database(), person.id), standIns: standIns() }))
