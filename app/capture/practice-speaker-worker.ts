import { paintSpeaker } from '@core/practice'
import type { PaintContext } from '@core/paint'
import type { Size } from '@core/model'

/** What the practice camera's worker is told: first where its pictures go, and when the page's clock began (ms of the wall clock); then how loud its speaker is, 0 to 1. */
export type SpeakerMessage =
  | { readonly kind: 'begin', readonly writable: WritableStream<VideoFrame>, readonly origin: number, readonly size: Size, readonly fps: number }
  | { readonly kind: 'loudness', readonly loudness: number }

let loudness = 0

async function giveFrames({ writable, origin, size, fps }: Extract<SpeakerMessage, { kind: 'begin' }>): Promise<void> {
  const writer = writable.getWriter()
  const canvas = new OffscreenCanvas(size.width, size.height)
  const ctx = canvas.getContext('2d')
  if (ctx === null) throw new Error('this browser draws no canvas')
  const paint: PaintContext<CanvasImageSource> = ctx
  const toPageClock = performance.timeOrigin - origin
  const began = performance.now()
  for (let frame = 0; ; frame += 1) {
    const at = began + (frame * 1000) / fps
    while (at > performance.now()) await new Promise((resolve) => { setTimeout(resolve, at - performance.now()) })
    paintSpeaker(paint, size, at - began, loudness)
    await writer.write(new VideoFrame(canvas, { timestamp: Math.round((at + toPageClock) * 1000) }))
  }
}

self.onmessage = ({ data }: MessageEvent<SpeakerMessage>) => {
  if (data.kind === 'loudness') loudness = data.loudness
  // A track that is stopped takes nothing more: that ends its device.
  else void giveFrames(data).catch(() => undefined)
}
