import { writeFile } from 'node:fs/promises'
import { text } from 'node:stream/consumers'
import { loadImage } from '@napi-rs/canvas'
import type { Drawable } from '@core/paint'
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
      if (picture.kind !== 'composed') {
        const drawn = await load(picture.screen)
        return { ofStep: () => drawn, ofAsset: () => undefined }
      }
      const assets = new Map(await Promise.all(picture.composition.pictures.map(async ({ asset }) => [asset, await load(asset)] as const)))
      return { ofStep: () => undefined, ofAsset: (asset) => assets.get(asset) }
    },
  }),
  { mode: 0o600 },
)
