import koffi from 'koffi'

/*
 * Two synthesisers of Debian (flite, espeak-ng), asked through their libraries: those say when each word begins, which their programs do
 * not.
 */

/** A sentence said by a synthesiser. */
export interface SaidSentence {
  readonly sampleRate: number
  readonly samples: Int16Array
  /** When its words begin, in s; some synthesisers run small words together and say it once for both. */
  readonly words: readonly { readonly text: string; readonly at: number }[]
}

/** A function of a library. What it gives is checked by whoever calls it. */
type Native = (...args: readonly unknown[]) => unknown

const FLITE_VOICES = ['slt', 'rms', 'kal16', 'awb'] as const
type FliteVoice = (typeof FLITE_VOICES)[number]
export type Voice = `flite:${FliteVoice}` | `espeak:${string}`

const isPointer = (value: unknown): boolean => value !== null && value !== undefined

/** Libraries are let go of once nobody holds them, whoever still calls them. */
const held: ReturnType<typeof koffi.load>[] = []
function load(name: string): ReturnType<typeof koffi.load> {
  const library = koffi.load(name)
  held.push(library)
  return library
}

/** A copy of samples that a library holds. */
const samplesAt = (pointer: unknown, count: number): Int16Array => new Int16Array(koffi.view(pointer, count * 2).slice(0))

/** Flite, by its C interface (flite.h, cst_item.h). */
class Flite {
  readonly #voices = new Map<string, unknown>()
  readonly #call: Readonly<Record<'synth' | 'relation' | 'head' | 'next' | 'as' | 'parent' | 'end' | 'feature' | 'wave' | 'remove', Native>>
  readonly #wave = koffi.struct('FliteWave', { type: 'const char *', rate: 'int', count: 'int', channels: 'int', samples: 'void *' })

  constructor() {
    const library = load('libflite.so.1')
    library.func('int flite_init()')()
    this.#call = {
      synth: library.func('void *flite_synth_text(const char *text, void *voice)'),
      relation: library.func('void *utt_relation(void *utterance, const char *name)'),
      head: library.func('void *relation_head(void *relation)'),
      next: library.func('void *item_next(void *item)'),
      as: library.func('void *item_as(void *item, const char *relation)'),
      parent: library.func('void *item_parent(void *item)'),
      end: library.func('float item_feat_float(void *item, const char *name)'),
      feature: library.func('const char *ffeature_string(void *item, const char *name)'),
      wave: library.func('void *utt_wave(void *utterance)'),
      remove: library.func('void delete_utterance(void *utterance)'),
    }
  }

  #voice(name: FliteVoice): unknown {
    const known = this.#voices.get(name)
    if (known !== undefined) return known
    const voice: unknown = load(`libflite_cmu_us_${name}.so.1`).func(`void *register_cmu_us_${name}(const char *folder)`)(null)
    this.#voices.set(name, voice)
    return voice
  }

  /** When words begin: each at its first segment. */
  #words(utterance: unknown): readonly { text: string; at: number }[] {
    const { relation, head, next, as, parent, end, feature } = this.#call
    const words: { text: string; at: number }[] = []
    let [at, last] = [0, '']
    for (let segment = head(relation(utterance, 'Segment')); isPointer(segment); segment = next(segment)) {
      const inSyllable = as(segment, 'SylStructure')
      const word = isPointer(inSyllable) ? parent(parent(inSyllable)) : null
      const key = isPointer(word) ? String(koffi.address(word)) : ''
      if (key !== '' && key !== last) words.push({ text: String(feature(segment, 'R:SylStructure.parent.parent.name')), at })
      if (key !== '') last = key
      at = Number(end(segment, 'end'))
    }
    return words
  }

  say(name: FliteVoice, text: string): SaidSentence {
    const utterance = this.#call.synth(text, this.#voice(name))
    const wave = koffi.decode(this.#call.wave(utterance), this.#wave) as { rate: number; count: number; samples: unknown }
    const samples = samplesAt(wave.samples, wave.count)
    const words = this.#words(utterance)
    this.#call.remove(utterance)
    return { sampleRate: wave.rate, samples, words }
  }
}

/** espeak-ng, by its C interface (speak_lib.h). */
class Espeak {
  readonly #event = koffi.struct('EspeakEvent', {
    type: 'int',
    unique: 'uint',
    textPosition: 'int',
    length: 'int',
    audioPosition: 'int',
    sample: 'int',
    user: 'void *',
    id: 'uint64',
  })
  readonly #sampleRate: number
  readonly #setVoice: Native
  readonly #synth: Native
  /** Called for as long as it speaks. */
  readonly #heard: unknown
  #events: { textPosition: number; length: number; audioPosition: number }[] = []
  #samples: Int16Array[] = []

  constructor() {
    const library = load('libespeak-ng.so.1')
    koffi.proto('int EspeakHeard(int16 *wave, int count, void *events)')
    this.#setVoice = library.func('int espeak_SetVoiceByName(const char *name)')
    this.#synth = library.func(
      'int espeak_Synth(const char *text, size_t size, uint position, int kind, uint end, uint flags, void *unique, void *user)',
    )
    // Synchronous, with the samples handed over.
    this.#sampleRate = Number(library.func('int espeak_Initialize(int output, int length, const char *path, int options)')(2, 0, null, 0))
    this.#heard = koffi.register((wave: unknown, count: number, events: unknown) => this.#hear(wave, count, events), 'EspeakHeard *')
    library.func('void espeak_SetSynthCallback(EspeakHeard *heard)')(this.#heard)
  }

  #hear(wave: unknown, count: number, events: unknown): number {
    if (count > 0 && isPointer(wave)) this.#samples.push(samplesAt(wave, count))
    for (let n = 0; ; n += 1) {
      const event = koffi.decode(events, n * koffi.sizeof(this.#event), this.#event) as {
        type: number
        textPosition: number
        length: number
        audioPosition: number
      }
      if (event.type === 0) return 0
      // A word begins.
      if (event.type === 1) this.#events.push(event)
    }
  }

  say(voice: string, text: string): SaidSentence {
    this.#events = []
    this.#samples = []
    this.#setVoice(voice)
    // UTF-8.
    this.#synth(text, Buffer.byteLength(text) + 1, 0, 1, 0, 1, null, null)
    const samples = new Int16Array(this.#samples.reduce((sum, part) => sum + part.length, 0))
    let at = 0
    for (const part of this.#samples) {
      samples.set(part, at)
      at += part.length
    }
    const signs = [...text]
    const words = this.#events.map(({ textPosition, length, audioPosition }) => ({
      text: signs.slice(textPosition - 1, textPosition - 1 + length).join(''),
      at: audioPosition / 1000,
    }))
    return { sampleRate: this.#sampleRate, samples, words }
  }
}

let flite: Flite | null = null
let espeak: Espeak | null = null

/** Has a synthesiser say a text. */
export function say(voice: Voice, text: string): SaidSentence {
  const [program, name = ''] = voice.split(':')
  if (program === 'espeak') {
    espeak ??= new Espeak()
    return espeak.say(name, text)
  }
  flite ??= new Flite()
  const known = FLITE_VOICES.find((one) => one === name)
  if (known === undefined) throw new Error(`no such voice: ${voice}`)
  return flite.say(known, text)
}
