import { presenterOutline, steadyOutline } from '@core/camera'
import { piecesOf } from '@render/process'
import { OUTLINE_SIZE, OutlineNetwork, PICTURE_BYTES } from './outline-network'

async function* seen(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const network = await OutlineNetwork.load()
  for await (const picture of piecesOf(chunks, PICTURE_BYTES)) {
    const outline = await network.outlineIn(picture)
    const bytes = new Uint8Array(outline.length)
    for (let n = 0; n < outline.length; n += 1) bytes[n] = Math.round(Math.max(0, Math.min(1, outline[n]!)) * 255)
    yield presenterOutline(bytes, OUTLINE_SIZE.width)
  }
}

/**
 * The outlines of who is before a camera, steadied: white where they are, black where they are not.
 * @param chunks pictures one after the other, `OUTLINE_SIZE` pixels of red, green and blue each
 * @returns one for each, a byte a pixel
 */
export async function* outlinesIn(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let before: Uint8Array | null = null
  let now: Uint8Array | null = null
  for await (const after of seen(chunks)) {
    if (now !== null) yield steadyOutline(before, now, after)
    before = now
    now = after
  }
  if (now !== null) yield steadyOutline(before, now, null)
}
