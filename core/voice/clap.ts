import type { Ms } from '@core/model'

/** A picture of a camera with the time that the browser gives for it. */
export interface SeenFrame {
  /** ms of the page's clock */
  readonly at: number
  /** How much it differs from the picture before it, 0 to 1. */
  readonly change: number
}

/** Nothing that is farther from the sound than this belongs to the same clap, in ms. */
export const CLAP_REACH: Ms = 700
/** Less change than this is no clap but a camera's noise. */
const SEEN = 0.01

/**
 * The picture in which a clap is most likely seen: the one that changed most of those near its sound.
 * @param heard when its sound began, in ms of the page's clock
 * @returns its place among the frames; -1 when none of them shows anything happen
 */
export function likelyFrame(heard: number, frames: readonly SeenFrame[]): number {
  const near = frames.filter((frame) => Math.abs(frame.at - heard) <= CLAP_REACH && frame.change >= SEEN)
  const most = Math.max(...near.map((frame) => frame.change))
  // Hands that have met go on changing the picture: the first that changes much, not the last.
  const first = near.find((frame) => frame.change >= most * 0.6)
  return first === undefined ? -1 : frames.indexOf(first)
}

/**
 * How much later than its sound a clap is seen.
 * @param heard when its sound began, in ms of the page's clock
 * @param n the frame in which the hands have met
 * @returns ms; negative when the sound is the later of the two. Half a frame's time is taken off, since the hands met
 * somewhere between that picture and the one before it
 */
export function seenLate(heard: number, frames: readonly SeenFrame[], n: number): number {
  const frame = frames[n]
  if (frame === undefined) throw new RangeError('there is no such frame')
  const before = frames[n - 1]
  return frame.at - (before === undefined ? 0 : (frame.at - before.at) / 2) - heard
}

/** Time that passes in a device before what it captures has reached the browser, in ms from 0 on. */
export interface DeviceLatency {
  readonly camera: number
  readonly mic: number
}

/** What claps say of two devices: whichever comes later is the late one. @param late as `seenLate` says, of one or more claps */
export function deviceLatencyOf(late: readonly number[]): DeviceLatency {
  const mean = late.length === 0 ? 0 : Math.round(late.reduce((sum, one) => sum + one, 0) / late.length)
  return { camera: Math.max(0, mean), mic: Math.max(0, -mean) }
}

/** A sound this much louder than what was before it is a clap's beginning, and this loud at least, as amplitudes. */
const SUDDEN = 6
const LOUD = 0.2
/** Claps are at least this far apart, in ms. */
const REST: Ms = 700

/** Finds where claps begin in sound that comes block by block. */
export class ClapEar {
  #usual = 0.01
  #last = -Infinity

  /**
   * @param at when the block's first sample was captured, in ms
   * @param sampleRate samples a second
   * @returns when a clap began in it, or null
   */
  hear(samples: Float32Array, at: number, sampleRate: number): number | null {
    const loud = Math.max(LOUD, this.#usual * SUDDEN)
    const n = samples.findIndex((sample) => Math.abs(sample) >= loud)
    const peak = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0)
    const heard = at + (n / sampleRate) * 1000
    const begins = n >= 0 && heard - this.#last > REST
    // A slow memory of how loud it is, quick to fall and slow to rise, so that a clap does not hide the next.
    this.#usual += (peak - this.#usual) * (peak > this.#usual ? 0.02 : 0.2)
    if (n >= 0) this.#last = heard
    return begins ? heard : null
  }
}
