import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Said } from '@core/model'
import { peaksOf } from '@core/voice'
import { timedByPauses, writtenText } from '@core/words'
import type { ShownText } from '@core/words'
import { listenByModel } from '@render/speech'
import { BUILDING_WORDS, MEASURING_WORDS, TextMaker } from './speech/made-text'
import type { MadeSentence } from './speech/made-text'
import { SAMPLE_RATE, SpeechMaker } from './speech/made-speech'
import type { MadeSpeech, TrueWord } from './speech/made-speech'
import type { Voice } from './speech/voices'
import type { Figure } from './figure'

/** A slide: what is written for it, and what is said. */
interface Spoken {
  readonly notes: string
  readonly said: readonly MadeSentence[]
}

const SLIDES = 8
const SENTENCES = 6
/** Of words that are said, so many are not read as they are written. */
const DEPARTING = 0.3

const free = (text: string): MadeSentence => ({ written: text, said: text })

/** Reads on as it is written, or departs from it: leaves out, repeats, changes the order, says something else. */
function departing(maker: TextMaker, sentences: readonly MadeSentence[]): readonly MadeSentence[] {
  const out: MadeSentence[] = []
  sentences.forEach((sentence, n) => {
    if (!maker.happens(DEPARTING * 1.9)) {
      out.push(sentence)
      return
    }
    const words = sentence.written.split(' ')
    const at = 1 + maker.below(Math.max(1, words.length - 2))
    const changed = [...words.slice(0, at), maker.thing(), ...words.slice(at + 1)].join(' ')
    const next = sentences[n + 1]
    const ways: readonly (() => readonly MadeSentence[])[] = [
      () => [free(maker.aside()), sentence],
      () => [free(maker.aside()), free(maker.aside())],
      () => (next === undefined ? [sentence] : [next, sentence]),
      () => [sentence, sentence],
      () => [],
      () => (sentence.written === sentence.said ? [free(changed)] : [sentence]),
      () => [free(words.slice(0, at).join(' ')), free(maker.aside())],
    ]
    out.push(...maker.pick(ways)())
  })
  return out
}

/** A talk, read as it is written or not. */
export function talkOf(maker: TextMaker, departs: boolean): readonly Spoken[] {
  return Array.from({ length: SLIDES }, () => {
    const sentences = Array.from({ length: SENTENCES }, () => maker.sentence())
    return { notes: sentences.map(({ written }) => written).join(' '), said: departs ? departing(maker, sentences) : sentences }
  })
}

export interface Recorded {
  readonly speech: MadeSpeech
  readonly shown: readonly ShownText[]
}

export const record = (voice: Voice, maker: TextMaker, talk: readonly Spoken[], snr: number): Recorded => spoken(voice, maker, talk)(snr)

/** Has a talk said once. @returns what records it in a room that is so many dB below it */
export function spoken(voice: Voice, maker: TextMaker, talk: readonly Spoken[]): (snr: number) => Recorded {
  const speech = new SpeechMaker(voice, maker)
  speech.pause(500)
  const shown = talk.map(({ said }, text) => {
    const from = speech.at
    for (const sentence of said) speech.sentence(sentence)
    speech.pause(600)
    return { from, until: speech.at, text }
  })
  return (snr) => ({ speech: speech.finish(snr), shown })
}

const plain = (text: string): string => text.toLowerCase().replaceAll(/[^\p{L}\p{N}%']/gu, '')

interface Compared {
  /** Of the words that were said, less those that were added. */
  readonly right: number
  /** How far off words begin, in ms. */
  readonly off: readonly number[]
}

/** Holds what was found to what was said, by the fewest words that differ. */
function compare(truth: readonly TrueWord[], found: Said): Compared {
  const words = found.words
  const width = words.length + 1
  const costs = new Uint32Array((truth.length + 1) * width)
  const same = (row: number, column: number): boolean => plain(truth[row - 1]?.text ?? '') === plain(words[column - 1]?.text ?? '')
  const at = (row: number, column: number): number => costs[row * width + column] ?? 0
  for (let row = 0; row <= truth.length; row += 1) {
    for (let column = 0; column < width; column += 1) {
      if (row === 0 || column === 0) costs[row * width + column] = row + column
      else {
        const other = at(row - 1, column - 1) + (same(row, column) ? 0 : 1)
        costs[row * width + column] = Math.min(at(row - 1, column) + 1, at(row, column - 1) + 1, other)
      }
    }
  }
  const off: number[] = []
  const shown: string[] = []
  let [row, column] = [truth.length, words.length]
  while (row > 0 || column > 0) {
    const here = at(row, column)
    if (row > 0 && column > 0 && here === at(row - 1, column - 1) + (same(row, column) ? 0 : 1)) {
      const [said, heard] = [truth[row - 1], words[column - 1]]
      if (same(row, column) && said?.at != null && heard !== undefined) off.push(Math.abs(heard.from - said.at))
      shown.push(same(row, column) ? (said?.text ?? '') : `[${said?.text ?? ''}>${heard?.text ?? ''}]`)
      row -= 1
      column -= 1
    } else if (row > 0 && here === at(row - 1, column) + 1) {
      row -= 1
      shown.push(`[-${truth[row]?.text ?? ''}]`)
    } else {
      column -= 1
      shown.push(`[+${words[column]?.text ?? ''}]`)
    }
  }
  if (process.env['AISLE_SHOW'] !== undefined) console.log(shown.reverse().join(' '))
  return { right: 1 - at(truth.length, words.length) / Math.max(1, truth.length), off: off.sort((a, b) => a - b) }
}

const quantile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? NaN

/** Notes laid on the voice by its pauses, as where nobody understands its language. */
function laidByPauses({ speech, shown }: Recorded, notes: readonly string[]): Compared & { readonly pace: number } {
  const began = performance.now()
  const said = timedByPauses(
    peaksOf(speech.samples, SAMPLE_RATE),
    notes.map((text) => writtenText(text, 'en')),
    shown,
  )
  const pace = (performance.now() - began) / speech.length
  return { ...compare(speech.words, said), pace }
}

/** Has a recorded talk listened to, with or without its notes. */
export async function listened({ speech, shown }: Recorded, notes: readonly string[]): Promise<Compared & { readonly pace: number }> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-words-'))
  try {
    const voice = join(folder, 'voice.pcm')
    await writeFile(voice, new Uint8Array(speech.samples.buffer))
    const began = performance.now()
    const said = await listenByModel(
      {
        voice,
        peaks: peaksOf(speech.samples, SAMPLE_RATE),
        length: speech.length,
        texts: notes.map((text) => writtenText(text, 'en')),
        besides: [],
        shown: notes.length === 0 ? [] : shown,
      },
      { time: 600_000, niceness: 0 },
    )
    const pace = (performance.now() - began) / speech.length
    return { ...compare(speech.words, said), pace }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Voices that are heard while building; the last is heard by this bench alone. */
const VOICES: readonly Voice[] = ['flite:slt', 'espeak:en-us', 'espeak:en-gb', 'flite:rms', 'flite:awb']
const SNRS = [30, 15] as const
/** What each reading is to reach. */
const WANTED = { read: 0.97, departing: 0.85 } as const

/** How well what is said is heard: by every voice, in a still and in a noisy room, read as written, with departures, without notes. */
export async function measure(): Promise<Figure> {
  const seed = Number(process.env['AISLE_SEED'] ?? Date.now() % 1_000_000)
  const building = process.env['AISLE_BUILDING'] !== undefined
  console.log(`seed ${String(seed)}`)
  const rows: { kind: string; voice: string; snr: number; right: number; median: number; p95: number; pace: number }[] = []
  const note = (kind: string, voice: Voice, snr: number, { right, off, pace }: Compared & { readonly pace: number }): void => {
    const row = { kind, voice, snr, right, median: quantile(off, 0.5), p95: quantile(off, 0.95), pace }
    rows.push(row)
    console.log(
      `${kind}, ${voice}, ${String(snr)} dB: ${(right * 100).toFixed(1)}% right, begins ${row.median.toFixed(0)} ms off, 95% within ` +
        `${row.p95.toFixed(0)}; ${pace.toFixed(3)} s a second`,
    )
  }
  console.log('a model of one’s own: not measured, none is here')
  const only = process.env['AISLE_VOICES']?.split(',')
  const voices = building ? VOICES.slice(0, 2) : VOICES.filter((voice) => only?.includes(voice) ?? true)
  let made = 0
  for (const voice of voices) {
    for (const snr of SNRS) {
      const maker = new TextMaker(building ? BUILDING_WORDS : MEASURING_WORDS, seed + made)
      made += 3
      for (const kind of ['read', 'departing', 'without notes'] as const) {
        const talk = talkOf(maker, kind === 'departing')
        const recorded = record(voice, maker, talk, snr)
        const notes = kind === 'without notes' ? [] : talk.map((slide) => slide.notes)
        note(kind, voice, snr, await listened(recorded, notes))
        if (kind === 'read') note('by pauses', voice, snr, laidByPauses(recorded, notes))
      }
    }
  }
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length)
  const of = (kind: string): typeof rows => rows.filter((row) => row.kind === kind)
  const right = Object.fromEntries(['read', 'departing', 'without notes'].map((kind) => [kind, mean(of(kind).map((row) => row.right))]))
  const timed = rows.filter(({ kind }) => kind === 'read' || kind === 'departing')
  const ok =
    (right['read'] ?? 0) >= WANTED.read &&
    (right['departing'] ?? 0) >= WANTED.departing &&
    timed.every(({ median, p95 }) => median <= 60 && p95 <= 150) &&
    rows.every(({ pace }) => pace <= 0.5)
  return {
    value: Number(((right['read'] ?? 0) * 100).toFixed(1)),
    unit: '% of words right when read as written',
    target: '97 or more; 85 with departures; begin 60 ms off at most, 95% within 150; 0.5 s a second',
    ok,
    detail: { seed, right, rows },
  }
}
