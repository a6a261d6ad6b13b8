import { writeFile } from 'node:fs/promises'
import { text } from 'node:stream/consumers'
import { loadImage } from '@napi-rs/canvas'
import type { Drawable } from '@core/paint'
import { assetsOfDrawing } from '@core/deck'
import type { AssetId } from '@core/model'
import { makeHandout } from '@render/handout'
import type { HandoutFileOrder } from '@render/handout'
import type { Drawn } from '@render/video'

// Our own server wrote it; it is not a border.
const { name, deck, kind, ink, pictures, out } = JSON.parse(await text(process.stdin)) as HandoutFileOrder

const load = async (digest: AssetId): Promise<Drawable<Drawn>> => {
  const image = await loadImage(pictures[digest] ?? '')
  return { image, width: image.width, height: image.height }
}

await writeFile(
  out,
  await makeHandout({
    name,
    deck,
    kind,
    ink,
    shelfFor: async (slide) => {
      const picture = slide.steps.at(-1)?.picture
      if (picture === undefined) return { ofStep: () => undefined, ofAsset: () => undefined }
      const drawn = picture.kind === 'composed' ? undefined : await load(picture.screen)
      const placed = [
        ...(picture.kind === 'composed' ? picture.composition.pictures.map(({ asset }) => asset) : []),
        ...assetsOfDrawing(slide),
      ]
      const assets = new Map(await Promise.all(placed.map(async (asset) => [asset, await load(asset)] as const)))
      return { ofStep: () => drawn, ofAsset: (asset) => assets.get(asset) }
    },
  }),
  { mode: 0o600 },
)
