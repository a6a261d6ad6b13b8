import { readFileSync } from 'node:fs'
import { deviation } from 'd3'
import { SPEAKING_RATE, atFirstLine, followed, learntRate, lettersSaid, scriptOf, spokenWords } from '@core/pace'
import { spokenLines } from '@core/markup'
import { NOTHING_HEARD, listened, rms, toDb } from '@core/voice'
import { run } from '@render/process'
import { SAMPLE_RATE } from '@render/sound'
import type { Figure } from './figure'

/** Samples of the block that the Lectern's meter measures. */
const BLOCK = SAMPLE_RATE / 20
/** Levels of a room's noise that the reading is put into, in dBFS; null: as it was made. */
const ROOMS = [null, -55, -45] as const
/** The reading is also heard slower and faster than it was made. */
const TEMPOS = [0.85, 1, 1.15] as const

/** The reading as samples, at a tempo, in noise. */
async function reading(noise: number | null, tempo: number): Promise<Float32Array> {
  const { stdout } = await run('ffmpeg', [
    '-hide_banner',
    '-loglevel',
    'error',
    '-i',
    'demo/reading/reading.ogg',
    '-af',
    `atempo=${String(tempo)}`,
    '-ar',
    String(SAMPLE_RATE),
    '-ac',
    '1',
    '-f',
    'f32le',
    'pipe:1',
  ])
  const samples = new Float32Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
  if (noise === null) return samples
  let seed = 11
  // Uniform noise of a given power: its amplitude is the root of three times that.
  const most = 10 ** (noise / 20) * Math.sqrt(3)
  return samples.map((sample) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return sample + (seed / 1_073_741_824 - 1) * most
  })
}

/** How unevenly a reading keeps to some measure of its sentences: the standard deviation of the logarithm of its rate. */
const spread = (rates: readonly number[]): number => Number((deviation(rates, Math.log) ?? NaN).toFixed(3))

/**
 * How the notes keep up with a reading aloud of two minutes: distance in lines between what is said and what is due, at every twentieth
 * of a second.
 */
export async function measure(): Promise<Figure> {
  const read = JSON.parse(readFileSync('demo/reading/reading.json', 'utf8')) as { text: string; from: number; to: number }[]
  const script = scriptOf(spokenLines(read.map((line) => line.text).join(' ')))
  if (script.pauses.length !== read.length)
    throw new Error(`the notes have ${String(script.pauses.length)} lines, the reading ${String(read.length)}`)
  // What a rehearsal of the same reader would have taught.
  const learnt = learntRate([
    { words: spokenWords(read.map((line) => line.text).join(' ')), spoken: read.reduce((sum, line) => sum + line.to - line.from, 0) },
  ])
  const worsts: Record<string, number> = {}
  const offs: Record<string, number> = {}
  const cases = ROOMS.flatMap((noise) => TEMPOS.map((tempo) => ({ noise, tempo, rate: learnt, known: true })))
  for (const { noise, tempo, rate, known } of [
    ...cases,
    ...TEMPOS.map((one) => ({ noise: null, tempo: one, rate: SPEAKING_RATE, known: false })),
  ]) {
    const samples = await reading(noise, tempo)
    const lines = read.map(({ from, to }) => ({ from: from / tempo, to: to / tempo }))
    let state = atFirstLine(rate)
    let hearing = NOTHING_HEARD
    let [worst, off, count] = [0, 0, 0]
    for (let n = 0; (n + 1) * BLOCK <= samples.length; n += 1) {
      const at = (n + 1) * 50
      const before = hearing
      hearing = listened(hearing, toDb(rms(samples.subarray(n * BLOCK, (n + 1) * BLOCK))), at)
      state = followed(script, state, 50, hearing.speaking, hearing.speaking && !before.speaking ? at - before.loud : null)
      // In a pause either the line before it or the one after is the right one.
      const next = lines.findIndex((line) => at < line.to)
      const said = next < 0 ? lines.length - 1 : next
      const between = at < (lines[said]?.from ?? 0) && said > 0
      const distance = between ? Math.min(Math.abs(state.line - said), Math.abs(state.line - said + 1)) : Math.abs(state.line - said)
      worst = Math.max(worst, distance)
      off += distance > 0 ? 1 : 0
      count += 1
    }
    const room = `${known ? '' : 'rate not learnt, '}${noise === null ? 'as made' : `${String(noise)} dBFS`}, tempo ${String(tempo)}`
    worsts[room] = worst
    offs[room] = Number((off / count).toFixed(3))
  }
  const worstWhere = (known: boolean): number =>
    Math.max(...Object.entries(worsts).flatMap(([room, worst]) => (room.startsWith('rate') === known ? [] : [worst])))
  const [value, unknown] = [worstWhere(true), worstWhere(false)]
  return {
    value,
    unit: 'lines',
    target: '1 or less; 2 or less where nothing is learnt',
    ok: value <= 1 && unknown <= 2,
    detail: {
      seconds: Math.round((read.at(-1)?.to ?? 0) / 1000),
      sentences: read.length,
      learntRate: learnt,
      worstByRoom: worsts,
      shareOfTimeOffByRoom: offs,
      spreadByWords: spread(read.map((line) => spokenWords(line.text) / (line.to - line.from))),
      spreadByLetters: spread(read.map((line) => lettersSaid(line.text) / (line.to - line.from))),
    },
  }
}
