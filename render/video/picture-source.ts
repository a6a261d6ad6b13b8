import { loadImage } from '@napi-rs/canvas'
import type { Canvas, Image } from '@napi-rs/canvas'
import { LRUCache } from 'lru-cache'
import type { Drawable, FiledPicture, PictureShelf } from '@core/paint'
import type { AssetId, Picture, Size } from '@core/model'
import type { OverlayScene, SlideView } from '@core/scene'
import { DrawnApart } from '@render/deck'
import type { ApartBounds } from '@render/process'
import { registerFonts } from '@render/type'

/** What a painter on the server draws with. */
export type Drawn = Canvas | Image

/** How many drawn pictures are held at a time: one for each lane, its next one, and one to fade from. At 2160 lines each takes 33 MB. */
const HELD = 4
/** How many pictures placed on slides made here are held at a time. */
const HELD_PLACED = 8

/** The views in a scene: the one that goes, if one does, and the one that comes. */
export const viewsOf = (scene: { readonly transition: { readonly from: SlideView } | null } & SlideView): readonly SlideView[] =>
  scene.transition === null ? [scene] : [scene.transition.from, scene]

/** Takes what was made before, or makes it. */
function madeOnce<Value>(made: LRUCache<string, Promise<Value>>, name: string, make: () => Promise<Value>): Promise<Value> {
  const value = made.get(name) ?? make()
  made.set(name, value)
  return value
}

/** What drawing pages from their source may take when nothing else is said. */
const USUAL: Omit<ApartBounds, 'time'> = { memory: 1536, programs: null, home: process.cwd() }

/**
 * Draws the pictures of scenes from the files they came from, at the size an export asks for, so that large videos are sharp. Those
 * files are opened apart.
 */
export class PictureSource {
  /** Finds a file by its digest. */
  readonly pathOf: (digest: string) => string | Promise<string>
  readonly #apart: DrawnApart
  readonly #drawn = new LRUCache<string, Promise<Canvas>>({ max: HELD })
  readonly #placed = new LRUCache<string, Promise<Image>>({ max: HELD_PLACED })

  /** @param pathOf finds a source file by its digest @param bounds for the process that opens them */
  constructor(pathOf: (digest: string) => string | Promise<string>, bounds = USUAL) {
    this.pathOf = pathOf
    this.#apart = new DrawnApart(bounds)
    registerFonts()
  }

  async #draw(picture: FiledPicture, box: Size): Promise<Canvas> {
    const path = await this.pathOf(picture.source)
    return await this.#apart.draw({ path, page: picture.kind === 'image' ? null : picture.page, box })
  }

  /** Gets everything ready that a scene shows. @returns what a painter takes it from */
  async shelfFor(
    scene: Parameters<typeof viewsOf>[0] & { readonly overlays?: readonly OverlayScene[] },
    size: Size,
  ): Promise<PictureShelf<Drawn>> {
    const steps = new Map<string, Drawable<Drawn>>()
    const assets = new Map<AssetId, Drawable<Drawn>>()
    const placed = async (asset: AssetId): Promise<void> => {
      const image = await madeOnce(this.#placed, asset, async () => loadImage(await this.pathOf(asset)))
      assets.set(asset, { image, width: image.width, height: image.height })
    }
    const ready = async (picture: Picture): Promise<void> => {
      if (picture.kind === 'composed') {
        for (const { asset } of picture.composition.pictures) await placed(asset)
        return
      }
      const name = nameOf(picture)
      const canvas = await madeOnce(this.#drawn, JSON.stringify([name, size]), () => this.#draw(picture, size))
      steps.set(name, { image: canvas, width: canvas.width, height: canvas.height })
    }
    for (const { shown, revealFrom, objects } of viewsOf(scene)) {
      for (const { form } of objects.map(({ object }) => object)) if (form.kind === 'picture') await placed(form.asset)
      if (shown !== null) await ready(shown.picture)
      if (revealFrom !== undefined) await ready(revealFrom.picture)
    }
    for (const { overlay } of scene.overlays ?? []) if (overlay.kind === 'picture') await placed(overlay.asset)
    return { ofStep: (picture) => steps.get(nameOf(picture)), ofAsset: (asset) => assets.get(asset) }
  }

  close(): void {
    this.#drawn.clear()
    this.#placed.clear()
    this.#apart.close()
  }
}

const nameOf = (picture: FiledPicture): string => `${picture.source}.${String(picture.kind === 'page' ? picture.page : 0)}`
