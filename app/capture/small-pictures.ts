import { PRINT_SIZE } from '@core/camera'

/** @returns what makes a picture as small as a video fingerprint's: a byte of lightness for each pixel, row by row */
export function smallPictures(): (picture: CanvasImageSource) => Uint8Array<ArrayBuffer> {
  const ctx = new OffscreenCanvas(PRINT_SIZE.width, PRINT_SIZE.height).getContext('2d', { willReadFrequently: true })
  if (ctx === null) throw new Error('this browser draws no canvas')
  return (picture) => {
    ctx.drawImage(picture, 0, 0, PRINT_SIZE.width, PRINT_SIZE.height)
    const { data } = ctx.getImageData(0, 0, PRINT_SIZE.width, PRINT_SIZE.height)
    // ITU-R BT.601, as cameras have it.
    return Uint8Array.from({ length: data.length / 4 }, (_, n) =>
      Math.round(0.299 * (data[n * 4] ?? 0) + 0.587 * (data[n * 4 + 1] ?? 0) + 0.114 * (data[n * 4 + 2] ?? 0)),
    )
  }
}
