import { createHash, randomUUID } from 'node:crypto'
import { group } from 'd3'
import { sql } from 'kysely'
import { Refusal, asId } from '@core/model'
import type { FilmIndex } from '@core/scene'
import type { Said, StretchId } from '@core/model'
import { corrected, filmWords } from '@core/words'
import type { Correction, CorrectedSaid, FilmWord } from '@core/words'
import type { CorrectionsRequest, ListenedBy, WordsView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { tell } from './events'
import { stretchIdsOf } from './films'
import { addJob } from './jobs'
import { areStretchesOf } from './ownership'
import { currentProgramme } from './programmes'

/** Whatever makes files or shows a talk is done first. */
const AFTER_STREAMS = 100
/** How long a talk waits that made way for somebody, in ms. */
const LATER = 20_000

/** Has a talk listened to. @param delay before it may begin, in ms */
async function listenTo(q: Queries, talk: string, delay: number): Promise<void> {
  await addJob(q, 'listen', { talk }, `listen:${talk}`, { starts: new Date(Date.now() + delay), place: AFTER_STREAMS })
}

/** Has a talk listened to after something was recorded, if that is wanted at all. */
export async function wantWords(q: Queries, talk: string): Promise<void> {
  const { listenAfter } = settings()
  if (listenAfter > 0) await listenTo(q, talk, listenAfter)
}

/** Has a talk listened to once the machine may be free again. */
export const listenLater = (q: Queries, talk: string): Promise<void> => listenTo(q, talk, LATER)

/** Recordings with a voice that a talk's programme is made of, and that nobody has listened to. */
export async function stretchesToHear(q: Queries, talk: string): Promise<readonly StretchId[]> {
  const ids = stretchIdsOf(await currentProgramme(q, talk))
  if (ids.length === 0) return []
  const rows = await q
    .selectFrom('stretch')
    .leftJoin('stretch_words', 'stretch_words.stretch', 'stretch.id')
    .select('stretch.id')
    .where('stretch.id', 'in', [...ids])
    .where('stretch.voice', '=', true)
    .where('stretch.state', '=', 'ready')
    .where('stretch_words.stretch', 'is', null)
    .execute()
  const waiting = new Set(rows.map((row) => row.id))
  return ids.filter((id) => waiting.has(id))
}

/** What became of listening to a recording. */
export type Listened =
  | { readonly by: ListenedBy; readonly said: Said }
  /** Nothing could be found: why, for the person, and whether trying again may help. */
  | { readonly by: null; readonly sentence: string; readonly failed: boolean }

/** Keeps what was found in a recording. */
export async function keepSaid(q: Queries, talk: string, stretch: StretchId, listened: Listened): Promise<void> {
  const found =
    listened.by === null ? { said: { words: [], unsaid: [] }, sentence: listened.sentence } : { said: listened.said, sentence: null }
  const state = listened.by === null && listened.failed ? ('failed' as const) : ('done' as const)
  const values = { state, listened_by: listened.by, said: JSON.stringify(found.said), sentence: found.sentence }
  await q
    .insertInto('stretch_words')
    .values({ stretch, ...values })
    .onConflict((conflict) => conflict.column('stretch').doUpdateSet({ ...values, made: sql`now()` }))
    .execute()
  await tell(q, { talk, kind: 'words', id: stretch })
}

/** Forgets what was found in a talk, but not what was corrected, and has it listened to anew. */
export async function listenAgain(q: Queries, talk: string): Promise<void> {
  const ids = stretchIdsOf(await currentProgramme(q, talk))
  if (ids.length > 0)
    await q
      .deleteFrom('stretch_words')
      .where('stretch', 'in', [...ids])
      .execute()
  await listenTo(q, talk, 0)
  await tell(q, { talk, kind: 'words', id: null })
}

async function correctionsOf(q: Queries, ids: readonly string[]): Promise<ReadonlyMap<string, readonly Correction[]>> {
  if (ids.length === 0) return new Map()
  const rows = await q
    .selectFrom('word_correction')
    .selectAll()
    .where('stretch', 'in', [...ids])
    .orderBy('from_ms')
    .execute()
  const views = rows.map((row) => ({
    stretch: row.stretch,
    id: row.id,
    from: row.from_ms,
    until: row.until_ms,
    text: row.text,
    brought: row.brought,
  }))
  return group(views, ({ stretch }) => stretch)
}

/** The language a talk is given in, as a BCP 47 tag. */
export async function languageOfTalk(q: Queries, talk: string): Promise<string> {
  return (await q.selectFrom('talk').select('language').where('id', '=', talk).executeTakeFirstOrThrow()).language
}

/** What is said in a talk, for its presenter. */
export async function wordsOf(q: Queries, talk: string): Promise<WordsView> {
  const ids = stretchIdsOf(await currentProgramme(q, talk))
  const [rows, corrections, waiting, { terms }] = await Promise.all([
    ids.length === 0
      ? []
      : q
          .selectFrom('stretch_words')
          .selectAll()
          .where('stretch', 'in', [...ids])
          .execute(),
    correctionsOf(q, ids),
    stretchesToHear(q, talk),
    q.selectFrom('talk').select('terms').where('id', '=', talk).executeTakeFirstOrThrow(),
  ])
  return {
    stretches: rows.map((row) => ({
      stretch: asId<'stretch'>(row.stretch),
      state: row.state,
      by: row.listened_by,
      sentence: row.sentence,
      ...row.said,
      corrections: corrections.get(row.stretch) ?? [],
    })),
    waiting: waiting.length,
    terms,
  }
}

/** What was said in recordings, as it was corrected. */
export async function saidIn(q: Queries, ids: readonly StretchId[]): Promise<ReadonlyMap<StretchId, CorrectedSaid>> {
  if (ids.length === 0) return new Map()
  const [rows, corrections] = await Promise.all([
    q
      .selectFrom('stretch_words')
      .select(['stretch', 'said'])
      .where('stretch', 'in', [...ids])
      .execute(),
    correctionsOf(q, ids),
  ])
  return new Map(rows.map(({ stretch, said }) => [asId<'stretch'>(stretch), corrected(said, corrections.get(stretch) ?? [])]))
}

/** Says whether anything that was said in recordings is known otherwise than before: it is another text then. */
export async function stateOfWords(q: Queries, ids: readonly StretchId[]): Promise<string> {
  if (ids.length === 0) return ''
  const [heard, corrections] = await Promise.all([
    q
      .selectFrom('stretch_words')
      .select(['stretch', 'made'])
      .where('stretch', 'in', [...ids])
      .orderBy('stretch')
      .execute(),
    q
      .selectFrom('word_correction')
      .select('id')
      .where('stretch', 'in', [...ids])
      .orderBy('id')
      .execute(),
  ])
  const parts = [...heard.map(({ stretch, made }) => `${stretch} ${made.toISOString()}`), ...corrections.map(({ id }) => id)]
  return createHash('sha256').update(parts.join('\n')).digest('base64url')
}

/** The words of a talk's film, in its time. */
export async function wordsOfFilm(q: Queries, index: FilmIndex): Promise<readonly FilmWord[]> {
  return filmWords(index, await saidIn(q, stretchIdsOf(index.film.programme)))
}

/**
 * Keeps what somebody says was said; what they said before of the same time gives way.
 * @throws Refusal `not-found` when a recording is not the talk's
 */
export async function correct(q: Queries, talk: string, { corrections, brought }: CorrectionsRequest): Promise<void> {
  const stretches = corrections.map(({ stretch }) => stretch)
  if (!(await areStretchesOf(q, talk, stretches))) throw new Refusal('not-found', 'There is no such recording here.')
  const [froms, untils] = [corrections.map(({ from }) => from), corrections.map(({ until }) => until)]
  await sql`delete from word_correction as old
    using unnest(${stretches}::uuid[], ${froms}::integer[], ${untils}::integer[]) as anew(stretch, from_ms, until_ms)
    where old.stretch = anew.stretch and old.from_ms < anew.until_ms and old.until_ms > anew.from_ms`.execute(q)
  const [ids, texts] = [corrections.map(() => randomUUID()), corrections.map(({ text }) => text)]
  await sql`insert into word_correction (id, stretch, from_ms, until_ms, text, brought)
    select *, ${brought}::boolean
    from unnest(${ids}::uuid[], ${stretches}::uuid[], ${froms}::integer[], ${untils}::integer[], ${texts}::text[])`.execute(q)
  await tell(q, { talk, kind: 'words', id: null })
}

/** Takes back all that came from caption files: what was heard stands again. */
export async function takeBroughtBack(q: Queries, talk: string): Promise<void> {
  await q
    .deleteFrom('word_correction')
    .where('brought', '=', true)
    .where('stretch', 'in', (build) =>
      build.selectFrom('stretch').innerJoin('take', 'take.id', 'stretch.take').select('stretch.id').where('take.talk', '=', talk),
    )
    .execute()
  await tell(q, { talk, kind: 'words', id: null })
}

/** Takes a correction back: what was heard stands again. @throws Refusal `not-found` */
export async function takeCorrectionBack(q: Queries, talk: string, correction: string): Promise<void> {
  const { numDeletedRows } = await q
    .deleteFrom('word_correction')
    .where('id', '=', correction)
    .where('stretch', 'in', (build) =>
      build.selectFrom('stretch').innerJoin('take', 'take.id', 'stretch.take').select('stretch.id').where('take.talk', '=', talk),
    )
    .executeTakeFirst()
  if (numDeletedRows === 0n) throw new Refusal('not-found', 'This correction is not there any more.')
  await tell(q, { talk, kind: 'words', id: null })
}

/** Sets the names and terms that are said in a talk. */
export async function setTerms(q: Queries, talk: string, terms: readonly string[]): Promise<void> {
  await q
    .updateTable('talk')
    .set({ terms: JSON.stringify([...new Set(terms)]) })
    .where('id', '=', talk)
    .execute()
  await tell(q, { talk, kind: 'words', id: null })
}
