import type { TimeRange } from '@core/voice'
import type { MadeSentence, TextMaker } from './made-text'
import { say } from './voices'
import type { Voice } from './voices'

/** A word that was said: as it should be spelt, and when it begins in ms; null where the synthesiser does not say. */
export interface TrueWord {
  readonly text: string
  readonly at: number | null
}

export interface MadeSpeech {
  /** 48 kHz, mono. */
  readonly samples: Int16Array
  readonly words: readonly TrueWord[]
  /** ms */
  readonly length: number
}

export const SAMPLE_RATE = 48_000
/** Softer samples are silence. */
const HEARD = 250

/** Samples at another rate, by straight lines between them. */
function resampled(samples: Int16Array, from: number): Float32Array {
  const out = new Float32Array(Math.floor((samples.length * SAMPLE_RATE) / from))
  for (let n = 0; n < out.length; n += 1) {
    const place = (n * from) / SAMPLE_RATE
    const [whole, part] = [Math.floor(place), place % 1]
    out[n] = (samples[whole] ?? 0) * (1 - part) + (samples[whole + 1] ?? 0) * part
  }
  return out
}

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll(/[^a-z0-9' ]/g, ' ')
    .trim()

/** Words of a sentence as they are written, each with when it begins as far as the synthesiser says: what is spelt otherwise is skipped. */
function timedWords(
  { written, said }: MadeSentence,
  heard: readonly { readonly text: string; readonly at: number }[],
  start: number,
): readonly TrueWord[] {
  const writtenWords = written.split(/\s+/).filter(Boolean)
  const saidWords = plain(said).split(/\s+/)
  let [spoken, event] = [0, 0]
  return writtenWords.map((text) => {
    // A figure takes as many spoken words as stand until the next written word.
    const first = saidWords[spoken] ?? ''
    const found = heard.findIndex((one, n) => n >= event && n < event + 3 && plain(one.text).split(' ')[0] === first)
    const at = found < 0 ? null : start + (heard[found]?.at ?? 0) * 1000
    if (found >= 0) event = found + 1
    spoken += text.endsWith('%') ? 2 : 1
    return { text, at }
  })
}

/** Puts sentences one after the other, with pauses and the noise of a room. */
export class SpeechMaker {
  readonly #voice: Voice
  readonly #maker: TextMaker
  readonly #parts: Float32Array[] = []
  readonly #words: TrueWord[] = []
  #at = 0

  constructor(voice: Voice, maker: TextMaker) {
    this.#voice = voice
    this.#maker = maker
  }

  /** ms */
  get at(): number {
    return (this.#at / SAMPLE_RATE) * 1000
  }

  #push(samples: Float32Array): void {
    this.#parts.push(samples)
    this.#at += samples.length
  }

  pause(ms: number): this {
    this.#push(new Float32Array(Math.round((ms / 1000) * SAMPLE_RATE)))
    return this
  }

  sentence(sentence: MadeSentence): this {
    this.part(sentence)
    return this.pause(200 + this.#maker.below(600))
  }

  /** Says something without a pause after it. @returns where it is heard, in ms */
  part(sentence: MadeSentence): TimeRange {
    const { sampleRate, samples, words } = say(this.#voice, sentence.said)
    const start = this.at
    this.#words.push(...timedWords(sentence, words, start))
    return this.sound(resampled(samples, sampleRate))
  }

  /** A sound, with words or without. @returns where it is heard, in ms */
  sound(samples: Float32Array): TimeRange {
    const start = this.at
    this.#push(samples)
    const loud = (sample: number): boolean => Math.abs(sample) > HEARD
    const [first, last] = [samples.findIndex(loud), samples.findLastIndex(loud)]
    const at = (n: number): number => start + (Math.max(0, n) / SAMPLE_RATE) * 1000
    return { from: at(first), to: at(last) }
  }

  /** @param snr dB by which speech is above the room */
  finish(snr: number): MadeSpeech {
    const all = new Float32Array(this.#at)
    let at = 0
    for (const part of this.#parts) {
      all.set(part, at)
      at += part.length
    }
    const loud = all.filter((sample) => Math.abs(sample) > 300)
    const power = loud.reduce((sum, sample) => sum + sample * sample, 0) / Math.max(1, loud.length)
    const noise = Math.sqrt(power) * 10 ** (-snr / 20)
    const samples = new Int16Array(all.length)
    let room = 0
    const uniform = (): number => this.#maker.below(65_536) / 32_768 - 1
    for (let n = 0; n < all.length; n += 1) {
      // Nearly normal, and duller than white noise, as rooms are.
      room = 0.7 * room + 0.714 * (uniform() + uniform() + uniform())
      samples[n] = Math.max(-32_768, Math.min(32_767, Math.round(((all[n] ?? 0) + noise * room) * 0.7)))
    }
    return { samples, words: this.#words, length: this.at }
  }
}
