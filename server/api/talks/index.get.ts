import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { talkCards } from '@server/domain'
import type { TalkWish } from '@server/domain'
import { answerTo, parse } from '@server/http'

export default answerTo((event, person) => talkCards(database(), person.id, parse<TalkWish>(schemas.talkWish, getQuery(event))))
