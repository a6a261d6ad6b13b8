import { paintSpeaker } from '@core/practice'
import type { PaintContext } from '@core/paint'
import type { Size } from '@core/model'
import { givePictures } from './give-pictures'

/**
 * What the practice camera's worker is told: first where its pictures go, and when the page's clock began (ms of the wall clock); then
 * how loud its speaker is, 0 to 1.
 */
export type SpeakerMessage =
  | {
      readonly kind: 'begin'
      readonly writable: WritableStream<VideoFrame>
      readonly origin: number
      readonly size: Size
      readonly fps: number
    }
  | { readonly kind: 'loudness'; readonly loudness: number }

let loudness = 0

function speak({ writable, origin, size, fps }: Extract<SpeakerMessage, { kind: 'begin' }>): Promise<never> {
  const began = performance.now()
  return givePictures({ writable, size, fps, began, younger: performance.timeOrigin - origin }, (ctx, at) => {
    const paint: PaintContext<CanvasImageSource> = ctx
    paintSpeaker(paint, size, at - began, loudness)
  })
}

self.onmessage = ({ data }: MessageEvent<SpeakerMessage>) => {
  if (data.kind === 'loudness') loudness = data.loudness
  // A track that is stopped takes nothing more: that ends its device.
  else void speak(data).catch(() => undefined)
}
