import { Refusal, asId } from '@core/model'
import type { RunThrough } from '@core/pace'
import type { RehearsalView } from '@contracts'
import type { Queries } from '@server/database'
import { slidesOf } from './decks'
import { tell } from './events'
import { forgetSpeech, rememberSpeech, unheard } from './speech'

/** The newest run-throughs that are shown; older ones stay. */
const SHOWN = 20

/** Keeps a run-through under an id that the page chose, so that asking again does no harm. */
export async function keepRehearsal(q: Queries, talk: string, id: string, run: RunThrough & { readonly started: Date }): Promise<void> {
  const kept = await q
    .insertInto('rehearsal')
    .values({ id, talk, started: run.started, visits: JSON.stringify(run.visits) })
    .onConflict((conflict) => conflict.column('id').doNothing())
    .executeTakeFirst()
  if (kept.numInsertedOrUpdatedRows === 0n) {
    const there = await q.selectFrom('rehearsal').select('talk').where('id', '=', id).executeTakeFirst()
    if (there?.talk !== talk) throw new Refusal('conflict', 'This run-through belongs to another talk.')
  }
  const slides = await slidesOf(q, talk)
  const bySlide = new Map(slides.map((slide) => [slide.id, slide]))
  await rememberSpeech(
    q,
    talk,
    id,
    slides,
    run.visits.map(({ slide, length, spoken }) => ({ slide, spoken: spoken ?? unheard(bySlide.get(slide), length) })),
  )
  await tell(q, { talk, kind: 'talk', id: null })
}

/** Forgets a run-through; its timings no longer count. */
export async function forgetRehearsal(q: Queries, talk: string, id: string): Promise<void> {
  await forgetSpeech(q, talk, id)
  await q.deleteFrom('rehearsal').where('id', '=', id).where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'talk', id: null })
}

/** A talk's run-throughs, the newest first. */
export async function rehearsalsOf(q: Queries, talk: string): Promise<readonly RehearsalView[]> {
  const rows = await q.selectFrom('rehearsal').selectAll().where('talk', '=', talk).orderBy('started', 'desc').limit(SHOWN).execute()
  return rows.map((row) => ({
    id: row.id,
    started: row.started.toISOString(),
    visits: row.visits.map(({ slide, ...times }) => ({ slide: asId<'slide'>(slide), ...times })),
  }))
}
