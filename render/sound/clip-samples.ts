import type { ClipPart } from '@core/plan'
import { filter, filtersText } from '@render/filters'
import { BOUNDED, outputOf } from '@render/process'
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
  const seconds = (ms: number): string => (ms / 1000).toFixed(6)
  return outputOf('ffmpeg', [
    ...['-hide_banner', '-loglevel', 'error', '-nostats', ...BOUNDED, '-protocol_whitelist', 'file,pipe', '-f', 'mov'],
    ...['-ss', seconds(begin), '-t', seconds(Math.max(0, to - begin) + MORE), '-i', path, '-map', '0:a:0'],
    ...(tempo === 1 ? [] : ['-af', filtersText([filter('atempo', [tempo])])]),
    ...SAMPLES_OUT,
  ])
}
