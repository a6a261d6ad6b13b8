import { HUMS, UNTREATED } from '@core/model'
import type { Hum, VoiceTreatment } from '@core/model'
import { BiquadFilter, bandPass, lowPass } from './biquad'

/** What was measured in a voice. All levels are of the whole spectrum, as root mean squares in dBFS, where nothing else is said. */
export interface VoiceFacts {
  /** Of speech; null: there is none. */
  readonly speech: number | null
  /** Of the room between words; null: it is silent, as where a microphone was muted. */
  readonly noise: number | null
  /** How far the strongest hum stands out of the room's noise, in dB, and which it is; null: nothing hums. */
  readonly hum: { readonly of: Hum; readonly by: number } | null
  /** Of what is lower than any voice, between words. */
  readonly rumble: number | null
  /** How much softer the sharpest sounds are than the loudest vowels, in dB: near 0 they hurt. */
  readonly sharpest: number | null
  /** How much sentences differ in level, as a standard deviation in dB. */
  readonly uneven: number
}

const SAMPLE_RATE = 48_000
/** Levels are judged in steps of 100 ms. */
export const LEVEL_STEP = SAMPLE_RATE / 10
/** Sentences are judged in so many steps: 3 s. */
const SENTENCE = 30
/** Quieter steps are digital silence, in dBFS. */
const SILENT = -90
/** So many of them, and the room was not recorded. */
const SILENT_SHARE = 0.05
/** What is less above the room than this is not speech, and what is so much softer than the loudest tenth of it neither. In dB. */
const ABOVE_ROOM = 8
const BELOW_LOUD = 22
/** Hum is looked for in so many samples a second, each the mean of some of the voice's. */
const LOW_RATE = 2000
const TOGETHER = SAMPLE_RATE / LOW_RATE
/** Its frequencies are told from their neighbours in windows of a second, by their first three harmonics. */
const WINDOW = LOW_RATE
const HARMONICS = [1, 2, 3]
/** Neighbours of a harmonic, so many Hz beside it. */
const BESIDE = [-7, 7]
const RUMBLE = 60
const SHARP = { frequency: 7000, q: 1.2 } as const

const dbOf = (power: number): number => (power <= 0 ? -120 : 10 * Math.log10(power))
const powerOf = (db: number): number => 10 ** (db / 10)

/** Power of one frequency in samples, `LOW_RATE` a second (G. Goertzel, 1958). */
function powerAt(samples: Float64Array, frequency: number): number {
  const turn = 2 * Math.cos((2 * Math.PI * frequency) / LOW_RATE)
  let [last, before] = [0, 0]
  for (let n = 0; n < samples.length; n += 1) {
    const next = samples[n]! + turn * last - before
    before = last
    last = next
  }
  return (2 * (last * last + before * before - turn * last * before)) / samples.length ** 2
}

/** The value below which a share of sorted ones lies. */
const quantile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? -120

interface Step {
  readonly level: number
  readonly low: number
  readonly sharp: number
}

/** Measures a voice that is given piece by piece. Pieces need not follow each other: whole seconds of a long recording will do. */
export class VoiceMeter {
  readonly #steps: Step[] = []
  readonly #low = new BiquadFilter(lowPass(RUMBLE, SAMPLE_RATE))
  readonly #sharp = new BiquadFilter(bandPass(SHARP.frequency, SHARP.q, SAMPLE_RATE))
  readonly #window = new Float64Array(WINDOW)
  #filled = 0
  /** Sum of the samples that are to be one, and how many there are. */
  #sum = 0
  #summed = 0
  /** Of seconds that are over: how much of each hum stands out, and how loud they were. */
  readonly #seconds: { readonly level: number; readonly hums: ReadonlyMap<Hum, number> }[] = []

  /** @param samples 16 bits, 48,000 a second */
  take(samples: Int16Array): void {
    for (let at = 0; at + LEVEL_STEP <= samples.length; at += LEVEL_STEP) this.#take(samples.subarray(at, at + LEVEL_STEP))
  }

  #take(samples: Int16Array): void {
    let [all, low, sharp] = [0, 0, 0]
    for (const sample of samples) {
      const own = sample / 32_768
      all += own * own
      low += this.#low.next(own) ** 2
      sharp += this.#sharp.next(own) ** 2
      this.#sum += own
      this.#summed += 1
      if (this.#summed === TOGETHER) this.#takeLow()
    }
    const mean = (sum: number): number => dbOf(sum / samples.length)
    this.#steps.push({ level: mean(all), low: mean(low), sharp: mean(sharp) })
  }

  #takeLow(): void {
    this.#window[this.#filled] = this.#sum / TOGETHER
    this.#sum = 0
    this.#summed = 0
    this.#filled += 1
    if (this.#filled === WINDOW) this.#endSecond()
  }

  #endSecond(): void {
    this.#filled = 0
    const level = dbOf(this.#window.reduce((sum, sample) => sum + sample * sample, 0) / WINDOW)
    if (level < SILENT) return
    const outstanding = (frequency: number): number => {
      const around = BESIDE.reduce((sum, by) => sum + powerAt(this.#window, frequency + by), 0) / BESIDE.length
      return dbOf(powerAt(this.#window, frequency)) - dbOf(around)
    }
    const humOf = (hum: Hum): number => Math.max(...HARMONICS.map((times) => outstanding(Number.parseInt(hum, 10) * times)))
    this.#seconds.push({ level, hums: new Map(HUMS.map((hum) => [hum, humOf(hum)])) })
  }

  /** Which of the quieter seconds hum, and by how much as a rule. */
  #hum(): VoiceFacts['hum'] {
    const levels = this.#seconds.map(({ level }) => level).sort((a, b) => a - b)
    const quiet = this.#seconds.filter(({ level }) => level <= quantile(levels, 0.3) + 1)
    if (quiet.length === 0) return null
    const hums = HUMS.map((of) => ({
      of,
      by: quantile(
        quiet.map(({ hums }) => hums.get(of) ?? 0).sort((a, b) => a - b),
        0.5,
      ),
    }))
    const strongest = hums.reduce((most, one) => (one.by > most.by ? one : most))
    return strongest.by > 0 ? strongest : null
  }

  get facts(): VoiceFacts {
    const heard = this.#steps.filter(({ level }) => level > SILENT)
    const levels = heard.map(({ level }) => level).sort((a, b) => a - b)
    const room = quantile(levels, 0.05)
    const loud = quantile(levels, 0.9)
    const isSpeech = ({ level }: Step): boolean => level > room + ABOVE_ROOM && level > loud - BELOW_LOUD
    const [speech, rest] = [heard.filter(isSpeech), heard.filter((step) => !isSpeech(step) && step.level <= room + ABOVE_ROOM / 2)]
    const mean = (values: readonly number[]): number => dbOf(values.reduce((sum, db) => sum + powerOf(db), 0) / values.length)
    const talks = speech.length > 5
    // Where nothing at all is heard between words there is no room.
    const silent = rest.length === 0 || heard.length < this.#steps.length * (1 - SILENT_SHARE)
    const vowels = speech.map(({ level }) => level).sort((a, b) => a - b)
    const sharp = speech.map((step) => step.sharp).sort((a, b) => a - b)
    return {
      speech: talks ? mean(speech.map(({ level }) => level)) : null,
      noise: silent ? null : mean(rest.map(({ level }) => level)),
      hum: this.#hum(),
      rumble: silent ? null : mean(rest.map(({ low }) => low)),
      sharpest: talks ? quantile(vowels, 0.95) - quantile(sharp, 0.98) : null,
      uneven: talks ? this.#uneven(isSpeech, mean) : 0,
    }
  }

  #uneven(isSpeech: (step: Step) => boolean, mean: (values: readonly number[]) => number): number {
    const sentences: number[] = []
    for (let from = 0; from + SENTENCE <= this.#steps.length; from += SENTENCE) {
      const own = this.#steps.slice(from, from + SENTENCE).filter(isSpeech)
      if (own.length >= SENTENCE / 4) sentences.push(mean(own.map(({ level }) => level)))
    }
    if (sentences.length < 2) return 0
    const middle = sentences.reduce((sum, level) => sum + level, 0) / sentences.length
    return Math.sqrt(sentences.reduce((sum, level) => sum + (level - middle) ** 2, 0) / sentences.length)
  }
}

/** From where on something is worth treating, in dB. */
const WORTH = { speechOverNoise: 38, hum: 10, rumble: -62, sharpest: 9, uneven: 3 } as const

/** What would make a voice better, by what was measured of it. */
export function proposedTreatment({ speech, noise, hum, rumble, sharpest, uneven }: VoiceFacts): VoiceTreatment {
  if (speech === null) return UNTREATED
  return {
    noise: noise !== null && speech - noise < WORTH.speechOverNoise ? 'learned' : null,
    hum: hum !== null && hum.by >= WORTH.hum ? hum.of : null,
    rumble: rumble !== null && rumble > WORTH.rumble,
    sibilance: sharpest !== null && sharpest < WORTH.sharpest,
    level: uneven > WORTH.uneven,
  }
}
