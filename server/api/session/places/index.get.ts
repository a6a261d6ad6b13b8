import { database } from '@server/database'
import { placesSignedIn } from '@server/domain'
import { answerTo, placeOf } from '@server/http'

export default answerTo(async (event, person) => placesSignedIn(database(), person.id, await placeOf(event)))
