import { median } from 'd3'
import type { Ms } from '@core/model'

/** A short piece of a microphone's sound with the time at which it was captured. */
export interface SyncFingerprint {
  /** When its first sample was captured, in ms of the stretch; need not be whole. */
  readonly at: number
  /** Samples a second. */
  readonly sampleRate: number
  /** -1 to 1 */
  readonly samples: Float32Array
}

/** A part of a decoded recording. */
export interface MediaPart {
  /** When its first sample stands in the recording's own time, in ms. */
  readonly from: number
  readonly sampleRate: number
  readonly samples: Float32Array
}

/** A print is matched in windows of this length; each says for itself where it lies. */
const WINDOW: Ms = 400
/** Farthest that sound is looked for from where it should be. */
export const REACH: Ms = 1500
/** Windows that are less like what was found are not believed, 0 to 1. */
const LIKE = 0.7
/** Sound is compared at this rate first, to find roughly where it lies. */
const COARSE = 3000
/** Windows that say the same within this many ms agree. */
const AGREE = 3

/** Means of blocks of samples: a lower rate that is good enough for comparing. */
function coarser(samples: Float32Array, by: number): Float32Array {
  const out = new Float32Array(Math.floor(samples.length / by))
  for (let n = 0; n < out.length; n += 1) {
    let sum = 0
    for (let k = 0; k < by; k += 1) sum += samples[n * by + k] ?? 0
    out[n] = sum / by
  }
  return out
}

/** Linear between samples; good to a hundredth of a millisecond for finding a place. */
function resampled({ samples, sampleRate }: Pick<SyncFingerprint, 'samples' | 'sampleRate'>, to: number): Float32Array {
  if (sampleRate === to) return samples
  const out = new Float32Array(Math.floor((samples.length * to) / sampleRate))
  for (let n = 0; n < out.length; n += 1) {
    const at = (n * sampleRate) / to
    const low = Math.floor(at)
    const [a, b] = [samples[low] ?? 0, samples[low + 1] ?? samples[low] ?? 0]
    out[n] = a + (b - a) * (at - low)
  }
  return out
}

/** How alike a window is to a part of the same length: normalised cross-correlation, -1 to 1. */
function likeness(window: Float32Array, in_: Float32Array, at: number): number {
  let [dot, own, other] = [0, 0, 0]
  for (let n = 0; n < window.length; n += 1) {
    const [a, b] = [window[n] ?? 0, in_[at + n] ?? 0]
    dot += a * b
    own += a * a
    other += b * b
  }
  return own === 0 || other === 0 ? 0 : dot / Math.sqrt(own * other)
}

/** The most alike place between two, and how alike it is. */
function best(window: Float32Array, media: Float32Array, from: number, to: number): { readonly at: number; readonly like: number } {
  let found = { at: from, like: -1 }
  for (let at = Math.max(0, from); at <= Math.min(media.length - window.length, to); at += 1) {
    const like = likeness(window, media, at)
    if (like > found.like) found = { at, like }
  }
  return found
}

/**
 * Where a recording's own time and its stretch's time meet: a print, whose capture time is known, is found again in the
 * decoded sound by normalised cross-correlation.
 * @param media around where the print should be, with `REACH` to spare on either side
 * @returns ms that a moment stands later in the recording than in the stretch, to a fraction of a millisecond; null when
 * the sound cannot be recognised, as in silence
 */
export function anchorOf(print: SyncFingerprint, media: MediaPart): number | null {
  const by = Math.max(1, Math.round(media.sampleRate / COARSE))
  const samples = resampled(print, media.sampleRate)
  const length = Math.round((WINDOW / 1000) * media.sampleRate)
  const [coarseMedia, coarseFingerprint] = [coarser(media.samples, by), coarser(samples, by)]
  const offsets: number[] = []
  for (let start = 0; start + length <= samples.length; start += length) {
    const expected = Math.round(((print.at - media.from) / 1000) * COARSE + start / by)
    const reach = (REACH / 1000) * COARSE
    const rough = best(
      coarseFingerprint.subarray(Math.floor(start / by), Math.floor((start + length) / by)),
      coarseMedia,
      expected - reach,
      expected + reach,
    )
    if (rough.like < LIKE * 0.7) continue
    const fine = best(samples.subarray(start, start + length), media.samples, (rough.at - 2) * by, (rough.at + 2) * by)
    if (fine.like < LIKE) continue
    offsets.push(media.from + (fine.at / media.sampleRate) * 1000 - (print.at + (start / media.sampleRate) * 1000))
  }
  const middle = median(offsets) ?? 0
  // One window may be mistaken; two that agree are not.
  return offsets.filter((offset) => Math.abs(offset - middle) <= AGREE).length >= 2 ? middle : null
}

/** How a recording's sound lies to its stretch: its offset at the beginning, and how much longer its time is, as a part of it. */
export interface Alignment {
  readonly offset: number
  readonly drift: number
}

/** Prints nearer to each other say nothing of drift, in ms; greater drift than this is a mistake. */
const APART = 20_000
const MOST_DRIFT = 0.001

/** What two anchors say. @param anchors each with the time of its print in ms of the stretch */
export function alignmentOf(anchors: readonly { readonly at: number; readonly offset: number }[]): Alignment | null {
  const [first] = anchors
  const last = anchors.at(-1)
  if (first === undefined || last === undefined) return null
  const apart = last.at - first.at
  const drift = apart < APART ? 0 : (last.offset - first.offset) / apart
  return Math.abs(drift) > MOST_DRIFT ? { offset: first.offset, drift: 0 } : { offset: first.offset - drift * first.at, drift }
}
