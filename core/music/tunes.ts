/** Music that ships: made here, note by note, so that nobody else's rights are in it. */
export const TUNES = ['slack-water', 'lanterns', 'quayside'] as const
export type Tune = (typeof TUNES)[number]

/** What a tune is called in the field that says where music is from. */
export const TUNE_NAMES: Readonly<Record<Tune, string>> = {
  'slack-water': 'Slack water',
  lanterns: 'Lanterns',
  quayside: 'Quayside',
}

/** Behind its last bar a tune goes on into its first for as long as it takes to pass from its end to its beginning, in seconds. */
const GOES_ON = 0.9

/** Semitones above A4 of a chord's notes. */
type Chord = readonly number[]

/** How a note sounds: its partials, each with its strength, and how fast it comes and dies away, in seconds. */
interface Voice {
  readonly partials: readonly (readonly [number, number])[]
  readonly attack: number
  readonly decay: number
}
const PAD: Voice = {
  partials: [
    [1, 1],
    [2, 0.28],
    [3, 0.09],
  ],
  attack: 0.7,
  decay: 2.8,
}
const PLUCK: Voice = {
  partials: [
    [1, 1],
    [2, 0.4],
    [4, 0.12],
  ],
  attack: 0.012,
  decay: 0.75,
}
const BELL: Voice = {
  partials: [
    [1, 1],
    [2.76, 0.35],
    [5.4, 0.1],
  ],
  attack: 0.006,
  decay: 1.4,
}

interface Score {
  /** Seconds of a bar, of which each has a chord. */
  readonly bar: number
  readonly chords: readonly Chord[]
  /** Which note of its chord is played over it when, in beats of four, and how: 0 is the lowest, 3 the lowest an octave higher. */
  readonly melody: readonly (readonly [number, number])[]
  readonly voice: Voice
}

const SCORES: Readonly<Record<Tune, Score>> = {
  'slack-water': {
    bar: 4,
    chords: [
      [-21, -14, -9, -5],
      [-24, -17, -12, -8],
      [-19, -12, -7, -4],
      [-26, -14, -10, -5],
      [-21, -14, -9, -5],
      [-17, -12, -9, -5],
    ],
    melody: [
      [0, 3],
      [2.5, 2],
    ],
    voice: BELL,
  },
  lanterns: {
    bar: 2.4,
    chords: [
      [-16, -9, -4, 0],
      [-19, -12, -7, -4],
      [-14, -7, -4, 2],
      [-21, -14, -9, -5],
      [-16, -9, -4, 0],
      [-12, -9, -4, 0],
      [-14, -7, -2, 2],
      [-21, -14, -9, -2],
    ],
    melody: [
      [0, 1],
      [0.75, 2],
      [1.5, 3],
      [2.25, 2],
      [3, 1],
    ],
    voice: PLUCK,
  },
  quayside: {
    bar: 2,
    chords: [
      [-17, -10, -5, -2],
      [-22, -15, -10, -5],
      [-12, -8, -5, 0],
      [-15, -10, -7, -3],
      [-17, -10, -5, -2],
      [-22, -10, -7, -2],
      [-15, -8, -3, 0],
      [-10, -5, -2, 2],
    ],
    melody: [
      [0, 0],
      [0.5, 2],
      [1, 3],
      [1.5, 2],
      [2, 1],
      [2.5, 3],
      [3, 2],
      [3.5, 1],
    ],
    voice: PLUCK,
  },
}

interface Note {
  /** In seconds. */
  readonly at: number
  readonly semitones: number
  readonly strength: number
  readonly voice: Voice
}

function notesOf({ bar, chords, melody, voice }: Score): readonly Note[] {
  return chords.flatMap((chord, n) => [
    ...chord.map((semitones): Note => ({ at: n * bar, semitones, strength: 0.16, voice: { ...PAD, decay: bar * 0.62 } })),
    ...melody.map(([beat, which]): Note => {
      const semitones = (chord[which % chord.length] ?? 0) + 12
      return { at: (n + beat / 4) * bar, semitones, strength: 0.13, voice }
    }),
  ])
}

/** How strong a note is so long after it began. */
const envelope = ({ attack, decay }: Voice, after: number): number =>
  after < attack ? after / attack : Math.exp(-(after - attack) / decay)

/** A note is over when so little of it is left. */
const OVER = 0.002

/** Lays a note into samples that begin again behind their end: what still sounds there is heard at the beginning. */
function play(samples: Float32Array, { at, semitones, strength, voice }: Note, sampleRate: number): void {
  const frequency = 440 * 2 ** (semitones / 12)
  const length = Math.round((voice.attack - voice.decay * Math.log(OVER)) * sampleRate)
  const first = Math.round(at * sampleRate)
  for (let n = 0; n < length; n += 1) {
    const time = n / sampleRate
    let sum = 0
    for (const [times, share] of voice.partials) sum += share * Math.sin(2 * Math.PI * frequency * times * time)
    const place = (first + n) % samples.length
    samples[place] = (samples[place] ?? 0) + sum * strength * envelope(voice, time)
  }
}

/** Loudest that a sample gets. */
const PEAK = 0.7

/**
 * A tune, to be repeated without a seam.
 * @param sampleRate samples a second
 * @returns mono samples of 16 bits: its bars, and behind them its beginning once more, to pass from one into the other
 */
export function samplesOfTune(tune: Tune, sampleRate: number): Int16Array {
  const score = SCORES[tune]
  const bars = new Float32Array(Math.round(score.bar * score.chords.length * sampleRate))
  for (const note of notesOf(score)) play(bars, note, sampleRate)
  const most = bars.reduce((sum, sample) => Math.max(sum, Math.abs(sample)), 0)
  return Int16Array.from({ length: bars.length + Math.round(GOES_ON * sampleRate) }, (_, n) =>
    Math.round(((bars[n % bars.length] ?? 0) / most) * PEAK * 32_767),
  )
}
