import { getRequestHeader, setResponseHeader } from 'h3'
import { Refusal } from '@core/model'
import { sameWords } from '@server/domain'
import { answer, metricsText } from '@server/http'
import { settings } from '@server/settings'

/** What a program that watches servers asks for. It is there for who has the word that is set for it, and for nobody else. */
export default answer(async (event) => {
  const { metricsWord } = settings()
  const said = /^Bearer (.+)$/.exec(getRequestHeader(event, 'authorization') ?? '')?.[1] ?? ''
  if (metricsWord === null || !sameWords(said, metricsWord)) throw new Refusal('not-found', 'There is nothing under this address.')
  const { type, text } = await metricsText()
  setResponseHeader(event, 'content-type', type)
  return text
})
