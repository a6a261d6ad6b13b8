import type { Quality, Size } from '@core/model'

/** Frames between two places where a player can begin. Segments are joined at such places without encoding again. */
export const GROUP = 120

const CRF: Readonly<Record<Quality, number>> = { small: 27, good: 22, fine: 18 }

/** Grows whenever the same plan would give other pixels, so that nothing made before is used again. */
const PAINTER = 3

/** What all segments of a delivery share, as part of their keys. */
export const settingOf = (size: Size, rate: number, quality: Quality): string =>
  JSON.stringify({ painter: PAINTER, size, rate, crf: CRF[quality], group: GROUP })

/**
 * Arguments for H.264 that can be joined and cut at any frame: the same headers whatever the content (`stitchable`),
 * no frame that needs a later one (`bf 0`), and a mark before each frame (`aud`) to find it by.
 */
export const encoderArgs = (quality: Quality, rate: number, threads: number): readonly string[] => [
  '-an', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(CRF[quality]), '-profile:v', 'high',
  '-pix_fmt', 'yuv420p', '-bf', '0', '-g', String(GROUP), '-threads', String(threads), '-r', String(rate),
  '-x264-params', 'stitchable=1:aud=1:open-gop=0:colorprim=bt709:transfer=bt709:colormatrix=bt709:fullrange=off',
  '-color_range', 'tv', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709',
]
