import { FEWEST_WORDS, learntRate, spokenWords } from '@core/pace'
import { pausesIn } from '@core/markup'
import type { Ms, Slide, SlideId } from '@core/model'
import type { Queries } from '@server/database'

/** What is heard of how fast somebody speaks: a slide, and how long was spoken on it. */
export interface Spoken {
  readonly slide: SlideId
  /** Pauses apart, in ms. */
  readonly spoken: Ms
}

/** The newest slides that a person's rate is learnt from. */
const REMEMBERED = 400

/**
 * Remembers how long the notes of slides took to say. Asked again for the same source, nothing changes.
 * @param source a rehearsal or a take
 */
export async function rememberSpeech(
  q: Queries,
  talk: string,
  source: string,
  slides: readonly Slide[],
  heard: readonly Spoken[],
): Promise<void> {
  const notes = new Map(slides.map((slide) => [slide.id, slide.notes]))
  const rows = heard.flatMap(({ slide, spoken }, n) => {
    const words = spokenWords(notes.get(slide) ?? '')
    return words < FEWEST_WORDS ? [] : [{ source, n, talk, words, spoken_ms: Math.round(spoken) }]
  })
  if (rows.length > 0)
    await q
      .insertInto('speech')
      .values(rows)
      .onConflict((conflict) => conflict.doNothing())
      .execute()
}

/** Forgets what a rehearsal or take of a talk told. */
export async function forgetSpeech(q: Queries, talk: string, source: string): Promise<void> {
  await q.deleteFrom('speech').where('source', '=', source).where('talk', '=', talk).execute()
}

/** How long was spoken on a slide when nobody listened: all the time but the pauses that its notes ask for. */
export const unheard = (slide: Slide | undefined, length: Ms): Ms => Math.max(0, length - pausesIn(slide?.notes ?? ''))

/** The rate of whoever owns a talk, learnt from all of their talks, in words a minute. */
export async function rateOfOwner(q: Queries, talk: string): Promise<number> {
  const rows = await q
    .selectFrom('speech')
    .innerJoin('talk', 'talk.id', 'speech.talk')
    .select(['speech.words', 'speech.spoken_ms'])
    .where('talk.owner', '=', (build) => build.selectFrom('talk as this').select('this.owner').where('this.id', '=', talk))
    .orderBy('speech.heard', 'desc')
    .limit(REMEMBERED)
    .execute()
  return learntRate(rows.map((row) => ({ words: row.words, spoken: row.spoken_ms })))
}
