import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { asId } from '@core/model'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { peaksOf } from '@core/voice'
import type { TimeRange } from '@core/voice'
import { corrected, filmWords, slipsOf, writtenText } from '@core/words'
import type { Slip } from '@core/words'
import { listenByModel } from '@render/speech'
import { cough, throat } from './speech/made-noises'
import { BUILDING_WORDS, MEASURING_WORDS, TextMaker } from './speech/made-text'
import type { MadeSentence } from './speech/made-text'
import { SAMPLE_RATE, SpeechMaker } from './speech/made-speech'
import type { Voice } from './speech/voices'
import type { Figure } from './figure'

/** A slip that was made: where it is heard, or where nothing is. */
interface MadeSlip extends TimeRange {
  readonly kind: Slip['kind']
}

interface MadeTalk {
  readonly samples: Int16Array
  readonly length: number
  readonly notes: readonly string[]
  readonly shown: readonly { readonly from: number; readonly until: number; readonly text: number }[]
  readonly slips: readonly MadeSlip[]
  /** Where something else is said. */
  readonly said: readonly TimeRange[]
}

const MINUTES = 20
const SLIPS = 60
const KINDS: readonly Slip['kind'][] = ['again', 'filler', 'hesitation', 'noise']
/** A share of what was made must lie in what is offered that it is found, and the other way round, of 1. */
const MEETS = 0.5
/** No more of other speech than this may be cut: less is no syllable, in ms. */
const SYLLABLE = 60
const WANTED = { precision: 0.9, recall: 0.8 } as const

const plain = (text: string): MadeSentence => ({ written: text, said: text })

/** A sentence in which something is repeated because it is meant. */
function repetition(maker: TextMaker): readonly string[] {
  const [thing, other] = [maker.thing(), maker.thing()]
  return maker.pick<readonly string[]>([
    [`First three, and three again, behind the ${thing}.`],
    [`It gets slower, and slower, and slower near the ${thing}.`],
    [`The ${thing} is very, very old.`],
    [`Look at the ${thing}. Look at the ${thing}.`],
    [`Round and round goes the ${other}, again and again.`],
    [`No, no, no: the ${thing} comes before the ${other}.`],
  ])
}

/** Says a sentence with a slip in it, at a place between two of its words. */
function slipped(
  speech: SpeechMaker,
  maker: TextMaker,
  kind: Slip['kind'],
  sentence: MadeSentence,
): { slip: MadeSlip; said: readonly TimeRange[] } {
  const words = sentence.said.split(' ')
  // Whoever breaks off does so within a sentence, not at the end of a clause.
  const places = words.flatMap((word, n) => (n >= 1 && n < words.length - 2 && !/[.,:?!]$/.test(word) ? [n + 1] : []))
  const at = maker.pick(places)
  const [head, tail] = [plain(words.slice(0, at).join(' ')), plain(words.slice(at).join(' '))]
  switch (kind) {
    case 'again': {
      const tried = speech.part(head)
      speech.pause(150 + maker.below(500))
      return { slip: { kind, ...tried }, said: [speech.part(sentence)] }
    }
    case 'filler': {
      const first = speech.part(head)
      speech.pause(80 + maker.below(200))
      const filler = speech.part(plain(maker.pick(['uh', 'um'])))
      speech.pause(80 + maker.below(200))
      return { slip: { kind, ...filler }, said: [first, speech.part(tail)] }
    }
    case 'hesitation': {
      const first = speech.part(head)
      const from = speech.at
      speech.pause(1400 + maker.below(1200))
      const to = speech.at
      return { slip: { kind, from, to }, said: [first, speech.part(tail)] }
    }
    case 'noise': {
      const first = speech.part(head)
      speech.pause(120 + maker.below(300))
      const noise = speech.sound(maker.happens(0.7) ? cough(maker) : throat(maker))
      speech.pause(120 + maker.below(300))
      return { slip: { kind, ...noise }, said: [first, speech.part(tail)] }
    }
  }
}

/** A talk of twenty minutes with slips in it, and as many repetitions that are meant. */
function talkOf(voice: Voice, maker: TextMaker, snr: number): MadeTalk {
  const speech = new SpeechMaker(voice, maker)
  const slips: MadeSlip[] = []
  const said: TimeRange[] = []
  const notes: string[] = []
  const shown: MadeTalk['shown'][number][] = []
  speech.pause(500)
  while (speech.at < MINUTES * 60_000) {
    const from = speech.at
    const written: string[] = []
    for (let n = 0; n < 6; n += 1) {
      // As many of each as there is time for.
      const due = slips.length < (speech.at / (MINUTES * 60_000)) * SLIPS
      if (due && maker.happens(0.5)) {
        for (const text of repetition(maker)) {
          written.push(text)
          said.push(speech.part(plain(text)))
          speech.pause(200 + maker.below(500))
        }
      }
      const sentence = maker.sentence()
      written.push(sentence.written)
      const made = due ? slipped(speech, maker, KINDS[slips.length % KINDS.length] ?? 'again', sentence) : null
      if (made === null) said.push(speech.part(sentence))
      else {
        slips.push(made.slip)
        said.push(...made.said)
      }
      speech.pause(200 + maker.below(600))
    }
    notes.push(written.join(' '))
    shown.push({ from, until: speech.at, text: notes.length - 1 })
  }
  const { samples, length } = speech.finish(snr)
  return { samples, length, notes, shown, slips, said }
}

const overlap = (one: TimeRange, other: TimeRange): number => Math.max(0, Math.min(one.to, other.to) - Math.max(one.from, other.from))
const lengthOf = ({ from, to }: TimeRange): number => to - from
/** Whether what is offered is what was made: most of the shorter of both. */
const meets = (made: TimeRange, offered: TimeRange): boolean =>
  overlap(made, offered) >= MEETS * Math.min(lengthOf(made), lengthOf(offered)) && overlap(made, offered) > 0

/** Slips that are found in a talk. */
async function found({ samples, length, notes, shown }: MadeTalk): Promise<readonly Slip[]> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-slips-'))
  try {
    const voice = join(folder, 'voice.pcm')
    await writeFile(voice, new Uint8Array(samples.buffer))
    const peaks = peaksOf(samples, SAMPLE_RATE)
    const texts = notes.map((text) => writtenText(text, 'en'))
    const heard = await listenByModel({ voice, peaks, length, texts, besides: [], shown }, { time: 3_600_000, niceness: 0 })
    const name = (n: number): string => `slide${String(n)}`
    const slides = notes.map((text, n) => slide(name(n), 1, { notes: text }))
    const cues = shown
      .slice(1)
      .map(({ from, text }) => ({ kind: 'show', at: Math.round(from), slide: asId<'slide'>(name(text)), step: 0 }) as const)
    const index = indexFilm(film(slides, [stretch('s', Math.round(length), asId(name(0)), cues)]))
    const words = filmWords(index, new Map([[asId<'stretch'>('s'), corrected(heard, [])]]))
    return slipsOf({ words, notesOf: (id) => slides.find((one) => one.id === id)?.notes ?? '', peaksOf: () => peaks })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** How many of the slips that are offered are some, how many of those that were made are offered, and whether a cut takes anything else. */
export async function measure(): Promise<Figure> {
  const seed = Number(process.env['AISLE_SEED'] ?? Date.now() % 1_000_000)
  const building = process.env['AISLE_BUILDING'] !== undefined
  console.log(`seed ${String(seed)}`)
  const maker = new TextMaker(building ? BUILDING_WORDS : MEASURING_WORDS, seed)
  const voice: Voice = building ? 'flite:slt' : 'flite:awb'
  const talk = talkOf(voice, maker, 30)
  const offered = await found(talk)
  const right = offered.filter((slip) => talk.slips.some((made) => meets(made, slip)))
  const missed = talk.slips.filter((made) => !offered.some((slip) => meets(made, slip)))
  const eaten = offered.filter((slip) => talk.said.some((part) => overlap(part, slip) > SYLLABLE))
  if (process.env['AISLE_SHOW'] !== undefined) {
    for (const slip of offered)
      console.log(
        right.includes(slip) ? 'right' : 'WRONG',
        eaten.includes(slip) ? 'EATS' : '',
        slip.kind,
        Math.round(slip.from),
        Math.round(slip.to),
        slip.words,
      )
    for (const made of missed) console.log('MISSED', made.kind, Math.round(made.from), Math.round(made.to))
  }
  const precision = right.length / Math.max(1, offered.length)
  const recall = (talk.slips.length - missed.length) / Math.max(1, talk.slips.length)
  const byKind = Object.fromEntries(
    KINDS.map((kind) => [
      kind,
      { made: talk.slips.filter((made) => made.kind === kind).length, missed: missed.filter((made) => made.kind === kind).length },
    ]),
  )
  return {
    value: Number((recall * 100).toFixed(1)),
    unit: '% of the slips that were made are offered',
    target: '80 or more; 90% of those offered are slips; no cut takes a syllable of other speech',
    ok: recall >= WANTED.recall && precision >= WANTED.precision && eaten.length === 0,
    detail: { seed, voice, minutes: talk.length / 60_000, precision, recall, offered: offered.length, eaten: eaten.length, byKind },
  }
}
