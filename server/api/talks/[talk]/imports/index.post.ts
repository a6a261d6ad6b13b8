import { getQuery } from 'h3'
import Joi from 'joi'
import { database } from '@server/database'
import { beginImport } from '@server/domain'
import { answerForTalk, parse, withFiles } from '@server/http'

const asked = Joi.object({ at: Joi.number().integer().min(0).max(5000) })

export default answerForTalk(async (event, talk) => {
  const { at } = parse<{ at?: number }>(asked, getQuery(event))
  return await withFiles(event, async (files) => ({
    id: await database()
      .transaction()
      .execute((q) => beginImport(q, talk, files, at ?? null)),
  }))
})
