import type { PixelBox, Size } from '@core/model'

/** A picture as video stores it: a byte of lightness a pixel, then a byte each of two colour differences for four pixels. */
export interface YuvFrame {
  readonly size: Size
  readonly bytes: Buffer
}

export const yuvFrame = (size: Size): YuvFrame => ({ size, bytes: Buffer.alloc((size.width * size.height * 3) / 2) })

/** Arguments by which ffmpeg reads pictures of ours that follow each other. @param from a file, or `pipe:0` */
export const yuvInput = ({ width, height }: Size, fps: number, from: string): readonly string[] => [
  '-f',
  'rawvideo',
  '-pix_fmt',
  'yuv420p',
  '-s',
  `${String(width)}x${String(height)}`,
  '-framerate',
  String(fps),
  '-i',
  from,
]

/** Some rows of a picture, as parts of its bytes that follow each other. @param rows even */
export function rowsOfPicture(
  picture: Buffer,
  { width, height }: Size,
  rows: { readonly top: number; readonly height: number },
): readonly Buffer[] {
  const luma = width * height
  const plane = (from: number, stride: number, share: number): Buffer =>
    picture.subarray(from + (rows.top / share) * stride, from + ((rows.top + rows.height) / share) * stride)
  return [plane(0, width, 1), plane(luma, width / 2, 2), plane(luma + luma / 4, width / 2, 2)]
}

/**
 * Converts a part of a picture, ITU-R BT.709, limited range (ITU-T H.273, matrix coefficients 1), in 16-bit fixed point.
 * @param frame is written to
 * @param rgba the part's pixels, four bytes each
 * @param box where the part lies; even numbers
 */
export function convert(frame: YuvFrame, rgba: Uint8ClampedArray, box: PixelBox): void {
  const { bytes, size } = frame
  const stride = size.width
  const half = stride / 2
  const planeU = stride * size.height
  const planeV = planeU + planeU / 4
  const row = box.width * 4
  for (let y = 0; y < box.height; y += 2) {
    let above = y * row
    let below = above + row
    let luma = (box.y + y) * stride + box.x
    let chroma = ((box.y + y) / 2) * half + box.x / 2
    for (let x = 0; x < box.width; x += 2) {
      const r0 = rgba[above]!,
        g0 = rgba[above + 1]!,
        b0 = rgba[above + 2]!
      const r1 = rgba[above + 4]!,
        g1 = rgba[above + 5]!,
        b1 = rgba[above + 6]!
      const r2 = rgba[below]!,
        g2 = rgba[below + 1]!,
        b2 = rgba[below + 2]!
      const r3 = rgba[below + 4]!,
        g3 = rgba[below + 5]!,
        b3 = rgba[below + 6]!
      bytes[luma] = (11966 * r0 + 40254 * g0 + 4064 * b0 + 1081344) >> 16
      bytes[luma + 1] = (11966 * r1 + 40254 * g1 + 4064 * b1 + 1081344) >> 16
      bytes[luma + stride] = (11966 * r2 + 40254 * g2 + 4064 * b2 + 1081344) >> 16
      bytes[luma + stride + 1] = (11966 * r3 + 40254 * g3 + 4064 * b3 + 1081344) >> 16
      const r = r0 + r1 + r2 + r3
      const g = g0 + g1 + g2 + g3
      const b = b0 + b1 + b2 + b3
      bytes[planeU + chroma] = (-6596 * r - 22189 * g + 28784 * b + 33685504) >> 18
      bytes[planeV + chroma] = (28784 * r - 26145 * g - 2639 * b + 33685504) >> 18
      above += 8
      below += 8
      luma += 2
      chroma += 1
    }
  }
}
