import { Refusal } from '@core/model'
import { lengthOfRecording } from '@render/probe'
import { run } from '@render/process'
import { AS_RECORDED, broughtInput, madeWhole } from './as-recorded'
import { demuxerOf } from './media-kind'

/** Shortest and longest voice that is taken, in ms. */
const SHORTEST = 200
const LONGEST = 3 * 3_600_000

const unreadable = (): Refusal =>
  new Refusal('unreadable', 'No sound could be read from this file. Bring WAV, MP3, M4A, Ogg or FLAC; the talk is as it was.')

/**
 * Makes a recording of a sound file of any common kind, as if it had been spoken here: Opus in WebM, one channel. What
 * the file says of itself is not believed, and nothing that it names is opened.
 * @param out is there whole or not at all
 * @param time it may take, in ms
 * @returns how long it is, in ms
 * @throws Refusal `unreadable` or `too-large` in words for the person
 */
export async function bringSound(path: string, out: string, time: number): Promise<number> {
  const demuxer = await demuxerOf(path)
  if (demuxer === null) throw unreadable()
  return await madeWhole(out, unreadable, async (part) => {
    const longest = ['-vn', '-t', String((LONGEST + 1000) / 1000)]
    await run('ffmpeg', [...broughtInput(demuxer, path), ...longest, ...AS_RECORDED, part], { hold: { time } })
    const length = await lengthOfRecording(part)
    if (length > LONGEST) throw new Refusal('too-large', 'This voice is longer than three hours. Bring it in parts, slide by slide.')
    if (length < SHORTEST) throw new Refusal('unreadable', 'There is hardly any sound in this file. The talk is as it was.')
    return length
  })
}
