import { join } from 'node:path'
import { Refusal, WINDOW_RATE, evenPixels, fittedInto } from '@core/model'
import type { Ms, Ratio, Size } from '@core/model'
import { TO_TELEVISION, chain, constantRate, filter, format, graphText, scaledFrom } from '@render/filters'
import type { Chain, Colours } from '@render/filters'
import { BOUNDED, ProcessFailed, RECORDING, run, secondsOption } from '@render/process'
import { probe, recordedColours } from '@render/probe'
import { CLIP_FILE, MOST_CLIP_SIZE, encodedAs, lookedAt } from './clip-file'
import type { BroughtClip } from './clip-file'

const RATE: Ratio = { num: WINDOW_RATE, den: 1 }
/** More full-size pictures than these are not laid over a recording: the longest rests are. */
const MOST_STILLS = 120

/** A full-size picture of a window, and while it looked like that: ms of the clip. */
export interface RestingPicture {
  readonly path: string
  readonly size: Size
  readonly from: Ms
  readonly until: Ms
}

export interface CapturedWindow {
  /** The recording as it came. */
  readonly recording: string
  /** How much later than its first moment the clip begins in it, in ms; below zero: the clip begins before it, with its first picture. */
  readonly offset: Ms
  readonly length: Ms
  readonly stills: readonly RestingPicture[]
}

/** As large as the largest of some sizes, in no more than is kept, with even sides. */
function frameSize(sizes: readonly Size[]): Size {
  const largest = sizes.reduce((most, size) => (size.width * size.height > most.width * most.height ? size : most))
  const { w, h } = fittedInto(largest, MOST_CLIP_SIZE)
  const [width, height] = [Math.min(largest.width, w * MOST_CLIP_SIZE.width), Math.min(largest.height, h * MOST_CLIP_SIZE.height)]
  return { width: evenPixels(width), height: evenPixels(height) }
}

const into = ({ width, height }: Size, colours: Colours | null) => [
  filter('scale', [width, height], {
    force_original_aspect_ratio: 'decrease',
    eval: 'frame',
    flags: 'bicubic',
    ...(colours === null ? {} : scaledFrom(colours)),
    ...TO_TELEVISION,
  }),
  filter('pad', [width, height, '(ow-iw)/2', '(oh-ih)/2'], { eval: 'frame' }),
  filter('setsar', [1]),
  format('yuv420p'),
]

/** The recording in one size, whatever sizes its window had, with the full-size pictures over it while nothing moved. */
function graphOf(size: Size, colours: Colours, stills: readonly RestingPicture[]): readonly Chain[] {
  const moving = chain(
    ['0:v'],
    [...into(size, colours), constantRate(WINDOW_RATE), filter('tpad', [], { stop: -1, stop_mode: 'clone' })],
    ['m0'],
  )
  const laid = stills.flatMap(({ from, until }, n): readonly Chain[] => {
    const while_ = `between(t,${(from / 1000).toFixed(3)},${(until / 1000).toFixed(3)})`
    return [
      chain([`${String(n + 1)}:v`], into(size, null), [`s${String(n)}`]),
      chain([`m${String(n)}`, `s${String(n)}`], [filter('overlay', [], { enable: while_ })], [`m${String(n + 1)}`]),
    ]
  })
  return [moving, ...laid, chain([`m${String(stills.length)}`], [format('yuv420p')], ['out'])]
}

/** The middle of its longest rest, in ms; its beginning when there is none. */
function restIn(stills: readonly RestingPicture[], length: Ms): Ms {
  const [longest] = stills.filter(({ until }) => until <= length)
  return longest === undefined ? 0 : Math.round((longest.from + longest.until) / 2)
}

/**
 * Makes a clip of a window that was recorded: its own sound and pictures, and sharp wherever it rested.
 * @param out folder for what is made @param name begins the names of what is made @param time ms that it may take
 * @throws Refusal `unreadable` when there is nothing to be seen in it
 */
export async function makeCaptured(
  { recording, offset, length, stills }: CapturedWindow,
  { out, name, time, signal }: { readonly out: string; readonly name: string; readonly time: Ms; readonly signal?: AbortSignal },
): Promise<BroughtClip> {
  const made = join(out, `${name}.mp4`)
  const unreadable = (): Refusal => new Refusal('unreadable', 'What was recorded of the window cannot be read.')
  try {
    const { streams } = await probe(recording)
    const video = streams.find((stream) => stream.codec_type === 'video')
    if (video?.width === undefined || video.height === undefined) throw unreadable()
    const kept = [...stills].sort((a, b) => b.until - b.from - (a.until - a.from)).slice(0, MOST_STILLS)
    const size = frameSize([{ width: video.width, height: video.height }, ...kept.map((still) => still.size)])
    await run(
      'ffmpeg',
      [
        ...['-hide_banner', '-loglevel', 'error', '-nostats'],
        // A window may change its size; the filters go on with the next one.
        ...['-reinit_filter', '0', ...RECORDING, '-itsoffset', secondsOption(-offset), '-i', recording],
        ...kept.flatMap(({ path }) => [...BOUNDED, '-protocol_whitelist', 'file,pipe', '-f', 'png_pipe', '-i', path]),
        ...['-filter_complex', graphText(graphOf(size, recordedColours(video), kept)), '-map', '[out]', '-t', secondsOption(length)],
        ...encodedAs(RATE),
        ...CLIP_FILE,
        made,
      ],
      { hold: { time }, signal },
    )
    return { file: `${name}.mp4`, ...(await lookedAt(made, RATE, { out, name, posterAt: restIn(kept, length) })) }
  } catch (error) {
    if (error instanceof ProcessFailed) throw unreadable()
    throw error
  }
}
