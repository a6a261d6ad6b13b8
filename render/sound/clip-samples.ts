import type { ClipPart } from '@core/plan'
import { filter, filtersText } from '@render/filters'
import { OWN_CLIP, outputOf, secondsOption } from '@render/process'
import { SAMPLES_OUT } from './pcm'

/** So much more of a clip is read than is played, in ms: nothing of its end is missing. */
const MORE = 50

/**
 * The sound of a part of a clip, as samples; its pitch stays at any tempo.
 * @param path of its file
 * @param skipped ms of the film that are not wanted of it
 */
export function clipSamples(path: string, { from, to, playbackRate }: ClipPart, skipped: number): AsyncGenerator<Uint8Array> {
  const tempo = playbackRate.num / playbackRate.den
  const begin = from + skipped * tempo
  return outputOf('ffmpeg', [
    ...['-hide_banner', '-loglevel', 'error', '-nostats', ...OWN_CLIP],
    ...['-ss', secondsOption(begin), '-t', secondsOption(Math.max(0, to - begin) + MORE), '-i', path, '-map', '0:a:0'],
    ...(tempo === 1 ? [] : ['-af', filtersText([filter('atempo', [tempo])])]),
    ...SAMPLES_OUT,
  ])
}
