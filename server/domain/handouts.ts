import { loadImage } from '@napi-rs/canvas'
import { notesAsMarkdown } from '@core/formats'
import type { NotesKind } from '@core/formats'
import type { Drawable, PictureShelf } from '@core/paint'
import type { AssetId, Deck } from '@core/model'
import { makeHandout } from '@render/handout'
import type { Drawn } from '@render/video'
import type { Queries } from '@server/database'
import { assetPath } from '@server/store'
import { slidesOf } from './decks'
import { inTurn } from './in-turn'
import { firstName } from './talks'

async function deckOf(q: Queries, talk: string): Promise<{ readonly name: string, readonly deck: Deck }> {
  const { name, shape } = await q.selectFrom('talk').select(['name', 'shape']).where('id', '=', talk).executeTakeFirstOrThrow()
  return { name, deck: { shape, slides: await slidesOf(q, talk) } }
}

/** A talk's notes as Markdown, of one kind. */
export async function notesFile(q: Queries, talk: string, kind: NotesKind): Promise<{ readonly text: string, readonly file: string }> {
  const { name, deck } = await deckOf(q, talk)
  return { text: notesAsMarkdown(name, deck, kind), file: `${firstName(name)}-${kind === 'notes' ? 'notes' : 'viewer-notes'}.md` }
}

/** Slides with their words, as a PDF. Pictures are those that were made for the browser when the deck was read. */
export async function handoutFile(q: Queries, talk: string, kind: NotesKind): Promise<{ readonly bytes: Buffer, readonly file: string }> {
  const { name, deck } = await deckOf(q, talk)
  const load = async (digest: AssetId): Promise<Drawable<Drawn>> => {
    const image = await loadImage(assetPath(digest))
    return { image, width: image.width, height: image.height }
  }
  const bytes = await inTurn(() => makeHandout({
    name, deck, kind,
    shelfFor: async (slide): Promise<PictureShelf<Drawn>> => {
      const picture = slide.steps.at(-1)?.picture
      if (picture === undefined) return { ofStep: () => undefined, ofAsset: () => undefined }
      if (picture.kind !== 'composed') {
        const drawn = await load(picture.screen)
        return { ofStep: () => drawn, ofAsset: () => undefined }
      }
      const assets = new Map(await Promise.all(picture.composition.pictures.map(async ({ asset }) => [asset, await load(asset)] as const)))
      return { ofStep: () => undefined, ofAsset: (asset) => assets.get(asset) }
    },
  }))
  return { bytes, file: `${firstName(name)}-${kind === 'notes' ? 'notes' : 'handout'}.pdf` }
}
