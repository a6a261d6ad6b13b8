import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { Programme } from '@core/model'
import { momentAt, momentOf } from '@core/screening'
import type { AnswerRequest, AskRequest, QuestionView } from '@contracts'
import type { QuestionTable, Queries } from '@server/database'
import type { Selectable } from 'kysely'
import { tell } from './events'
import { programmeShown } from './screenings'

/** Most questions of one talk that are kept: more is no use to anybody. */
const MOST_QUESTIONS = 500

type Row = Selectable<QuestionTable>

function questionView(row: Row, programme: Programme): QuestionView {
  return {
    id: row.id,
    at: momentOf(programme, { visit: row.visit, into: row.into_ms }),
    name: row.name,
    words: row.words,
    asked: row.asked.toISOString(),
    answer: row.answer,
    open: row.open,
  }
}

/** Asks the presenter something, tied to what was on at that moment. @throws Refusal `too-many` */
export async function ask(q: Queries, talk: string, { at, name, words }: AskRequest): Promise<QuestionView> {
  const programme = await programmeShown(q, talk)
  const moment = momentAt(programme, at)
  const { count } = await q
    .selectFrom('question')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('talk', '=', talk)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_QUESTIONS)
    throw new Refusal('too-many', 'More has been asked about this talk than its presenter can answer. Nothing was sent.')
  const row = await q
    .insertInto('question')
    .values({
      id: randomUUID(),
      talk,
      visit: moment?.visit ?? '',
      into_ms: moment?.into ?? 0,
      name,
      words,
      answer: null,
      answered: null,
    })
    .returningAll()
    .executeTakeFirstOrThrow()
  await tell(q, { talk, kind: 'question', id: row.id })
  return questionView(row, programme)
}

/** What was asked of a talk and answered for all, and what the asker is known to have asked. @param own ids that only an asker knows */
export async function questionsFor(q: Queries, talk: string, own: readonly string[]): Promise<readonly QuestionView[]> {
  const rows = await q
    .selectFrom('question')
    .selectAll()
    .where('talk', '=', talk)
    .where((either) => either.or([either('open', '=', true), ...(own.length === 0 ? [] : [either('id', 'in', [...own])])]))
    .orderBy('asked')
    .execute()
  if (rows.length === 0) return []
  const programme = await programmeShown(q, talk)
  // Another's id is theirs alone.
  const mine = new Set(own)
  return rows.map((row, n) => ({ ...questionView(row, programme), id: mine.has(row.id) ? row.id : `open-${String(n)}` }))
}

/** All that was asked of a talk, for its presenter. */
export async function questionsOf(q: Queries, talk: string): Promise<readonly QuestionView[]> {
  const rows = await q.selectFrom('question').selectAll().where('talk', '=', talk).orderBy('asked').execute()
  if (rows.length === 0) return []
  const programme = await programmeShown(q, talk)
  return rows.map((row) => questionView(row, programme))
}

const gone = (): Refusal => new Refusal('not-found', 'This question is not there any more.')

/** Answers a question, for the asker or for everybody who watches. @throws Refusal `not-found` */
export async function answerQuestion(q: Queries, talk: string, id: string, { answer, open }: AnswerRequest): Promise<void> {
  const { numUpdatedRows } = await q
    .updateTable('question')
    .set({ answer, open, answered: new Date() })
    .where('id', '=', id)
    .where('talk', '=', talk)
    .executeTakeFirst()
  if (numUpdatedRows === 0n) throw gone()
  await tell(q, { talk, kind: 'question', id })
}

/** @throws Refusal `not-found` */
export async function deleteQuestion(q: Queries, talk: string, id: string): Promise<void> {
  const { numDeletedRows } = await q.deleteFrom('question').where('id', '=', id).where('talk', '=', talk).executeTakeFirst()
  if (numDeletedRows === 0n) throw gone()
  await tell(q, { talk, kind: 'question', id })
}
