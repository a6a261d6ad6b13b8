import { createCanvas, ImageData } from '@napi-rs/canvas'
import { LRUCache } from 'lru-cache'
import type { Canvas } from '@napi-rs/canvas'
import { clipRect } from '@core/layout'
import type { Drawable } from '@core/paint'
import { pictureOfClip } from '@core/scene'
import type { ClipScene, SlideView } from '@core/scene'
import { pictureBox } from '@core/model'
import type { Clip, Size } from '@core/model'
import { filter, filtersText } from '@render/filters'
import { OWN_CLIP, outputOf } from '@render/process'
import type { Drawn } from './picture-source'

/** Going on for so many pictures is cheaper than beginning at another place. */
const NEAR = 40

/** Reads the pictures of one clip, one after the other, in one size. */
class ClipReader {
  readonly #path: string
  readonly #clip: Clip
  readonly #size: Size
  readonly #canvas: Canvas
  readonly #bytes: Uint8ClampedArray<ArrayBuffer>
  #output: AsyncGenerator<Buffer> | null = null
  #rest: Uint8Array = new Uint8Array(0)
  /** Which picture is on the canvas, counted from 0; -1: none. */
  #number = -1

  constructor(path: string, clip: Clip, size: Size) {
    this.#path = path
    this.#clip = clip
    this.#size = size
    this.#canvas = createCanvas(size.width, size.height)
    this.#bytes = new Uint8ClampedArray(size.width * size.height * 4)
  }

  /** @returns the canvas with that picture, or with the clip's last where it has no such; the same one each time */
  async picture(number: number): Promise<Drawable<Drawn>> {
    if (number !== this.#number) {
      const goesOn = this.#output !== null && number > this.#number && number - this.#number <= NEAR
      if (!goesOn) await this.#begin(number)
      let more = true
      while (more && this.#number < number) more = await this.#next()
      this.#canvas.getContext('2d').putImageData(new ImageData(this.#bytes, this.#size.width, this.#size.height), 0, 0)
      this.#number = number
    }
    return { image: this.#canvas, ...this.#size, cropped: true }
  }

  async #begin(number: number): Promise<void> {
    await this.close()
    const { picture } = this.#clip.media
    const seen = pictureBox(this.#clip)
    if (picture === null || seen === null) return
    const { num, den } = picture.rate
    this.#number = number - 1
    this.#output = outputOf('ffmpeg', [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', ...OWN_CLIP],
      // Half a picture early, so that it is this one that comes first.
      ...['-ss', (Math.max(0, (number - 0.5) * den) / num).toFixed(6), '-i', this.#path, '-map', '0:v:0', '-vsync', 'passthrough'],
      ...[
        '-vf',
        filtersText([
          ...(this.#clip.crop === undefined ? [] : [filter('crop', [seen.width, seen.height, seen.x, seen.y], { exact: 1 })]),
          filter('scale', [this.#size.width, this.#size.height], { flags: 'bicubic' }),
        ]),
      ],
      ...['-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1'],
    ])
  }

  /** @returns false when there are no more */
  async #next(): Promise<boolean> {
    for (let filled = 0; filled < this.#bytes.length;) {
      if (this.#rest.length === 0) {
        const read = await this.#output?.next()
        if (read === undefined || read.done === true) return false
        this.#rest = read.value
      }
      const some = this.#rest.subarray(0, this.#bytes.length - filled)
      this.#bytes.set(some, filled)
      filled += some.length
      this.#rest = this.#rest.subarray(some.length)
    }
    this.#number += 1
    return true
  }

  async close(): Promise<void> {
    const output = this.#output
    this.#output = null
    this.#rest = new Uint8Array(0)
    await output?.return(undefined).catch(() => undefined)
  }
}

/** How many clips are read at a time. */
const OPEN = 3

/** The pictures of clips, read from their files as a film goes on. */
export class ClipFrames {
  readonly #pathOf: (digest: string) => string | Promise<string>
  readonly #readers = new LRUCache<string, ClipReader>({ max: OPEN, dispose: (reader) => void reader.close() })

  /** @param pathOf finds a file by its digest */
  constructor(pathOf: (digest: string) => string | Promise<string>) {
    this.#pathOf = pathOf
  }

  /**
   * Reads what is seen of the clips of some views.
   * @param size of the frame
   * @returns what a painter takes it from, until the next call
   */
  async ready(views: readonly SlideView[], size: Size): Promise<(clip: ClipScene) => Drawable<Drawn> | undefined> {
    const found = new Map<ClipScene, Drawable<Drawn>>()
    for (const { clips, stage } of views)
      for (const scene of clips) {
        const drawable = await this.#picture(scene, { width: stage.w * size.width, height: stage.h * size.height })
        if (drawable !== null) found.set(scene, drawable)
      }
    return (scene) => found.get(scene)
  }

  async #picture({ clip, at }: ClipScene, slide: Size): Promise<Drawable<Drawn> | null> {
    const rect = clipRect(clip, slide)
    if (rect === null) return null
    const size = { width: Math.max(1, Math.round(rect.w * slide.width)), height: Math.max(1, Math.round(rect.h * slide.height)) }
    const key = JSON.stringify([clip.id, clip.media.file, pictureBox(clip), size])
    const reader = this.#readers.get(key) ?? new ClipReader(await this.#pathOf(clip.media.file), clip, size)
    this.#readers.set(key, reader)
    return await reader.picture(pictureOfClip(clip, at))
  }

  /** Reads nothing any more until it is asked again. */
  async close(): Promise<void> {
    await Promise.all([...this.#readers.values()].map((reader) => reader.close()))
    this.#readers.clear()
  }
}
