/** Coefficients of a filter of second order, divided by its `a0`. */
export interface Biquad {
  readonly b0: number
  readonly b1: number
  readonly b2: number
  readonly a1: number
  readonly a2: number
}

interface Shape {
  readonly cos: number
  readonly alpha: number
}

const shapeOf = (frequency: number, q: number, sampleRate: number): Shape => {
  const w = (2 * Math.PI * frequency) / sampleRate
  return { cos: Math.cos(w), alpha: Math.sin(w) / (2 * q) }
}

/**
 * What is lower than a frequency (R. Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients).
 * @param frequency in Hz, below half of `sampleRate`
 */
export function lowPass(frequency: number, sampleRate: number): Biquad {
  const { cos, alpha } = shapeOf(frequency, Math.SQRT1_2, sampleRate)
  const a0 = 1 + alpha
  return { b0: (1 - cos) / 2 / a0, b1: (1 - cos) / a0, b2: (1 - cos) / 2 / a0, a1: (-2 * cos) / a0, a2: (1 - alpha) / a0 }
}

/** What is around a frequency, at its own level in the middle (as above). @param q the frequency over the width of the band */
export function bandPass(frequency: number, q: number, sampleRate: number): Biquad {
  const { cos, alpha } = shapeOf(frequency, q, sampleRate)
  const a0 = 1 + alpha
  return { b0: alpha / a0, b1: 0, b2: -alpha / a0, a1: (-2 * cos) / a0, a2: (1 - alpha) / a0 }
}

/** Filters samples one after the other (transposed direct form II). */
export class BiquadFilter {
  readonly #filter: Biquad
  #first = 0
  #second = 0

  constructor(filter: Biquad) {
    this.#filter = filter
  }

  next(sample: number): number {
    const filter = this.#filter
    const out = filter.b0 * sample + this.#first
    this.#first = filter.b1 * sample - filter.a1 * out + this.#second
    this.#second = filter.b2 * sample - filter.a2 * out
    return out
  }
}
