import { RECORDING, run } from '@render/process'

const seconds = (ms: number): string => (ms / 1000).toFixed(4)

/**
 * What lies before the stretch's beginning is packed into its first moments, a packet a ms: pictures cannot be read without the
 * whole one that they begin with, and no file has times below zero.
 */
const FROM_ZERO: readonly string[] = ['-copypriorss', '1', '-bsf:v', 'setts=ts=max(TS\\,N)', '-bsf:a', 'setts=ts=max(TS\\,N)']

/** Another output: when the pictures come, a line each in ms (Matroska's time stamps, version 2), while all of it is read anyway. */
const TIMES_OF_PICTURES: readonly string[] = ['-map', '0:v:0', '-c', 'copy', ...FROM_ZERO, '-f', 'mkvtimestamp_v2', 'pipe:1']

/**
 * Gives a recording an index and its stretch's own time. Can be repeated, and writes the same bytes then.
 * @param raw the chunks one after the other, as they came
 * @param offsets into that at which the stretch's time begins, in ms
 * @param pictured whether there are pictures in it
 * @returns when its pictures come, in ms of the stretch, in order; those from before its beginning in its first moments
 */
export async function indexRecording(
  raw: string,
  recording: string,
  offsets: { readonly picture: number; readonly sound: number },
  pictured: boolean,
): Promise<readonly number[]> {
  const { stdout } = await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-nostats',
    // Pictures were found by their own times in the file, wherever that begins.
    ...RECORDING,
    '-seek_timestamp',
    '1',
    '-itsoffset',
    seconds(-offsets.picture),
    '-i',
    raw,
    ...RECORDING,
    '-itsoffset',
    seconds(-offsets.sound),
    '-i',
    raw,
    '-map',
    '0:v?',
    '-map',
    '1:a?',
    '-c',
    'copy',
    ...FROM_ZERO,
    '-f',
    'webm',
    '-cues_to_front',
    '1',
    '-fflags',
    '+bitexact',
    '-y',
    recording,
    ...(pictured ? TIMES_OF_PICTURES : []),
  ])
  return stdout
    .toString()
    .split('\n')
    .filter((line) => /^-?\d/.test(line))
    .map(Number)
    .sort((a, b) => a - b)
}
