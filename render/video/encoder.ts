import { GOP_FRAMES } from '@core/plan'
import type { BitsRule, Quality, VideoFormat } from '@core/model'

/** How pictures are encoded. */
export interface Coding {
  readonly format: VideoFormat
  /** Constant quality on the encoder's own scale; less is finer. Need not be whole for H.264. */
  readonly crf: number
  /** Most that the pictures take, in kbit a second; null: whatever their quality takes. */
  readonly most: number | null
}

const CRF: Readonly<Record<VideoFormat, Readonly<Record<Quality, number>>>> = {
  mp4: { small: 27, good: 22, fine: 18 },
  webm: { small: 44, good: 36, fine: 28 },
}
/** Where the scale is so fine, or so coarse, that going on would not be seen, or not be borne. */
export const CRF_BOUNDS: Readonly<Record<VideoFormat, { readonly finest: number; readonly coarsest: number }>> = {
  mp4: { finest: 12, coarsest: 36 },
  webm: { finest: 16, coarsest: 58 },
}

/** How a recipe's pictures are encoded. Under a bound for the rate they are as fine as that allows. */
export const codingOf = (format: VideoFormat, quality: Quality, bits: BitsRule): Coding =>
  bits.kind === 'rate' ? { format, crf: CRF[format].fine, most: bits.most } : { format, crf: CRF[format][quality], most: null }

/**
 * How the colours of all our pictures are meant (ITU-R BT.709); in H.264 it is said besides that colour samples lie amid their four
 * pixels (ITU-T H.264, E.2.1, type 1).
 */
export const COLOURS: readonly string[] = ['-color_range', 'tv', '-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709']

/**
 * What all our H.264 streams have in common, for the encoder itself. It looks five frames ahead where the preset says ten: what that is
 * for, seeing what stays, is known here before, and each frame that it holds is 6 MB at 1080 lines.
 */
const X264 =
  'rc-lookahead=5:stitchable=1:aud=1:open-gop=0:scenecut=0:colorprim=bt709:transfer=bt709:colormatrix=bt709:fullrange=off:chromaloc=1'

/**
 * How much finer a picture that stands still is encoded, on the encoder's scale. Where it sees that a picture stays it makes it so much
 * finer of its own accord, for which it would have to be shown ten frames of it. Measured on fourteen slides: as many bytes, and no
 * less like them.
 */
const FINER = 3

/** What moving and still pictures are encoded with alike. */
const h264Args = (crf: number, x264: string): readonly string[] => [
  '-c:v',
  'libx264',
  '-preset',
  'veryfast',
  '-crf',
  String(crf),
  '-profile:v',
  'high',
  '-bf',
  '0',
  '-x264-params',
  x264,
]
const commonArgs = (fps: number, threads: number): readonly string[] => [
  '-an',
  '-pix_fmt',
  'yuv420p',
  '-g',
  String(GOP_FRAMES),
  '-threads',
  String(threads),
  '-r',
  String(fps),
  ...COLOURS,
]

/**
 * Arguments for a stream of still pictures, H.264 alone: each by itself, whatever comes before or after it, and with the headers that
 * moving ones have.
 */
export const stillArgs = ({ crf }: Coding, fps: number): readonly string[] => [
  ...h264Args(crf - FINER, `${X264}:mbtree=0:qcomp=1:ipratio=1:rc-lookahead=0`),
  ...commonArgs(fps, 1),
  '-forced-idr',
  '1',
  '-force_key_frames',
  'expr:1',
]

/**
 * Arguments for a stream that can be joined and cut at any frame. H.264: the same headers whatever the content
 * (`stitchable`), no frame that needs a later one (`bf 0`), a mark before each frame (`aud`) to find it by, and groups that begin where
 * they are expected (`scenecut 0`). VP9: no frame that is not shown (`auto-alt-ref 0`) or waits for later ones.
 */
export function encoderArgs({ format, crf, most }: Coding, fps: number, threads: number): readonly string[] {
  const bound = most === null ? [] : ['-maxrate', `${String(most)}k`, '-bufsize', `${String(most * 2)}k`]
  return format === 'mp4'
    ? [...h264Args(crf, X264), ...bound, ...commonArgs(fps, threads)]
    : [
        '-c:v',
        'libvpx-vp9',
        '-deadline',
        'realtime',
        '-cpu-used',
        '7',
        '-row-mt',
        '1',
        '-lag-in-frames',
        '0',
        '-auto-alt-ref',
        '0',
        '-crf',
        String(Math.round(crf)),
        ...(most === null ? ['-b:v', '0'] : ['-b:v', `${String(most)}k`, ...bound]),
        ...commonArgs(fps, threads),
      ]
}
