import { isDeepStrictEqual } from 'node:util'
import { rollup } from 'd3'
import { sql } from 'kysely'
import { applyDeckEdit } from '@core/deck'
import type { DeckEdit } from '@core/deck'
import { Refusal, asId } from '@core/model'
import type { Deck, Size, Slide, SlideId } from '@core/model'
import { assetsNamedBy, fromWire } from '@contracts'
import type { WireEdit } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { tell } from './events'
import { checkAssets } from './kept-for-talk'
import { currentProgramme, saveProgramme } from './programmes'

interface SlideRow {
  readonly id: string
  readonly version: number
  readonly title: string
  readonly section: string
  readonly notes: string
  readonly viewer_notes: string
  readonly description: string
  readonly planned_ms: number | null
  readonly skip: boolean
  readonly optional: boolean
  readonly steps: Slide['steps']
  readonly framing: Slide['framing']
  readonly proposed_inset: NonNullable<Slide['proposedInset']> | null
  readonly composition: Slide['composition']
  readonly clips: NonNullable<Slide['clips']> | null
  readonly drawing: NonNullable<Slide['drawing']> | null
  readonly transition: Slide['transition']
}

const toSlide = (row: SlideRow): Slide => ({
  id: asId(row.id),
  version: row.version,
  title: row.title,
  section: row.section,
  notes: row.notes,
  viewerNotes: row.viewer_notes,
  description: row.description,
  planned: row.planned_ms,
  skip: row.skip,
  optional: row.optional,
  steps: row.steps,
  framing: row.framing,
  ...(row.proposed_inset === null ? {} : { proposedInset: row.proposed_inset }),
  composition: row.composition,
  ...(row.clips === null ? {} : { clips: row.clips }),
  ...(row.drawing === null ? {} : { drawing: row.drawing }),
  transition: row.transition,
})

const OWN = [
  'slide.id',
  'slide.title',
  'slide.section',
  'slide.notes',
  'slide.viewer_notes',
  'slide.description',
  'slide.planned_ms',
  'slide.skip',
  'slide.optional',
] as const
const OF_VERSION = [
  'slide_version.version',
  'slide_version.steps',
  'slide_version.framing',
  'slide_version.proposed_inset',
  'slide_version.composition',
  'slide_version.clips',
  'slide_version.drawing',
  'slide_version.transition',
] as const
const COLUMNS = [...OWN, ...OF_VERSION]

const slides = (q: Queries, talk: string) =>
  q
    .selectFrom('slide')
    .innerJoin('slide_version', (join) =>
      join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'slide.version'),
    )
    .select(COLUMNS)
    .where('slide.talk', '=', talk)

/** The decks of several talks in one question. */
export async function slidesOfMany(q: Queries, talks: readonly string[]): Promise<ReadonlyMap<string, readonly Slide[]>> {
  if (talks.length === 0) return new Map()
  const rows = await q
    .selectFrom('slide')
    .innerJoin('slide_version', (join) =>
      join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'slide.version'),
    )
    .select([...COLUMNS, 'slide.talk'])
    .where('slide.talk', 'in', [...talks])
    .where('slide.position', 'is not', null)
    .orderBy('slide.position')
    .execute()
  return rollup(
    rows,
    (own) => own.map(toSlide),
    (row) => row.talk,
  )
}

/** The slides of a talk's deck, in order. */
export async function slidesOf(q: Queries, talk: string): Promise<readonly Slide[]> {
  return (await slides(q, talk).where('slide.position', 'is not', null).orderBy('slide.position').execute()).map(toSlide)
}

/** A slide that is in no place of its talk's deck, as it was last; null when there is none. */
export async function slideOffDeck(q: Queries, talk: string, id: SlideId): Promise<Slide | null> {
  const row = await slides(q, talk).where('slide.id', '=', id).where('slide.position', 'is', null).executeTakeFirst()
  return row === undefined ? null : toSlide(row)
}

/** Slides of a talk in the versions that a programme names, on the deck or off it. */
export async function slidesAsShown(q: Queries, talk: string, versions: Readonly<Record<string, number>>): Promise<readonly Slide[]> {
  const wanted = Object.entries(versions)
  if (wanted.length === 0) return []
  const rows = await q
    .selectFrom('slide')
    .innerJoin(
      sql<{
        id: string
        version: number
      }>`unnest(${wanted.map(([id]) => id)}::uuid[], ${wanted.map(([, version]) => version)}::int[])`.as<'wanted'>(
        sql`wanted(id, version)`,
      ),
      (join) => join.onRef('wanted.id', '=', 'slide.id'),
    )
    .innerJoin('slide_version', (join) =>
      join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'wanted.version'),
    )
    .select(COLUMNS)
    .where('slide.talk', '=', talk)
    // The same each time it is asked, however the rows lie.
    .orderBy('slide.id')
    .execute()
  return rows.map(toSlide)
}

/**
 * Writes slides of a talk, new ones and changed ones, with their versions.
 * @param rows with the place of each in the deck; null: it is in none
 * @throws Refusal `conflict` when one is another talk's
 */
export async function insertSlides(
  q: Queries,
  talk: string,
  rows: readonly { readonly slide: Slide; readonly position: number | null }[],
  revision: number,
): Promise<void> {
  if (rows.length === 0) return
  const kept = await q
    .insertInto('slide')
    .values(
      rows.map(({ slide, position }) => ({
        id: slide.id,
        talk,
        position,
        version: slide.version,
        title: slide.title,
        section: slide.section,
        notes: slide.notes,
        viewer_notes: slide.viewerNotes,
        description: slide.description,
        planned_ms: slide.planned,
        skip: slide.skip,
        optional: slide.optional,
        changed_revision: revision,
      })),
    )
    .onConflict((conflict) =>
      conflict
        .column('id')
        .doUpdateSet((set) => ({
          position: set.ref('excluded.position'),
          version: set.ref('excluded.version'),
          title: set.ref('excluded.title'),
          section: set.ref('excluded.section'),
          notes: set.ref('excluded.notes'),
          viewer_notes: set.ref('excluded.viewer_notes'),
          description: set.ref('excluded.description'),
          planned_ms: set.ref('excluded.planned_ms'),
          skip: set.ref('excluded.skip'),
          optional: set.ref('excluded.optional'),
          // A slide that only stands elsewhere now has not changed.
          changed_revision: sql<number>`case when (slide.version, slide.title, slide.section, slide.notes, slide.viewer_notes,
            slide.description, slide.planned_ms, slide.skip, slide.optional)
      is distinct from (excluded.version, excluded.title, excluded.section, excluded.notes, excluded.viewer_notes,
        excluded.description, excluded.planned_ms, excluded.skip, excluded.optional)
      then excluded.changed_revision else slide.changed_revision end`,
        }))
        .where('slide.talk', '=', talk),
    )
    .returning('slide.id')
    .execute()
  // An id that a page made up and that is another talk's is refused by the condition above.
  if (kept.length !== rows.length) throw new Refusal('conflict', 'A slide of this change belongs to another talk. Nothing was changed.')
  await q
    .insertInto('slide_version')
    .values(
      rows.map(({ slide }) => ({
        slide: slide.id,
        version: slide.version,
        steps: JSON.stringify(slide.steps),
        framing: slide.framing && JSON.stringify(slide.framing),
        proposed_inset: slide.proposedInset === undefined ? null : JSON.stringify(slide.proposedInset),
        composition: slide.composition && JSON.stringify(slide.composition),
        clips: slide.clips === undefined || slide.clips.length === 0 ? null : JSON.stringify(slide.clips),
        drawing: slide.drawing === undefined ? null : JSON.stringify(slide.drawing),
        transition: slide.transition,
      })),
    )
    .onConflict((conflict) => conflict.doNothing())
    .execute()
}

/** Writes what differs between two states of a deck: new slides, new versions, words, places. */
export async function saveDeck(
  q: Queries,
  talk: string,
  before: readonly Slide[],
  after: readonly Slide[],
  revision: number,
): Promise<void> {
  const was = new Map(before.map((slide, position) => [slide.id, { slide, position }]))
  const is = new Set(after.map((slide) => slide.id))
  const changed = after
    .map((slide, position) => ({ slide, position }))
    .filter(({ slide, position }) => was.get(slide.id)?.slide !== slide || was.get(slide.id)?.position !== position)
  const gone = before.filter((slide) => !is.has(slide.id)).map((slide) => slide.id)
  await insertSlides(q, talk, changed, revision)
  if (gone.length > 0) {
    await q.updateTable('slide').set({ position: null, changed_revision: revision }).where('id', 'in', gone).execute()
  }
}

const touched = (edit: DeckEdit): readonly SlideId[] => {
  switch (edit.kind) {
    case 'all':
      return edit.edits.flatMap(touched)
    case 'set':
    case 'merge':
    case 'remove':
      return edit.slides
    case 'split':
      return [edit.slide]
    default:
      return []
  }
}

/** A slide whose id was in the deck before, and that is put in anew, gets a version that was never shown. */
async function withFreshVersions(q: Queries, before: readonly Slide[], after: readonly Slide[]): Promise<readonly Slide[]> {
  const there = new Set(before.map((slide) => slide.id))
  const fresh = after.filter((slide) => !there.has(slide.id))
  if (fresh.length === 0) return after
  const rows = await q
    .selectFrom('slide_version')
    .select(['slide', 'version', 'steps', 'framing', 'transition', 'clips', 'drawing'])
    .where(
      'slide',
      'in',
      fresh.map((slide) => slide.id),
    )
    .orderBy('version')
    .execute()
  const last = new Map(rows.map((row) => [row.slide, row]))
  return after.map((slide) => {
    const known = there.has(slide.id) ? undefined : last.get(slide.id)
    if (known === undefined) return slide
    const same =
      known.version === slide.version &&
      isDeepStrictEqual(
        [known.steps, known.framing, known.transition, known.clips ?? [], known.drawing],
        [slide.steps, slide.framing, slide.transition, slide.clips ?? [], slide.drawing ?? null],
      )
    return same ? slide : { ...slide, version: known.version + 1 }
  })
}

/** A talk's deck, held until the transaction ends: nobody else changes it meanwhile. */
export async function lockDeck(q: Queries, talk: string): Promise<{ readonly revision: number; readonly shape: Size }> {
  return await q.selectFrom('talk').select(['revision', 'shape']).where('id', '=', talk).forUpdate().executeTakeFirstOrThrow()
}

/**
 * Writes a new state of a locked deck, has the programme show its slides as they are now, and tells of it.
 * @param before its slides as they were @param revision that it has from now on
 */
export async function putDeck(
  q: Queries,
  talk: string,
  before: readonly Slide[],
  { shape, slides: after }: Deck,
  revision: number,
): Promise<void> {
  await saveDeck(q, talk, before, after, revision)
  await q
    .updateTable('talk')
    .set({ revision, shape: JSON.stringify(shape), changed: new Date() })
    .where('id', '=', talk)
    .execute()
  await takeUpVersions(q, talk, after)
  await tell(q, { talk, kind: 'deck', id: null })
}

/**
 * Changes a deck. A change made on an older revision goes through as long as nobody else changed the same slides since.
 * @param base the revision that the change was made on
 * @returns the deck's new revision
 * @throws Refusal `conflict` and changes nothing when the same slide was changed elsewhere
 */
export async function editDeck(
  q: Queries,
  talk: string,
  base: number,
  wire: WireEdit,
): Promise<{ readonly revision: number; readonly shape: Size; readonly slides: readonly Slide[] }> {
  const locked = await lockDeck(q, talk)
  const removed = new Map((await slides(q, talk).where('slide.position', 'is', null).execute()).map((slide) => [slide.id, toSlide(slide)]))
  const edit = fromWire(wire, (id) => removed.get(id))
  const ids = touched(edit)
  const conflict =
    ids.length === 0
      ? undefined
      : await q
          .selectFrom('slide')
          .select('id')
          .where('id', 'in', ids)
          .where('talk', '=', talk)
          .where('changed_revision', '>', base)
          .executeTakeFirst()
  if (conflict !== undefined) {
    throw new Refusal(
      'conflict',
      'This slide was changed on another page in the meantime. That change was kept and yours was not; look at it and change it ' +
        'again if it is needed.',
      { slide: conflict.id },
    )
  }
  await checkAssets(q, talk, assetsNamedBy(wire))
  const before: Deck = { shape: locked.shape, slides: await slidesOf(q, talk) }
  const after = applyDeckEdit(before, edit)
  if (after.slides.length > settings().maxPages * 3)
    throw new Refusal('too-many', `A deck can have up to ${String(settings().maxPages * 3)} slides. Nothing was changed.`)
  const slidesAfter = await withFreshVersions(q, before.slides, after.slides)
  const revision = locked.revision + 1
  await putDeck(q, talk, before.slides, { ...after, slides: slidesAfter }, revision)
  return { revision, shape: after.shape, slides: slidesAfter }
}

/** The talk's programme shows slides as they are now. */
export async function takeUpVersions(q: Queries, talk: string, now: readonly Slide[]): Promise<void> {
  const programme = await currentProgramme(q, talk)
  const newer = now.filter((slide) => slide.id in programme.slides && programme.slides[slide.id] !== slide.version)
  if (newer.length === 0) return
  await saveProgramme(
    q,
    talk,
    {
      ...programme,
      slides: { ...programme.slides, ...Object.fromEntries(newer.map((slide) => [slide.id, slide.version])) },
    },
    { kind: 'slides' },
  )
}
