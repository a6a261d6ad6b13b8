import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { paintFace, paintScene } from '@core/paint'
import type { Drawable, PaintContext, PictureShelf } from '@core/paint'
import type { Scene } from '@core/scene'
import type { PixelBox, Size } from '@core/model'
import { changedBox, sameButInk, wholeBox } from './changed-box'
import { ClipFrames } from './clip-frames'
import { viewsOf } from './picture-source'
import type { Drawn, PictureSource } from './picture-source'
import { lookSize } from './segment-graph'
import { convert, yuvFrame } from './yuv'

/** Reading any part of a canvas takes as long as copying all of it, so what is small is drawn on a small one. */
const SMALL: Size = { width: 512, height: 288 }

/** Draws the pictures of a film one after the other, painting and converting only what changed since the last. */
export class FilmPainter {
  readonly #size: Size
  /** Where whole pictures are painted. */
  readonly canvas: Canvas
  readonly #small = createCanvas(SMALL.width, SMALL.height)
  readonly #frame
  readonly #source: PictureSource
  readonly #clips: ClipFrames
  #last: Scene | null = null
  /** A scene with nothing drawn on it, and its picture. */
  #page: { readonly scene: Scene; readonly bytes: Buffer } | null = null

  constructor(size: Size, source: PictureSource) {
    this.#size = size
    this.#source = source
    this.#clips = new ClipFrames(source.pathOf)
    this.canvas = createCanvas(size.width, size.height)
    this.#frame = yuvFrame(size)
  }

  /**
   * A scene's picture in the encoder's format: it is the same whatever was painted before. The same buffer each time: copy or use it
   * before the next call.
   */
  async paint(scene: Scene): Promise<Buffer> {
    // The page is painted first and kept: as a rule the next picture is of the same one.
    const bare = { ...scene, clips: [], objects: [], ink: [], spot: null, overlays: [], caption: null }
    if (this.#page === null || !sameButInk(this.#page.scene, bare)) {
      await this.#draw(this.canvas, { x: 0, y: 0 }, bare, wholeBox(this.#size), null)
      this.#page = { scene: bare, bytes: Buffer.from(this.#frame.bytes) }
    } else {
      this.#page.bytes.copy(this.#frame.bytes)
    }
    const box = changedBox(bare, scene, this.#size)
    if (box === null) this.#last = scene
    else await this.#draw(this.canvas, { x: 0, y: 0 }, scene, box, null)
    return this.#frame.bytes
  }

  /** The picture of a scene that follows the one painted last. @param box where they differ, see `changedBox`; null: nowhere */
  async paintNext(scene: Scene, box: PixelBox | null): Promise<Buffer> {
    if (box === null) this.#last = scene
    else if (box.width <= SMALL.width && box.height <= SMALL.height) await this.#draw(this.#small, box, scene, box, null)
    else await this.#draw(this.canvas, { x: 0, y: 0 }, scene, box, null)
    return this.#frame.bytes
  }

  /** A frame with the face in it, drawn whole. The same buffer each time, as with `paint`. */
  async paintWithFace(scene: Scene, face: Drawable<Drawn>): Promise<Buffer> {
    await this.#draw(this.canvas, { x: 0, y: 0 }, scene, wholeBox(this.#size), face)
    return this.#frame.bytes
  }

  /** Shows the scene painted last, if there is one, to whoever looks: small, as JPEG. */
  async showTo(onLook: ((picture: Buffer) => void) | null): Promise<void> {
    if (onLook === null || this.#last === null) return
    const size = lookSize(this.#size)
    const canvas = createCanvas(size.width, size.height)
    const ctx: PaintContext<Drawn> = canvas.getContext('2d')
    // Pages are there as large as the film has them.
    paintScene(ctx, this.#last, size, await this.#shelf(this.#last))
    onLook(await canvas.encode('jpeg'))
  }

  /** All that is drawn of a scene. */
  async #shelf(scene: Scene): Promise<PictureShelf<Drawn>> {
    const shelf = await this.#source.shelfFor(scene, this.#size)
    return { ...shelf, ofClip: await this.#clips.ready(viewsOf(scene), this.#size) }
  }

  /** Nothing is painted for now: clips are read no further. */
  async rest(): Promise<void> {
    await this.#clips.close()
  }

  /** @param from the place of the picture that the canvas begins with */
  async #draw(
    canvas: Canvas,
    from: { readonly x: number; readonly y: number },
    scene: Scene,
    box: PixelBox,
    face: Drawable<Drawn> | null,
  ): Promise<void> {
    this.#last = scene
    const shelf = await this.#shelf(scene)
    const own = canvas.getContext('2d')
    const ctx: PaintContext<Drawn> = own
    ctx.save()
    ctx.translate(-from.x, -from.y)
    ctx.beginPath()
    ctx.rect(box.x, box.y, box.width, box.height)
    ctx.clip()
    paintScene(ctx, scene, this.#size, shelf)
    if (face !== null) paintFace(ctx, scene, face, this.#size, shelf)
    ctx.restore()
    convert(this.#frame, own.getImageData(box.x - from.x, box.y - from.y, box.width, box.height).data, box)
  }
}
