import { FACE_PART } from '@core/screening'
import type { FaceMediaPart, SeenFace } from '@core/screening'
import { evenPixels } from '@core/model'
import type { NewBackdrop, Size } from '@core/model'
import { TELEVISION, TO_TELEVISION, chain, constantRate, filter, format, graphText, lit, scaledFrom } from '@render/filters'
import type { Chain, Colours, Filter } from '@render/filters'
import { run } from '@render/process'
import { FROM_ITS_ZERO, cameraKind, encoderArgs } from '@render/video'
import type { CameraFile } from '@render/video'
import { ONE_FRAGMENT, fragmentOf } from './fragment'
import type { Fragment } from './fragment'

/** Lines that a face has at most: it is seen in a corner. */
const MOST_LINES = 360
/** How finely it is encoded; see `Coding`. */
const CODING = { format: 'mp4', crf: 26, most: null } as const
/** Grows whenever the same part would look otherwise. */
const LOOK = 2
/** Ticks a second of its time stamps. */
const TIMESCALE = 90_000

/** Pixels of all parts of a face, from those of the first camera that is seen. */
export function faceSize({ width, height }: Size): Size {
  const share = Math.min(1, MOST_LINES / height)
  return { width: evenPixels(width * share), height: evenPixels(height * share) }
}

/** All that decides a part of the face, as text to be hashed into its name. */
export const contentOfFacePart = ({ n, frames, seen }: FaceMediaPart, size: Size): string =>
  JSON.stringify(['face', LOOK, n, frames, seen, size, CODING])

/** Just so many frames: the last one again where there are fewer. */
const exactly = (frames: number): readonly Filter[] => [
  filter('tpad', [], { stop_mode: 'clone', stop: frames }),
  filter('trim', [], { end_frame: frames }),
  filter('setpts', ['PTS-STARTPTS']),
]

function blackFrames(frames: number, { width, height }: Size, to: string): Chain {
  const source = filter('color', [], { c: 'black', s: `${String(width)}x${String(height)}`, r: FACE_PART.frameRate })
  return chain([], [source, filter('trim', [], { end_frame: frames }), format('yuv420p'), filter('setsar', [1])], [to])
}

function faceFrames({ tempo, frames, light }: SeenFace, input: number, colours: Colours, { width, height }: Size, to: string): Chain {
  return chain(
    [`${String(input)}:v:0`],
    [
      filter('setpts', [`PTS/${String(tempo)}`]),
      constantRate(FACE_PART.frameRate),
      filter('scale', [width, height], {
        force_original_aspect_ratio: 'increase',
        ...scaledFrom(colours),
        ...TO_TELEVISION,
      }),
      filter('crop', [width, height]),
      ...exactly(frames),
      format('yuv420p'),
      ...lit(light),
      filter('setsar', [1]),
    ],
    [to],
  )
}

/** Faces and what is black between them, one after the other. */
function graphOf({ frames, seen }: FaceMediaPart, cameras: readonly CameraFile[], size: Size): string {
  const chains: Chain[] = []
  let at = 0
  const black = (until: number): void => {
    if (until > at) chains.push(blackFrames(until - at, size, `b${String(at)}`))
    at = until
  }
  for (const [input, face] of seen.entries()) {
    black(face.frame)
    chains.push(faceFrames(face, input, cameras[input]?.colours ?? TELEVISION, size, `f${String(at)}`))
    at = face.frame + face.frames
  }
  black(frames)
  return graphText([
    ...chains,
    chain(
      chains.flatMap(({ to }) => to),
      [filter('concat', [], { n: chains.length, v: 1, a: 0 })],
      ['out'],
    ),
  ])
}

/**
 * Makes a part of a screening's face: what is seen of the camera, and black where nothing is.
 * @param cameraOf finds a stretch's camera, as filmed or with a backdrop
 */
export async function makeFacePart(
  part: FaceMediaPart,
  size: Size,
  cameraOf: (stretch: string, backdrop?: NewBackdrop) => Promise<CameraFile>,
): Promise<Fragment> {
  const cameras = await Promise.all(part.seen.map(({ stretch, backdrop }) => cameraOf(stretch, backdrop)))
  const { frameRate } = FACE_PART
  const { stdout } = await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-nostats',
    ...part.seen.flatMap(({ from, frames, tempo }, n) => [
      ...cameraKind(cameras[n]),
      ...FROM_ITS_ZERO,
      '-ss',
      (from / 1000).toFixed(4),
      '-t',
      ((frames / frameRate + 0.2) * tempo).toFixed(4),
      '-i',
      cameras[n]?.path ?? '',
    ]),
    '-filter_complex',
    graphOf(part, cameras, size),
    '-map',
    '[out]',
    '-frames:v',
    String(part.frames),
    ...encoderArgs(CODING, frameRate, 1),
    '-bsf:v',
    `setts=ts=N*${String(TIMESCALE / frameRate)}`,
    '-video_track_timescale',
    String(TIMESCALE),
    ...ONE_FRAGMENT,
    'pipe:1',
  ])
  return fragmentOf(stdout, part.n * FACE_PART.frames * (TIMESCALE / frameRate), part.n + 1)
}
