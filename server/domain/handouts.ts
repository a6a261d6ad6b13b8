import { randomUUID } from 'node:crypto'
import { readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { assetsOfDrawing } from '@core/deck'
import { notesAsMarkdown } from '@core/formats'
import type { NotesKind } from '@core/formats'
import type { AssetId, Deck, Slide, SlideId, Stroke } from '@core/model'
import { LAST_MOMENT, indexFilm, sceneAt, slideOf } from '@core/scene'
import { makeHandoutApart } from '@render/handout'
import type { Queries } from '@server/database'
import { apartBounds } from '@server/settings'
import { allHere, assetPath, safeFolder, uploadFolder } from '@server/store'
import { slidesOf } from './decks'
import { inTurn } from './in-turn'
import type { Screening } from './screenings'
import { firstName } from './talks'

/** Making a handout takes no longer than this, in ms. */
const PATIENCE = 120_000

async function deckOf(q: Queries, talk: string): Promise<{ readonly name: string; readonly deck: Deck }> {
  const { name, shape } = await q.selectFrom('talk').select(['name', 'shape']).where('id', '=', talk).executeTakeFirstOrThrow()
  return { name, deck: { shape, slides: await slidesOf(q, talk) } }
}

/** A talk's notes as Markdown, of one kind. */
export async function notesFile(q: Queries, talk: string, kind: NotesKind): Promise<{ readonly text: string; readonly file: string }> {
  const { name, deck } = await deckOf(q, talk)
  return { text: notesAsMarkdown(name, deck, kind), file: `${firstName(name)}-${kind === 'notes' ? 'notes' : 'viewer-notes'}.md` }
}

/** What a slide's last step shows: the picture that was made for the browser when the deck was read, or those placed on it. */
function picturesOf(slide: Slide): readonly AssetId[] {
  const picture = slide.steps.at(-1)?.picture
  if (picture === undefined) return []
  const own = picture.kind === 'composed' ? picture.composition.pictures.map(({ asset }) => asset) : [picture.screen]
  return [...own, ...assetsOfDrawing(slide)]
}

/** What a handout is made of. */
interface HandoutParts {
  readonly name: string
  readonly deck: Deck
  readonly kind: NotesKind
  readonly ink: Readonly<Record<SlideId, readonly Stroke[]>>
}

async function handoutOf(parts: HandoutParts): Promise<Buffer> {
  const out = join(uploadFolder(), `handout-${randomUUID()}`)
  const pictures = Object.fromEntries(parts.deck.slides.flatMap(picturesOf).map((digest) => [digest, assetPath(digest)]))
  await safeFolder(uploadFolder())
  await allHere(Object.values(pictures))
  try {
    await inTurn(() => makeHandoutApart({ ...parts, pictures, out }, { ...apartBounds(), time: PATIENCE }))
    return await readFile(out)
  } finally {
    await rm(out, { force: true })
  }
}

/** Slides with their words, as a PDF. */
export async function handoutFile(q: Queries, talk: string, kind: NotesKind): Promise<{ readonly bytes: Buffer; readonly file: string }> {
  const { name, deck } = await deckOf(q, talk)
  return { bytes: await handoutOf({ name, deck, kind, ink: {} }), file: `${firstName(name)}-${kind === 'notes' ? 'notes' : 'handout'}.pdf` }
}

/** Slides as they are in the end, for those who watch: with what was drawn on them, and what was written for viewers where it is theirs. */
export async function screenedHandout(
  q: Queries,
  talk: string,
  { film, visits, slides }: Pick<Screening, 'film' | 'visits' | 'slides'>,
  viewerNotes: boolean,
): Promise<{ readonly bytes: Buffer; readonly file: string }> {
  const { name } = await q.selectFrom('talk').select('name').where('id', '=', talk).executeTakeFirstOrThrow()
  const index = indexFilm(film)
  const inkOf = (slide: SlideId): readonly Stroke[] => {
    const last = visits.findLast((visit) => visit.slide === slide)
    const scene = last === undefined ? null : sceneAt(index, last.start + last.length - LAST_MOMENT)
    return scene === null ? [] : scene.ink.map(({ stroke }) => stroke)
  }
  const shown = slides.map(({ id }) => slideOf(film, id))
  const deck = { shape: film.shape, slides: viewerNotes ? shown : shown.map((slide) => ({ ...slide, viewerNotes: '' })) }
  const ink = Object.fromEntries(slides.map(({ id }) => [id, inkOf(id)]))
  return { bytes: await handoutOf({ name, deck, kind: 'viewerNotes', ink }), file: `${firstName(name)}.pdf` }
}

/** What was written for viewers of the slides that are shown, as Markdown. */
export async function screenedNotes(
  q: Queries,
  talk: string,
  { film, slides }: Pick<Screening, 'film' | 'slides'>,
): Promise<{ readonly text: string; readonly file: string }> {
  const { name } = await q.selectFrom('talk').select('name').where('id', '=', talk).executeTakeFirstOrThrow()
  const deck = { shape: film.shape, slides: slides.map(({ id }) => slideOf(film, id)) }
  return { text: notesAsMarkdown(name, deck, 'viewerNotes'), file: `${firstName(name)}.md` }
}
