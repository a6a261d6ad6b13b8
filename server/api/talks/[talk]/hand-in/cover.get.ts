import { Refusal } from '@core/model'
import { database } from '@server/database'
import { coverOf, handInOf } from '@server/domain'
import { answerForTalk, sendMade } from '@server/http'

/** As large as a cover is where nothing larger is asked for. */
const USUAL = { width: 1280, height: 720 }

export default answerForTalk(async (event, talk) => {
  const { rules, cover } = await handInOf(database(), talk)
  if (rules === null) throw new Refusal('conflict', 'There are no rules for this talk.')
  return sendMade(event, await coverOf(database(), talk, cover, rules.cover ?? USUAL), 'image/jpeg', 'cover.jpg')
})
