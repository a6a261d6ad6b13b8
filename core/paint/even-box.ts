import type { PixelBox, Size } from '@core/model'

/** Edges of something, in pixels that need not be whole. */
export interface Edges {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/** Whole pixels of a frame that have something in them and two beside it, from even to even: video stores colour for pairs of pixels. */
export function evenBox({ left, top, right, bottom }: Edges, size: Size): PixelBox {
  const x = Math.max(0, Math.floor(left / 2) * 2 - 2)
  const y = Math.max(0, Math.floor(top / 2) * 2 - 2)
  return {
    x,
    y,
    width: Math.max(0, Math.min(size.width, Math.ceil(right / 2) * 2 + 2) - x),
    height: Math.max(0, Math.min(size.height, Math.ceil(bottom / 2) * 2 + 2) - y),
  }
}
