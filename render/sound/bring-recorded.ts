import { Refusal } from '@core/model'
import type { Ms } from '@core/model'
import { ProcessFailed, holdInside, run, secondsOption } from '@render/process'
import { AS_RECORDED, broughtInput, madeWhole } from './as-recorded'
import { demuxerOf } from './media-kind'

/** Longest recording of one slide, in ms. */
const LONGEST: Ms = 3 * 3_600_000
/** The camera's picture is kept no larger, as when it is recorded here. */
const CAMERA = 'scale=w=1280:h=720:force_original_aspect_ratio=decrease:force_divisible_by=2,fps=30'
/** As browsers record it here. */
const VP8: readonly string[] = ['-c:v', 'libvpx', '-deadline', 'realtime', '-cpu-used', '8', '-b:v', '2M', '-g', '60']

const unreadable = (): Refusal => new Refusal('unreadable', 'No sound could be read from a recording in this deck.')

/** What is taken of a recording that a deck carries. */
export interface BroughtRecording {
  /** Its pictures are wanted too, if it has any. */
  readonly camera: boolean
  /** How much is left away at its beginning and at its end, in ms. */
  readonly trim: { readonly start: Ms; readonly end: Ms }
  /** It is made at least so long: silent, and its last picture standing. 0: as long as it is. */
  readonly atLeast: Ms
  /** ms that it may take; no more than the process has that asks for it */
  readonly time: number
}

/**
 * Makes a recording of a sound or a film of any common kind, as if it had been recorded here: Opus, and VP8 where there is a camera, in
 * WebM. What the file says of itself is not believed, and nothing that it names is opened.
 * @param out is there whole or not at all
 * @returns how long it is, in ms, and whether there is a camera in it
 * @throws Refusal `unreadable`
 */
export async function bringRecorded(
  path: string,
  out: string,
  { trim, atLeast, time, ...wanted }: BroughtRecording,
): Promise<{ readonly length: Ms; readonly camera: boolean }> {
  const demuxer = await demuxerOf(path)
  if (demuxer === null) throw unreadable()
  const camera = wanted.camera && (await hasPictures(path, demuxer))
  const whole = Math.max(0, (await lengthOfMedia(path, demuxer)) - trim.end)
  // Filters count from where the trimmed part begins.
  const kept = `start=${secondsOption(trim.start)}:end=${secondsOption(whole)}`
  const pad = atLeast === 0 ? [] : [`apad=whole_dur=${secondsOption(atLeast)}`]
  const sound = ['-af', [`atrim=${kept}`, 'asetpts=PTS-STARTPTS', ...pad].join(',')]
  const stand = atLeast === 0 ? [] : [`tpad=stop_mode=clone:stop_duration=${secondsOption(atLeast)}`, `trim=end=${secondsOption(atLeast)}`]
  const pictures = ['-map', '0:v:0', '-vf', [`trim=${kept}`, 'setpts=PTS-STARTPTS', CAMERA, ...stand].join(','), ...VP8]
  return await madeWhole(out, unreadable, async (part) => {
    const options = [...(camera ? pictures : ['-vn']), ...sound, '-t', secondsOption(LONGEST + 1000)]
    await run('ffmpeg', [...broughtInput(demuxer, path), ...options, ...AS_RECORDED, part], { hold: holdInside(time) })
    // What was made is a few ms longer: its packets are. What the file says of its length is not believed beyond that.
    const length = Math.min(await lengthOfMedia(part, 'matroska'), Math.max(atLeast, whole - trim.start))
    return { length, camera }
  })
}

async function asked(path: string, demuxer: string, ...what: readonly string[]): Promise<string> {
  const how = [...what, '-of', 'default=nw=1:nk=1']
  const asking = run('ffprobe', [...broughtInput(demuxer, path), ...how], { hold: holdInside(5000) })
  return (
    await asking.catch((error: unknown) => {
      throw error instanceof ProcessFailed ? unreadable() : error
    })
  ).stdout
    .toString()
    .trim()
}

/** Whether a file has moving pictures: a cover is none. */
const hasPictures = async (path: string, demuxer: string): Promise<boolean> =>
  (await asked(path, demuxer, '-select_streams', 'V', '-show_entries', 'stream=index')) !== ''

/** How long a file says that it is, in ms. */
async function lengthOfMedia(path: string, demuxer: string): Promise<Ms> {
  const seconds = Number(await asked(path, demuxer, '-show_entries', 'format=duration'))
  if (!(seconds > 0)) throw unreadable()
  return Math.round(seconds * 1000)
}
