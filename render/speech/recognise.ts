import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Ms } from '@core/model'
import type { TimeRange } from '@core/voice'
import { partsToHear } from '@core/words'
import type { HeardWord } from '@core/words'
import { chain, filter, graphText } from '@render/filters'
import { run } from '@render/process'
import { ACOUSTIC_MODEL } from './dictionary'
import type { ListenOptions, ListenOrder } from './listen'

/** What a recogniser goes by. */
export interface Grammar {
  /** Files of a model of what is said next, and of how words are said. */
  readonly languageModel: string
  readonly dictionary: string
  /** How many of its states are alive at a time at most: fewer are faster, and hear less. */
  readonly states?: number
}

/** Samples a second that recognisers' models know. */
export const HEARD_RATE = 16_000
/** What it counts time in, a second. */
const FRAMES = 100
const MEMORY_BYTES = 1024 ** 3
const USUAL_STATES = 10_000
/** Taking noise down delays the sound by this, in ms (afftdn of ffmpeg: half a window). */
const DELAY: Ms = 20
/** Amplitude of a still room's noise, 0 to 1. */
const ROOM = 0.003
/**
 * Rumble and steady noise are taken down, since the model was made of clean speech, and a still room's noise is put under it: where nothing
 * was stored, or a recorder stores silence as such, there would be nothing to measure the voice against, and words beside it are lost.
 */
const CLEANING = graphText([
  chain(['0:a'], [filter('highpass', [], { f: 80 }), filter('afftdn', [], { nr: 20, nf: -30, tn: 1 })], ['clean']),
  chain([], [filter('anoisesrc', [], { color: 'pink', amplitude: ROOM, sample_rate: 48_000, seed: 1 })], ['room']),
  chain(['clean', 'room'], [filter('amix', [], { inputs: 2, duration: 'first', normalize: 0 })], ['heard']),
])

/** The voice as recognisers want it, in the folder of what is listened to. */
export const samplesIn = (folder: string): string => join(folder, 'voice.raw')

/** Makes a voice what recognisers want. */
async function prepareVoice(voice: string, folder: string, { time, niceness, signal }: ListenOptions): Promise<void> {
  const input = ['-f', 's16le', '-ar', '48000', '-ac', '1', '-protocol_whitelist', 'file,pipe', '-i', voice]
  const output = ['-filter_complex', CLEANING, '-map', '[heard]', '-f', 's16le', '-ar', String(HEARD_RATE), '-ac', '1', '-y']
  await run('ffmpeg', ['-v', 'error', '-nostdin', ...input, ...output, samplesIn(folder)], { signal, niceness, hold: { time } })
}

/**
 * Has something done with a voice in a folder of its own, which is gone afterwards.
 * @param voice file of samples: 48 kHz, mono, 16 bits
 * @param work is given the folder, with the voice as recognisers want it (`samplesIn`), and the parts that are to be heard one by one
 */
export async function withPreparedVoice<Found>(
  { voice, peaks, length }: Pick<ListenOrder, 'voice' | 'peaks' | 'length'>,
  options: ListenOptions,
  work: (folder: string, parts: readonly TimeRange[]) => Promise<Found>,
): Promise<Found> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-listened-'))
  try {
    await prepareVoice(voice, folder, options)
    return await work(folder, partsToHear(peaks, length))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** A line of NIST's CTM format: of which utterance, its channel, when it begins and how long it is in s, the word, how sure. */
function wordOf(line: string, parts: readonly TimeRange[]): readonly HeardWord[] {
  const [part, , begin, length, word, sure] = line.split(' ')
  if (part === undefined || word === undefined || /^[<[+]/.test(word)) return []
  const from = (parts[Number(part)]?.from ?? 0) + Number(begin) * 1000 - DELAY
  return [
    {
      sound: word.replace(/\(\d+\)$/, ''),
      from: Math.max(0, Math.round(from)),
      until: Math.max(0, Math.round(from + Number(length) * 1000)),
      sure: Math.min(1, Math.max(0, Number(sure))),
    },
  ]
}

/**
 * Has the recogniser of Debian (pocketsphinx) hear parts of a voice.
 * @param folder of `withPreparedVoice`
 * @param parts each heard by itself, in ms
 * @returns what was heard, in order
 * @throws ProcessFailed when it dies or takes longer than it may
 */
export async function recognise(
  folder: string,
  parts: readonly TimeRange[],
  grammar: Grammar,
  { time, niceness, signal }: ListenOptions,
): Promise<readonly HeardWord[]> {
  if (parts.length === 0) return []
  const [control, found, log] = ['parts', 'found.ctm', 'log'].map((name) => join(folder, name)) as [string, string, string]
  const frame = (at: Ms): string => String(Math.round((at / 1000) * FRAMES))
  const lines = parts.map(({ from, to }, n) => `${samplesIn(folder)} ${frame(from)} ${frame(to)} ${String(n)}\n`)
  await writeFile(control, lines.join(''))
  await run(
    'pocketsphinx_batch',
    [
      ...['-hmm', ACOUSTIC_MODEL, '-dict', grammar.dictionary, '-lm', grammar.languageModel],
      ...['-ctl', control, '-adcin', 'yes', '-cepext', '', '-ctm', found, '-logfn', log],
      // Times are those of the sound only when none of it is left out.
      ...['-remove_silence', 'no', '-seed', '1', '-maxhmmpf', String(grammar.states ?? USUAL_STATES)],
    ],
    { signal, niceness, hold: { time, memory: MEMORY_BYTES } },
  )
  return (await readFile(found, 'utf8')).split('\n').flatMap((line) => wordOf(line, parts))
}
