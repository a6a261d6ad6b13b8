import type { Ms } from '@core/model'
import { toDb } from './level'
import { PEAKS_A_SECOND } from './peaks'

/** A part of a voice without speech, in ms of its stretch. */
export interface Silence {
  readonly from: Ms
  readonly to: Ms
}

const STEP = 1000 / PEAKS_A_SECOND
/** Speech is at least this much above the room, dB. */
const ABOVE_ROOM = 9
/** Whatever the room, this is silence and that is speech, dBFS of peaks. */
const SURELY_SILENT = -52
const SURELY_SPOKEN = -28
/** A shorter sound between silences is a click, not a word. */
const SHORTEST_SOUND: Ms = 100

/** Peak level below which a voice's outline counts as silence, in dBFS: some way above the room, which is what its quietest tenth is taken for. */
export function silenceLevel(peaks: readonly number[]): number {
  const heard = peaks.filter((value) => value > 0).sort((a, b) => a - b)
  const room = heard[Math.floor(heard.length / 10)] ?? 0
  return Math.max(SURELY_SILENT, Math.min(SURELY_SPOKEN, toDb(room / 255) + ABOVE_ROOM))
}

/**
 * Silences in a voice.
 * @param peaks its outline, `PEAKS_A_SECOND` of 0 to 255
 * @param shortest of the silences that are wanted, in ms
 * @param level see `silenceLevel`; found from the outline itself when left out
 * @returns in order, none overlapping
 */
export function silencesOf(peaks: readonly number[], shortest: Ms, level: number = silenceLevel(peaks)): readonly Silence[] {
  const limit = 255 * 10 ** (level / 20)
  const silences: { from: Ms, to: Ms }[] = []
  for (const [n, value] of peaks.entries()) {
    if (value > limit) continue
    const from = n * STEP
    const last = silences.at(-1)
    if (last !== undefined && from - last.to < SHORTEST_SOUND) last.to = from + STEP
    else silences.push({ from, to: from + STEP })
  }
  return silences.filter((silence) => silence.to - silence.from >= shortest)
}

/** A pause between words is shorter than this; what is longer is not counted as speaking, in ms. */
export const BREATH: Ms = 300

/** How long was spoken between two times of a voice, its pauses apart. */
export function spokenTime(peaks: readonly number[], from: Ms, to: Ms): Ms {
  const end = Math.min(to, peaks.length * STEP)
  const silent = silencesOf(peaks, BREATH).reduce((sum, silence) => sum + Math.max(0, Math.min(silence.to, end) - Math.max(silence.from, from)), 0)
  return Math.max(0, end - from - silent)
}
