import { createCanvas } from '@napi-rs/canvas'
import type { Canvas, SKRSContext2D } from '@napi-rs/canvas'
import { paintInset, paintScene } from '@core/paint'
import type { Drawable, PaintContext, PixelBox } from '@core/paint'
import type { Run } from '@core/plan'
import type { Scene } from '@core/scene'
import type { Size } from '@core/model'
import { changedBox, wholeBox } from './changed-box'
import type { Drawn, PictureSource } from './picture-source'
import { convert, yuvFrame } from './yuv'

/** Draws the pictures of a film one after the other, painting and converting only what changed since the last. */
export class FilmPainter {
  readonly canvas: Canvas
  readonly #size: Size
  readonly #ctx: SKRSContext2D
  readonly #frame
  readonly #source: PictureSource
  #last: Scene | null = null

  constructor(size: Size, source: PictureSource) {
    this.#size = size
    this.#source = source
    this.canvas = createCanvas(size.width, size.height)
    this.#ctx = this.canvas.getContext('2d')
    this.#frame = yuvFrame(size)
  }

  /** The run's picture in the encoder's format. The same buffer each time: copy or use it before the next call. */
  async paint(run: Run): Promise<Buffer> {
    const { scene } = run
    const box = changedBox(this.#last, scene, this.#size)
    this.#last = scene
    if (box !== null) await this.#draw(scene, box, null)
    return this.#frame.bytes
  }

  /** A frame with the face in it, drawn whole. The same buffer each time, as with `paint`. */
  async paintWithFace(scene: Scene, face: Drawable<Drawn>): Promise<Buffer> {
    this.#last = null
    await this.#draw(scene, wholeBox(this.#size), face)
    return this.#frame.bytes
  }

  async #draw(scene: Scene, box: PixelBox, face: Drawable<Drawn> | null): Promise<void> {
    const shelf = await this.#source.shelfFor(scene, this.#size)
    const ctx: PaintContext<Drawn> = this.#ctx
    ctx.save()
    ctx.beginPath()
    ctx.rect(box.x, box.y, box.width, box.height)
    ctx.clip()
    paintScene(ctx, scene, this.#size, shelf)
    if (face !== null && scene.inset !== null) paintInset(ctx, face, scene.inset.framing, this.#size)
    ctx.restore()
    convert(this.#frame, this.#ctx.getImageData(box.x, box.y, box.width, box.height).data, box)
  }
}
