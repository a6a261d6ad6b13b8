import type { Canvas } from '@napi-rs/canvas'
import { drawPage, drawPicture, openPdf, openPicture } from '@render/deck'
import type { Picture, Size } from '@core/model'
import type { PictureSource } from './film-painter'

/** How many drawn pictures are held at a time; at 2160 lines each takes 33 MB. */
const HELD = 3

/**
 * Draws steps from the files they came from, at the size an export asks for, so that large videos are sharp.
 * @param pathOf finds a source file by its digest
 */
export function pictureSource(pathOf: (digest: string) => string): { readonly source: PictureSource, readonly close: () => Promise<void> } {
  const documents = new Map<string, ReturnType<typeof openPdf>>()
  const drawn = new Map<string, Promise<Canvas>>()

  const draw = async (picture: Picture, size: Size): Promise<Canvas> => {
    if (picture.kind === 'image') return await drawPicture(await openPicture(pathOf(picture.source)), size)
    const opening = documents.get(picture.source) ?? openPdf(pathOf(picture.source))
    documents.set(picture.source, opening)
    const page = await (await opening).getPage(picture.page)
    try {
      return await drawPage(page, size)
    } finally {
      page.cleanup()
    }
  }

  return {
    source: async (picture, size) => {
      const name = JSON.stringify([picture.source, picture.kind === 'page' ? picture.page : 0, size])
      const canvas = drawn.get(name) ?? draw(picture, size)
      // The one used last is dropped last.
      drawn.delete(name)
      drawn.set(name, canvas)
      const oldest = drawn.keys().next().value
      if (drawn.size > HELD && oldest !== undefined) drawn.delete(oldest)
      return await canvas
    },
    close: async () => {
      drawn.clear()
      for (const opening of documents.values()) await (await opening).destroy()
    },
  }
}
