import { lightIntercepts } from '@core/camera'
import type { Drawable } from '@core/paint'
import type { Light } from '@core/model'

/** A face is seen in a corner: no more of its pixels are worked on. */
const WIDEST = 960
const CHANNELS = ['R', 'G', 'B'] as const
const SVG = 'http://www.w3.org/2000/svg'
let made = 0

/** Gives pictures of a camera another light, by the browser's own filters. Where it has none they stay as filmed. */
export class LitPicture {
  readonly #canvas = document.createElement('canvas')
  readonly #svg = document.createElementNS(SVG, 'svg')
  readonly #id = `aisle-light-${String((made += 1))}`
  readonly #functions = CHANNELS.map((channel) => document.createElementNS(SVG, `feFunc${channel}`))
  #light: Light | null = null

  constructor() {
    const filter = document.createElementNS(SVG, 'filter')
    filter.setAttribute('id', this.#id)
    filter.setAttribute('color-interpolation-filters', 'sRGB')
    const transfer = document.createElementNS(SVG, 'feComponentTransfer')
    for (const one of this.#functions) {
      one.setAttribute('type', 'linear')
      transfer.append(one)
    }
    filter.append(transfer)
    this.#svg.setAttribute('width', '0')
    this.#svg.setAttribute('height', '0')
    this.#svg.setAttribute('aria-hidden', 'true')
    this.#svg.style.position = 'absolute'
    this.#svg.append(filter)
    document.body.append(this.#svg)
  }

  /** A picture in a light. The same one each time: draw it before the next call. */
  of({ image, width, height }: Drawable<CanvasImageSource>, light: Light): Drawable<CanvasImageSource> {
    this.#set(light)
    const scale = Math.min(1, WIDEST / width)
    const [wide, high] = [Math.round(width * scale), Math.round(height * scale)]
    if (this.#canvas.width !== wide || this.#canvas.height !== high) Object.assign(this.#canvas, { width: wide, height: high })
    const ctx = this.#canvas.getContext('2d')
    if (ctx === null) return { image, width, height }
    ctx.filter = `url(#${this.#id})`
    ctx.drawImage(image, 0, 0, wide, high)
    return { image: this.#canvas, width: wide, height: high }
  }

  #set(light: Light): void {
    if (this.#light === light) return
    this.#light = light
    for (const [n, added] of lightIntercepts(light).entries()) {
      this.#functions[n]?.setAttribute('slope', String(light.contrast))
      this.#functions[n]?.setAttribute('intercept', added.toFixed(5))
    }
  }

  release(): void {
    this.#svg.remove()
  }
}
