import { getQuery } from 'h3'
import Joi from 'joi'
import { beginImport } from '@server/domain'
import { answerForTalk, parse, takeInFiles } from '@server/http'

const asked = Joi.object({
  replace: Joi.valid('1'),
  at: Joi.number().integer().min(0).max(5000),
  onto: Joi.string().guid({ version: 'uuidv4' }),
}).oxor('at', 'onto', 'replace')

export default answerForTalk(async (event, talk) => {
  const { at, onto, replace } = parse<{ at?: number; onto?: string; replace?: '1' }>(asked, getQuery(event))
  const wish = { place: at ?? null, onto: onto ?? null, replaces: replace === '1' }
  return await takeInFiles(event, async (q, files) => ({ id: await beginImport(q, talk, files, wish) }))
})
