import { numbersFrom } from '@core/testing'

/** Words of one world, from which sentences are made. */
export interface WordList {
  readonly names: readonly string[]
  readonly things: readonly string[]
  readonly places: readonly string[]
  readonly doings: readonly string[]
  readonly qualities: readonly string[]
  readonly asides: readonly string[]
}

/** Heard while building: nothing is measured on it. */
export const BUILDING_WORDS: WordList = {
  names: ['Brandt', 'Maren Holt', 'Tomas Reed', 'Skerrow', 'the harbour school'],
  things: ['anchor', 'rope', 'tide table', 'compass', 'barometer', 'sail', 'lantern', 'chart', 'oar', 'pulley', 'bowline', 'rudder'],
  places: ['the inner harbour', 'the sill', 'the lee of the island', 'the boat house', 'the northern pier', 'the shallow channel'],
  doings: ['turns with the wind', 'sinks slowly', 'pulls to the left', 'rises before noon', 'dries on the deck', 'holds its place'],
  qualities: ['heavy', 'calm', 'narrow', 'wet', 'steep', 'reliable', 'shallow', 'crooked'],
  asides: [
    'sorry about the noise outside',
    'my brother asked me about this yesterday',
    'you can write that down if you like',
    'i will come back to this in a moment',
    'somebody left the window open again',
    'that was not on the list but it is important',
  ],
}

/** What figures are measured on. */
export const MEASURING_WORDS: WordList = {
  names: ['Ingram', 'Lena Voss', 'Professor Tarrant', 'Ostrava Kell', 'the evening class'],
  things: [
    'nest',
    'swift',
    'feather',
    'telescope',
    'notebook',
    'bell tower',
    'chimney',
    'whistle',
    'ladder',
    'thermometer',
    'camera',
    'ring',
  ],
  places: ['the old market', 'the church roof', 'the meadow by the river', 'the seventh tower', 'the valley road', 'the garden wall'],
  doings: [
    'returns every spring',
    'circles above the town',
    'is counted twice a day',
    'stays hidden until dusk',
    'answers the call',
    'leaves in August',
  ],
  qualities: ['young', 'silent', 'distant', 'quick', 'bright', 'hollow', 'tired', 'common'],
  asides: [
    'let me find the right picture for you',
    'this reminds me of a story my teacher told us',
    'it was raining all day when we did this',
    'please remember to bring a pencil next time',
    'we had a lot of trouble with the key last year',
    'nobody believed us in the beginning',
  ],
}

/** A sentence as it is written, and as a synthesiser is to say it. */
export interface MadeSentence {
  readonly written: string
  readonly said: string
}

const SMALL = ['two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'] as const
const TENS = ['twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'] as const

/** Sentences of a world, drawn from a seed; no two of a run alike. */
export class TextMaker {
  readonly #list: WordList
  readonly #random: (below: number) => number
  readonly #made = new Set<string>()

  constructor(list: WordList, seed: number) {
    this.#list = list
    this.#random = numbersFrom(seed)
  }

  below(most: number): number {
    return this.#random(most)
  }

  /** Whether something of this probability comes about. */
  happens(probability: number): boolean {
    return this.#random(1000) < probability * 1000
  }

  pick<Value>(values: readonly Value[]): Value {
    const value = values[this.#random(values.length)]
    if (value === undefined) throw new Error('nothing to choose from')
    return value
  }

  aside(): string {
    return this.pick(this.#list.asides)
  }

  thing(): string {
    return this.pick(this.#list.things)
  }

  #one(): MadeSentence {
    const { names, things, places, doings, qualities } = this.#list
    const [thing, other, place, name, doing, quality] = [things, things, places, names, doings, qualities].map((words) =>
      this.pick(words),
    ) as [string, string, string, string, string, string]
    const n = this.#random(SMALL.length)
    const number = { written: String(n + 2), said: SMALL[n] ?? 'two' }
    const plain = (text: string): MadeSentence => ({ written: text, said: text })
    const Name = `${name.charAt(0).toUpperCase()}${name.slice(1)}`
    return this.pick<MadeSentence>([
      plain(`The ${thing} in ${place} is ${quality}, and it ${doing}.`),
      plain(`${Name} says that a ${quality} ${thing} ${doing}.`),
      plain(`If you look at ${place}, you will find the ${thing} next to the ${other}.`),
      plain(`Why does the ${thing} ${this.pick(['matter', 'change', 'move', 'help'])}? Because the ${other} is ${quality}.`),
      { written: `We counted ${number.written} of them near ${place}.`, said: `We counted ${number.said} of them near ${place}.` },
      {
        written: `About ${String((n % TENS.length) * 10 + 20)}% of the time the ${thing} ${doing}.`,
        said: `About ${TENS[n % TENS.length] ?? 'twenty'} percent of the time the ${thing} ${doing}.`,
      },
      plain(`First take the ${thing}, then the ${other}, and put both behind ${place}.`),
      plain(`Nobody in ${place} has seen a ${thing} that ${doing}.`),
      plain(`${Name} built a ${thing} out of a ${other} and some wire.`),
      plain(`What happens to the ${quality} ${thing} when winter comes is not known.`),
      plain(`So remember the ${thing}: it is more ${quality} than the ${other}.`),
      plain(`In the evening we walk to ${place} with a ${thing} and wait.`),
    ])
  }

  sentence(): MadeSentence {
    for (;;) {
      const made = this.#one()
      if (this.#made.has(made.written)) continue
      this.#made.add(made.written)
      return made
    }
  }
}
