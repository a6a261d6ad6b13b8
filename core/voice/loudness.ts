/** Samples a second that the filters below are for. */
const RATE = 48_000
/** Loudness is judged in blocks of four steps that begin a step apart (ITU-R BS.1770-4, annex 1: 400 ms, overlapping by 75 %). */
const STEP = RATE / 10
const STEPS_A_BLOCK = 4
/** Blocks that are quieter count for nothing, in LUFS; and of the others those so much quieter than they are together, in LU. */
const GATE = -70
const RELATIVE_GATE = -10

/** Coefficients of the two filters (BS.1770-4, tables 1 and 2): what a head does to sound, and what of low tones is heard. */
const HIGH_SHELF = { b0: 1.53512485958697, b1: -2.69169618940638, b2: 1.19839281085285, a1: -1.69065929318241, a2: 0.73248077421585 }
const HIGH_PASS = { a1: -1.99004745483398, a2: 0.99007225036621 }

const ofPower = (power: number): number => -0.691 + 10 * Math.log10(power)
const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length

/** Measures how loud one channel is, given piece by piece (ITU-R BS.1770-4). */
export class LoudnessMeter {
  /** Sums of squares of the steps that are over. */
  readonly #steps: number[] = []
  #sum = 0
  #counted = 0
  #peak = 0
  // What the filters remember.
  #head1 = 0
  #head2 = 0
  #low1 = 0
  #low2 = 0

  /** @param samples what comes next, 16 bits, 48,000 a second */
  take(samples: Int16Array): void {
    let [head1, head2, low1, low2, sum, counted, peak] = [
      this.#head1,
      this.#head2,
      this.#low1,
      this.#low2,
      this.#sum,
      this.#counted,
      this.#peak,
    ]
    for (let n = 0; n < samples.length; n += 1) {
      const own = samples[n]! / 32_768
      if (own > peak) peak = own
      else if (-own > peak) peak = -own
      // Both in the transposed direct form.
      const headed = HIGH_SHELF.b0 * own + head1
      head1 = HIGH_SHELF.b1 * own - HIGH_SHELF.a1 * headed + head2
      head2 = HIGH_SHELF.b2 * own - HIGH_SHELF.a2 * headed
      const heard = headed + low1
      low1 = -2 * headed - HIGH_PASS.a1 * heard + low2
      low2 = headed - HIGH_PASS.a2 * heard
      sum += heard * heard
      counted += 1
      if (counted === STEP) {
        this.#steps.push(sum)
        sum = 0
        counted = 0
      }
    }
    this.#head1 = head1
    this.#head2 = head2
    this.#low1 = low1
    this.#low2 = low2
    this.#sum = sum
    this.#counted = counted
    this.#peak = peak
  }

  /** In LUFS, of all that was taken; null when it is too quiet, or too short, to be judged. */
  get integrated(): number | null {
    const blocks = this.#steps
      .slice(STEPS_A_BLOCK - 1)
      .map((_, n) => {
        const [a = 0, b = 0, c = 0, d = 0] = this.#steps.slice(n, n + STEPS_A_BLOCK)
        return (a + b + c + d) / (STEP * STEPS_A_BLOCK)
      })
      .filter((power) => ofPower(power) > GATE)
    if (blocks.length === 0) return null
    const gate = ofPower(mean(blocks)) + RELATIVE_GATE
    return ofPower(mean(blocks.filter((power) => ofPower(power) > gate)))
  }

  /** Of the samples themselves, in dBFS; null for digital silence. */
  get peak(): number | null {
    return this.#peak === 0 ? null : 20 * Math.log10(this.#peak)
  }
}
