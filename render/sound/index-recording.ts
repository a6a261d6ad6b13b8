import { RECORDING, run, secondsOption } from '@render/process'

/**
 * What lies before the stretch's beginning is packed into its first moments, a packet a ms: pictures cannot be read without the
 * whole one that they begin with, and no file has times below zero.
 */
const FROM_ZERO: readonly string[] = ['-copypriorss', '1', '-bsf:v', 'setts=ts=max(TS\\,N)', '-bsf:a', 'setts=ts=max(TS\\,N)']

/**
 * Gives a recording an index and its stretch's own time. Can be repeated, and writes the same bytes then.
 * @param raw the chunks one after the other, as they came
 * @param offsets into that at which the stretch's time begins, in ms
 */
export async function indexRecording(
  raw: string,
  recording: string,
  offsets: { readonly picture: number; readonly sound: number },
): Promise<void> {
  await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-nostats',
    // Pictures were found by their own times in the file, wherever that begins.
    ...RECORDING,
    '-seek_timestamp',
    '1',
    '-itsoffset',
    secondsOption(-offsets.picture),
    '-i',
    raw,
    ...RECORDING,
    '-itsoffset',
    secondsOption(-offsets.sound),
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
  ])
}
