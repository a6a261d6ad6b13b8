import type { Size } from '@core/model'

/** How often it is looked whether a picture is due, in ms. */
const BEAT = 4

/** What a camera of ours is, as its worker sees it. */
export interface DrawnPictures {
  readonly writable: WritableStream<VideoFrame>
  readonly size: Size
  readonly fps: number
  /** When its first picture is taken, in ms of the worker's clock. */
  readonly began: number
  /** How much the page's clock is ahead of the worker's, in ms: pictures are stamped by the page's. */
  readonly younger: number
}

export const sleep = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, ms)
  })

/**
 * Gives drawn pictures, each at its time, until nobody takes them any more.
 * @param draw one picture, taken `at` ms of the worker's clock
 * @throws whatever writing to a track throws that was stopped
 */
export async function givePictures(
  { writable, size, fps, began, younger }: DrawnPictures,
  draw: (ctx: OffscreenCanvasRenderingContext2D, at: number) => void,
): Promise<never> {
  const writer = writable.getWriter()
  const canvas = new OffscreenCanvas(size.width, size.height)
  const ctx = canvas.getContext('2d')
  if (ctx === null) throw new Error('this browser draws no canvas')
  for (let frame = 0; ; frame += 1) {
    const at = began + (frame * 1000) / fps
    while (at > performance.now()) await sleep(BEAT)
    draw(ctx, at)
    await writer.write(new VideoFrame(canvas, { timestamp: Math.round((at + younger) * 1000) }))
  }
}
