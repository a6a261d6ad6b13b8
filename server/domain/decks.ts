import { rollup } from 'd3'
import { sql } from 'kysely'
import { applyDeckEdit } from '@core/deck'
import type { DeckEdit } from '@core/deck'
import { Refusal, asId } from '@core/model'
import type { Deck, Slide, SlideId } from '@core/model'
import { fromWire } from '@contracts'
import type { WireEdit } from '@contracts'
import type { Queries } from '@server/database'
import { tell } from './events'
import { currentProgramme, saveProgramme } from './programmes'

interface SlideRow {
  readonly id: string
  readonly version: number
  readonly title: string
  readonly notes: string
  readonly planned_ms: number | null
  readonly skip: boolean
  readonly steps: Slide['steps']
  readonly framing: Slide['framing']
}

const toSlide = (row: SlideRow): Slide => ({
  id: asId(row.id),
  version: row.version,
  title: row.title,
  notes: row.notes,
  planned: row.planned_ms,
  skip: row.skip,
  steps: row.steps,
  framing: row.framing,
})

const COLUMNS = ['slide.id', 'slide.version', 'slide.title', 'slide.notes', 'slide.planned_ms', 'slide.skip', 'slide_version.steps', 'slide_version.framing'] as const

const slides = (q: Queries, talk: string) => q.selectFrom('slide')
  .innerJoin('slide_version', (join) => join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'slide.version'))
  .select(COLUMNS).where('slide.talk', '=', talk)

/** The decks of several talks in one question. */
export async function slidesOfMany(q: Queries, talks: readonly string[]): Promise<ReadonlyMap<string, readonly Slide[]>> {
  if (talks.length === 0) return new Map()
  const rows = await q.selectFrom('slide')
    .innerJoin('slide_version', (join) => join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'slide.version'))
    .select([...COLUMNS, 'slide.talk']).where('slide.talk', 'in', [...talks]).where('slide.position', 'is not', null).orderBy('slide.position').execute()
  return rollup(rows, (own) => own.map(toSlide), (row) => row.talk)
}

/** The slides of a talk's deck, in order. */
export async function slidesOf(q: Queries, talk: string): Promise<readonly Slide[]> {
  return (await slides(q, talk).where('slide.position', 'is not', null).orderBy('slide.position').execute()).map(toSlide)
}

/** Slides of a talk in the versions that a programme names, on the deck or off it. */
export async function slidesAsShown(q: Queries, talk: string, versions: Readonly<Record<string, number>>): Promise<readonly Slide[]> {
  const wanted = Object.entries(versions)
  if (wanted.length === 0) return []
  const rows = await q.selectFrom('slide')
    .innerJoin(
      sql<{ id: string, version: number }>`unnest(${wanted.map(([id]) => id)}::uuid[], ${wanted.map(([, version]) => version)}::int[])`.as<'wanted'>(sql`wanted(id, version)`),
      (join) => join.onRef('wanted.id', '=', 'slide.id'),
    )
    .innerJoin('slide_version', (join) => join.onRef('slide_version.slide', '=', 'slide.id').onRef('slide_version.version', '=', 'wanted.version'))
    .select(['slide.id', 'slide_version.version', 'slide.title', 'slide.notes', 'slide.planned_ms', 'slide.skip', 'slide_version.steps', 'slide_version.framing'])
    .where('slide.talk', '=', talk).execute()
  return rows.map(toSlide)
}

/** Writes what differs between two states of a deck: new slides, new versions, words, places. */
export async function saveDeck(q: Queries, talk: string, before: readonly Slide[], after: readonly Slide[], revision: number): Promise<void> {
  const was = new Map(before.map((slide, position) => [slide.id, { slide, position }]))
  const is = new Set(after.map((slide) => slide.id))
  const changed = after
    .map((slide, position) => ({ slide, position }))
    .filter(({ slide, position }) => was.get(slide.id)?.slide !== slide || was.get(slide.id)?.position !== position)
  const gone = before.filter((slide) => !is.has(slide.id)).map((slide) => slide.id)
  if (changed.length > 0) {
    await q.insertInto('slide').values(changed.map(({ slide, position }) => ({
      id: slide.id, talk, position, version: slide.version, title: slide.title, notes: slide.notes,
      planned_ms: slide.planned, skip: slide.skip, changed_revision: revision,
    }))).onConflict((conflict) => conflict.column('id').doUpdateSet((set) => ({
      position: set.ref('excluded.position'),
      version: set.ref('excluded.version'),
      title: set.ref('excluded.title'),
      notes: set.ref('excluded.notes'),
      planned_ms: set.ref('excluded.planned_ms'),
      skip: set.ref('excluded.skip'),
      // A slide that only stands elsewhere now has not changed.
      changed_revision: sql<number>`case when (slide.version, slide.title, slide.notes, slide.planned_ms, slide.skip)
        is distinct from (excluded.version, excluded.title, excluded.notes, excluded.planned_ms, excluded.skip)
        then excluded.changed_revision else slide.changed_revision end`,
    }))).execute()
    await q.insertInto('slide_version').values(changed.map(({ slide }) => ({
      slide: slide.id, version: slide.version, steps: JSON.stringify(slide.steps), framing: slide.framing && JSON.stringify(slide.framing),
    }))).onConflict((conflict) => conflict.doNothing()).execute()
  }
  if (gone.length > 0) {
    await q.updateTable('slide').set({ position: null, changed_revision: revision }).where('id', 'in', gone).execute()
  }
}

const touched = (edit: DeckEdit): readonly SlideId[] => {
  if (edit.kind === 'all') return edit.edits.flatMap(touched)
  return edit.kind === 'set' || edit.kind === 'remove' ? edit.slides : []
}

/**
 * Changes a deck. A change made on an older revision goes through as long as nobody else changed the same slides since.
 * @param base the revision that the change was made on
 * @returns the deck's new revision
 * @throws Refusal `conflict` and changes nothing when the same slide was changed elsewhere
 */
export async function editDeck(q: Queries, talk: string, base: number, wire: WireEdit): Promise<{ readonly revision: number, readonly slides: readonly Slide[] }> {
  const row = await q.selectFrom('talk').select(['revision', 'shape']).where('id', '=', talk).forUpdate().executeTakeFirstOrThrow()
  const removed = new Map((await slides(q, talk).where('slide.position', 'is', null).execute()).map((slide) => [slide.id, toSlide(slide)]))
  const edit = fromWire(wire, (id) => removed.get(id))
  const ids = touched(edit)
  const conflict = ids.length === 0 ? undefined : await q.selectFrom('slide').select('id')
    .where('id', 'in', ids).where('talk', '=', talk).where('changed_revision', '>', base).executeTakeFirst()
  if (conflict !== undefined) {
    throw new Refusal('conflict', 'This slide was changed on another page in the meantime. That change was kept and yours was not; look at it and change it again if it is needed.', { slide: conflict.id })
  }
  const before: Deck = { shape: row.shape, slides: await slidesOf(q, talk) }
  const after = applyDeckEdit(before, edit)
  const revision = row.revision + 1
  await saveDeck(q, talk, before.slides, after.slides, revision)
  await q.updateTable('talk').set({ revision, changed: new Date() }).where('id', '=', talk).execute()
  await takeUpVersions(q, talk, after.slides)
  await tell(q, { talk, kind: 'deck', id: null })
  return { revision, slides: after.slides }
}

/** The talk's programme shows slides as they are now. */
async function takeUpVersions(q: Queries, talk: string, now: readonly Slide[]): Promise<void> {
  const programme = await currentProgramme(q, talk)
  const newer = now.filter((slide) => slide.id in programme.slides && programme.slides[slide.id] !== slide.version)
  if (newer.length === 0) return
  await saveProgramme(q, talk, {
    ...programme,
    slides: { ...programme.slides, ...Object.fromEntries(newer.map((slide) => [slide.id, slide.version])) },
    revision: programme.revision + 1,
  }, 'slides changed')
}
