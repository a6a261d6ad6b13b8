import { getQuery } from 'h3'
import Joi from 'joi'
import { database } from '@server/database'
import { beginImport } from '@server/domain'
import { answerForTalk, parse, withFiles } from '@server/http'

const asked = Joi.object({ at: Joi.number().integer().min(0).max(5000), onto: Joi.string().guid({ version: 'uuidv4' }) }).oxor('at', 'onto')

export default answerForTalk(async (event, talk) => {
  const { at, onto } = parse<{ at?: number; onto?: string }>(asked, getQuery(event))
  return await withFiles(event, async (files) => ({
    id: await database()
      .transaction()
      .execute((q) => beginImport(q, talk, files, at ?? null, onto ?? null)),
  }))
})
