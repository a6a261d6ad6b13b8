import { paintScene } from '@core/paint'
import type { Drawable } from '@core/paint'
import { indexFilm, sceneAt } from '@core/scene'
import type { Ms } from '@core/model'
import { toFilm } from '@contracts'
import type { ViewersFilm } from '@contracts'

/** Width at which slides are drawn, in pixels. */
const WIDTH = 1280

/**
 * Draws the slides of a talk with their ink, as they were at any time of it, on a canvas.
 * @param missing is told of a picture that is not in the folder
 */
export class DrawnPicture {
  readonly #canvas: HTMLCanvasElement
  readonly #film: ReturnType<typeof indexFilm>
  readonly #missing: (file: string) => void
  readonly #pictures = new Map<string, Drawable<CanvasImageSource> | null>()
  #at: Ms = 0

  constructor(canvas: HTMLCanvasElement, film: ViewersFilm, missing: (file: string) => void) {
    this.#canvas = canvas
    this.#film = indexFilm(toFilm(film))
    this.#missing = missing
    canvas.width = WIDTH
    canvas.height = Math.round((WIDTH * film.shape.height) / film.shape.width)
  }

  #picture(name: string): Drawable<CanvasImageSource> | undefined {
    const known = this.#pictures.get(name)
    if (known !== undefined) return known ?? undefined
    this.#pictures.set(name, null)
    const image = new Image()
    const file = `pictures/${name}.jpg`
    image.onload = () => {
      this.#pictures.set(name, { image, width: image.naturalWidth, height: image.naturalHeight })
      this.draw(this.#at)
    }
    image.onerror = () => {
      this.#missing(file)
    }
    image.src = file
    return undefined
  }

  draw(at: Ms): void {
    this.#at = at
    const ctx = this.#canvas.getContext('2d')
    if (ctx === null) return
    const scene = sceneAt(this.#film, Math.min(at, this.#film.length - 1))
    if (scene === null) return
    // The face is not in a folder of pictures and voice.
    paintScene<CanvasImageSource>(ctx, { ...scene, inset: null }, this.#canvas, {
      ofStep: (picture) => this.#picture(picture.screen),
      ofAsset: (asset) => this.#picture(asset),
    })
  }
}
