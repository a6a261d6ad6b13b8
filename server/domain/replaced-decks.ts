import { recomposed } from '@core/compose'
import { matchDecks, takenOver } from '@core/match'
import type { MatchSlide, SlidePair } from '@core/match'
import { Refusal } from '@core/model'
import type { Slide, SlideId } from '@core/model'
import { changedVisitsOf, markChanged, withChangedUnder } from '@core/programme'
import type { BroughtDeck, DeckMatchView } from '@contracts'
import type { Queries } from '@server/database'
import { insertSlides, lockDeck, putDeck, slidesAsShown, slidesOf } from './decks'
import { tell } from './events'
import { currentProgramme, saveProgramme } from './programmes'

/** Puts slides that were read beside a talk's deck, in none of its places, until somebody has the deck replaced. In one transaction. */
export async function putBeside(
  q: Queries,
  { id, talk, slides: before }: { readonly id: string; readonly talk: string; readonly slides: readonly string[] },
  slides: readonly Slide[],
  pages: number,
): Promise<void> {
  const { revision, shape } = await q.selectFrom('talk').select(['revision', 'shape']).where('id', '=', talk).executeTakeFirstOrThrow()
  await insertSlides(
    q,
    talk,
    slides.map((slide) => ({ slide: recomposed(slide, shape), position: null })),
    revision,
  )
  await q
    .updateTable('import')
    .set({ pages_done: pages, slides: JSON.stringify([...before, ...slides.map((slide) => slide.id)]) })
    .where('id', '=', id)
    .execute()
}

interface ReplacingImport {
  readonly id: string
  readonly talk: string
  readonly slides: readonly string[]
  readonly match: readonly DeckMatchView['pairs'][number][]
  readonly before: readonly Slide[]
}

/** An import that is to replace the deck, and is in some state. @throws Refusal `not-found` or `conflict` */
async function replacing(q: Queries, talk: string, id: string, state: 'waiting' | 'taken'): Promise<ReplacingImport> {
  const row = await q
    .selectFrom('import')
    .select(['slides', 'match', 'replaces', 'state', 'deck_before'])
    .where('id', '=', id)
    .where('talk', '=', talk)
    .forUpdate()
    .executeTakeFirst()
  if (row === undefined || row.replaces === null) throw new Refusal('not-found', 'There is no such deck to take over.')
  if (row.state !== 'done' || row.replaces !== state)
    throw new Refusal('conflict', 'This deck was taken over, given back or left on another page in the meantime. Nothing was changed.')
  return { id, talk, slides: row.slides ?? [], match: row.match ?? [], before: row.deck_before ?? [] }
}

/** Slides that were brought, in their order; those that were taken over and are no more are left out. */
async function broughtSlides(q: Queries, talk: string, ids: readonly string[]): Promise<readonly Slide[]> {
  if (ids.length === 0) return []
  const rows = await q.selectFrom('slide').select(['id', 'version']).where('talk', '=', talk).where('id', 'in', ids).execute()
  const slides = await slidesAsShown(q, talk, Object.fromEntries(rows.map(({ id, version }) => [id, version])))
  const byId = new Map(slides.map((slide) => [String(slide.id), slide]))
  return ids.flatMap((one) => byId.get(one) ?? [])
}

/** The slides of a talk and those that an import has brought for it, to be matched. */
export async function slidesToMatch(
  q: Queries,
  talk: string,
  ids: readonly string[],
): Promise<readonly [readonly Slide[], readonly Slide[]]> {
  return [await slidesOf(q, talk), await broughtSlides(q, talk, ids)]
}

/**
 * Notes which slide of a brought deck is which of the talk's.
 * @param compared what of each slide is compared, by its id
 */
export async function noteMatch(
  q: Queries,
  id: string,
  [old, now]: readonly [readonly Slide[], readonly Slide[]],
  compared: ReadonlyMap<SlideId, MatchSlide>,
): Promise<void> {
  const of = (slides: readonly Slide[]): readonly MatchSlide[] => slides.flatMap((slide) => compared.get(slide.id) ?? [])
  const { pairs } = matchDecks(of(old), of(now))
  const named = pairs.flatMap(({ old: from, now: to, ...rest }): readonly DeckMatchView['pairs'][number][] => {
    const [slide, brought] = [old[from], now[to]]
    return slide === undefined || brought === undefined ? [] : [{ slide: slide.id, brought: brought.id, ...rest }]
  })
  await q
    .updateTable('import')
    .set({ match: JSON.stringify(named) })
    .where('id', '=', id)
    .execute()
}

/** A deck that was brought, and which of its slides is which of the talk's. @throws Refusal `not-found` or `conflict` */
export async function broughtDeck(q: Queries, talk: string, id: string): Promise<BroughtDeck> {
  const { slides, match } = await replacing(q, talk, id, 'waiting')
  return { slides: await broughtSlides(q, talk, slides), pairs: match }
}

/** @throws Refusal `malformed` when a pair names a slide twice, or one that is in neither deck */
function checkPairs(pairs: readonly SlidePair[], old: readonly Slide[], brought: readonly Slide[]): void {
  const [left, right] = [new Set(pairs.map(({ slide }) => slide)), new Set(pairs.map((pair) => pair.brought))]
  const [there, new_] = [new Set(old.map(({ id }) => id)), new Set(brought.map(({ id }) => id))]
  if (left.size !== pairs.length || right.size !== pairs.length)
    throw new Refusal('malformed', 'A slide cannot be two slides of the other deck.')
  if (![...left].every((slide) => there.has(slide)) || ![...right].every((slide) => new_.has(slide)))
    throw new Refusal('conflict', 'A slide of this deck is not there any more. Nothing was changed; look at the two decks again.')
}

/**
 * Has a deck that was brought take the place of the talk's: slides that are the same stay themselves, with recordings, notes, times and
 * framing. In one transaction.
 * @param base the revision of the deck that was looked at
 * @throws Refusal `conflict` when the deck was changed since, and nothing is
 */
export async function takeOverDeck(q: Queries, talk: string, id: string, base: number, pairs: readonly SlidePair[]): Promise<void> {
  const { revision, shape } = await lockDeck(q, talk)
  const { slides, match } = await replacing(q, talk, id, 'waiting')
  if (revision !== base) throw new Refusal('conflict', 'The deck was changed in the meantime. Nothing was taken over; look at both again.')
  const [old, brought] = await slidesToMatch(q, talk, slides)
  if (brought.length === 0) throw new Refusal('conflict', 'There is no slide in the deck that was brought. Nothing was changed.')
  checkPairs(pairs, old, brought)
  const after = takenOver(old, brought, pairs).map((slide) => recomposed(slide, shape))
  await putDeck(q, talk, old, { shape, slides: after }, revision + 1)
  // What was brought for a slide that was there is that slide now.
  const done = pairs.map((pair) => pair.brought)
  if (done.length > 0) await q.deleteFrom('slide').where('talk', '=', talk).where('id', 'in', done).execute()
  const same = new Set(match.filter(({ changed }) => !changed).map(({ slide, brought: now }) => `${slide} ${now}`))
  const changed = new Set(pairs.filter(({ slide, brought: now }) => !same.has(`${slide} ${now}`)).map(({ slide }) => slide))
  const programme = await currentProgramme(q, talk)
  const marked = markChanged(programme, changed)
  if (changedVisitsOf(marked).length > changedVisitsOf(programme).length) await saveProgramme(q, talk, marked, { kind: 'slides' })
  await q
    .updateTable('import')
    .set({ replaces: 'taken', deck_before: JSON.stringify(old) })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk, kind: 'import', id })
}

/**
 * Gives the deck back that was replaced, as it was, with the words and times that its slides have by now. What came with the new one
 * goes off the deck. In one transaction.
 */
export async function giveBackDeck(q: Queries, talk: string, id: string): Promise<void> {
  const { revision, shape } = await lockDeck(q, talk)
  const { before } = await replacing(q, talk, id, 'taken')
  const now = await slidesOf(q, talk)
  const rows = await q
    .selectFrom('slide_version')
    .select((build) => ['slide', build.fn.max('version').as('version')])
    .where(
      'slide',
      'in',
      before.map((slide) => slide.id),
    )
    .groupBy('slide')
    .execute()
  const last = new Map(rows.map(({ slide, version }) => [slide, version]))
  const there = new Map(now.map((slide) => [slide.id, slide]))
  const after = before.map((slide): Slide => {
    const { notes, viewerNotes, planned, skip, optional } = there.get(slide.id) ?? slide
    return { ...slide, notes, viewerNotes, planned, skip, optional, version: (last.get(slide.id) ?? slide.version) + 1 }
  })
  await putDeck(q, talk, now, { shape, slides: after }, revision + 1)
  const programme = await currentProgramme(q, talk)
  const shown = new Set(before.map((slide) => slide.id))
  const marks = (programme.changedUnder ?? []).filter((visit) =>
    programme.pieces.some((piece) => piece.visit === visit && !shown.has(piece.slide)),
  )
  if (programme.changedUnder !== undefined) await saveProgramme(q, talk, withChangedUnder(programme, marks), { kind: 'slides' })
  await q.updateTable('import').set({ replaces: 'given-back', deck_before: null }).where('id', '=', id).execute()
  await tell(q, { talk, kind: 'import', id })
}

/** A deck that was brought is not taken over: its slides go. In one transaction. */
export async function dropBrought(q: Queries, talk: string, id: string): Promise<void> {
  const { slides } = await replacing(q, talk, id, 'waiting')
  await lockDeck(q, talk)
  if (slides.length > 0)
    await q.deleteFrom('slide').where('talk', '=', talk).where('id', 'in', slides).where('position', 'is', null).execute()
  await q
    .updateTable('import')
    .set({ replaces: 'dropped', slides: JSON.stringify([]), match: null })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk, kind: 'import', id })
}
