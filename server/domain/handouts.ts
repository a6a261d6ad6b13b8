import { randomUUID } from 'node:crypto'
import { readFile, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { notesAsMarkdown } from '@core/formats'
import type { NotesKind } from '@core/formats'
import type { AssetId, Deck, Slide } from '@core/model'
import { makeHandoutApart } from '@render/handout'
import type { Queries } from '@server/database'
import { apartBounds } from '@server/settings'
import { assetPath, safeFolder, uploadFolder } from '@server/store'
import { slidesOf } from './decks'
import { inTurn } from './in-turn'
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
  return picture.kind === 'composed' ? picture.composition.pictures.map(({ asset }) => asset) : [picture.screen]
}

/** Slides with their words, as a PDF. */
export async function handoutFile(q: Queries, talk: string, kind: NotesKind): Promise<{ readonly bytes: Buffer; readonly file: string }> {
  const { name, deck } = await deckOf(q, talk)
  const out = join(uploadFolder(), `handout-${randomUUID()}`)
  const pictures = Object.fromEntries(deck.slides.flatMap(picturesOf).map((digest) => [digest, assetPath(digest)]))
  await safeFolder(uploadFolder())
  try {
    await inTurn(() => makeHandoutApart({ name, deck, kind, pictures, out }, { ...apartBounds(), time: PATIENCE }))
    return { bytes: await readFile(out), file: `${firstName(name)}-${kind === 'notes' ? 'notes' : 'handout'}.pdf` }
  } finally {
    await rm(out, { force: true })
  }
}
