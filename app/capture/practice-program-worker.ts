import { paintProgram } from '@core/practice'
import type { PaintContext } from '@core/paint'
import type { Size } from '@core/model'
import { givePictures } from './give-pictures'

/** Where the practice window's pictures go, and when the page's clock began, in ms of the wall clock. */
export interface ProgramOrder {
  readonly writable: WritableStream<VideoFrame>
  readonly origin: number
  readonly size: Size
  readonly fps: number
}

self.onmessage = ({ data: { writable, origin, size, fps } }: MessageEvent<ProgramOrder>) => {
  const began = performance.now()
  // A track that is stopped takes nothing more: that ends its window.
  void givePictures({ writable, size, fps, began, younger: performance.timeOrigin - origin }, (ctx, at) => {
    const paint: PaintContext<CanvasImageSource> = ctx
    paintProgram(paint, size, at - began)
  }).catch(() => undefined)
}
