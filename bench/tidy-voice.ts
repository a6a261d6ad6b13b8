import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { UNTREATED } from '@core/model'
import type { NoiseWay } from '@core/model'
import { BiquadFilter, VoiceMeter, bandPass } from '@core/voice'
import { treatVoice } from '@render/sound'
import { MEASURING_WORDS, TextMaker } from './speech/made-text'
import { SAMPLE_RATE } from './speech/made-speech'
import type { Voice } from './speech/voices'
import { listened, spoken, talkOf } from './words'
import type { Recorded } from './words'
import type { Figure } from './figure'

const VOICES: readonly Voice[] = ['flite:slt', 'espeak:en-us']
const WAYS: readonly NoiseWay[] = ['learned', 'gated']
/** The room is so far below speech, in dB. */
const SNR = 18
const UNHEARD = 90
const BANDS = [250, 500, 1000, 2000, 4000] as const
/** Steps of 100 ms. */
const STEP = SAMPLE_RATE / 10
const WANTED = { down: 12, band: 1, pumping: 2, words: 0.01 } as const

const dbOf = (power: number): number => 10 * Math.log10(Math.max(1e-12, power))
function powerOf(samples: Int16Array, from: number, to: number): number {
  let sum = 0
  for (let n = from; n < to; n += 1) sum += (samples[n]! / 32_768) ** 2
  return sum / Math.max(1, to - from)
}

/** What is softer in speech without a room is a pause, in dBFS, and so many steps beside speech are none. */
const SILENT = -65
const BESIDE = 1

/** Steps in which nobody speaks, nor just before or after. @param clean the same speech in a room that is not heard */
function pausesOf(clean: Int16Array): readonly number[] {
  const silent = Array.from({ length: Math.floor(clean.length / STEP) }, (_, n) => dbOf(powerOf(clean, n * STEP, (n + 1) * STEP)) < SILENT)
  return silent.flatMap((_, n) => (silent.slice(Math.max(0, n - BESIDE), n + BESIDE + 1).every((one) => one) ? [n] : []))
}

/** Level of each band where somebody speaks. */
function bandsOf(samples: Int16Array, pauses: ReadonlySet<number>): readonly number[] {
  return BANDS.map((hertz) => {
    const filter = new BiquadFilter(bandPass(hertz, 1.4, SAMPLE_RATE))
    let [sum, count] = [0, 0]
    for (let n = 0; n < samples.length; n += 1) {
      const out = filter.next(samples[n]! / 32_768)
      if (pauses.has(Math.floor(n / STEP))) continue
      sum += out * out
      count += 1
    }
    return dbOf(sum / Math.max(1, count))
  })
}

/** By how much the room goes up and down within half a second of a pause, in dB, as a rule at its worst: 95 of 100. */
function pumpingOf(samples: Int16Array, pauses: readonly number[]): number {
  const there = new Set(pauses)
  const level = (n: number): number => dbOf(powerOf(samples, n * STEP, (n + 1) * STEP))
  const changes = pauses.filter((n) => there.has(n + 4)).map((n) => Math.abs(level(n + 4) - level(n)))
  return changes.sort((a, b) => a - b)[Math.floor(changes.length * 0.95)] ?? 0
}

async function treated(
  recorded: Recorded,
  noise: NoiseWay,
  folder: string,
): Promise<{ readonly recorded: Recorded; readonly pace: number }> {
  const [voice, out] = [join(folder, 'voice.pcm'), join(folder, 'treated.pcm')]
  await writeFile(voice, new Uint8Array(recorded.speech.samples.buffer))
  const meter = new VoiceMeter()
  meter.take(recorded.speech.samples)
  const apart = { time: 600_000, programs: process.env['AISLE_PROGRAMS'] ?? null, home: process.cwd() }
  const began = performance.now()
  await treatVoice({ voice, out, treatment: { ...UNTREATED, noise, rumble: true }, facts: meter.facts, apart })
  const pace = (performance.now() - began) / recorded.speech.length
  const samples = new Int16Array(Uint8Array.from(await readFile(out)).buffer)
  return { recorded: { ...recorded, speech: { ...recorded.speech, samples } }, pace }
}

/** What tidying does to made speech in a made room. */
export async function measure(): Promise<Figure> {
  const seed = Number(process.env['AISLE_SEED'] ?? Date.now() % 1_000_000)
  console.log(`seed ${String(seed)}`)
  const folder = await mkdtemp(join(tmpdir(), 'aisle-tidy-'))
  const rows: Record<string, string | number>[] = []
  let ok = true
  try {
    for (const [n, voice] of VOICES.entries()) {
      const talk = talkOf(new TextMaker(MEASURING_WORDS, seed + n), false)
      // Said once: a voice may say the same otherwise the next time.
      const inRoom = spoken(voice, new TextMaker(MEASURING_WORDS, seed + n), talk)
      const [before, clean] = [inRoom(SNR), inRoom(UNHEARD).speech.samples]
      const notes = talk.map((slide) => slide.notes)
      const heard = await listened(before, notes)
      const pauses = pausesOf(clean)
      const there = new Set(pauses)
      for (const way of WAYS) {
        const { recorded: after, pace } = await treated(before, way, folder)
        const level = ({ speech }: Recorded): number =>
          dbOf(pauses.reduce((sum, step) => sum + powerOf(speech.samples, step * STEP, (step + 1) * STEP), 0) / Math.max(1, pauses.length))
        const down = level(before) - level(after)
        const [was, is] = [bandsOf(clean, there), bandsOf(after.speech.samples, there)]
        const band = Math.max(...was.map((db, at) => Math.abs((is[at] ?? 0) - db)))
        const pumping = pumpingOf(after.speech.samples, pauses) - pumpingOf(before.speech.samples, pauses)
        const again = await listened(after, notes)
        const lost = heard.right - again.right
        rows.push({ voice, way, pauses: pauses.length, down, band, pumping, before: heard.right, after: again.right, pace })
        console.log(
          `${voice}, ${way}: noise ${down.toFixed(1)} dB down, bands within ${band.toFixed(2)} dB, ${pumping.toFixed(1)} dB pumping, ` +
            `${(heard.right * 100).toFixed(1)}% of words before, ${(again.right * 100).toFixed(1)}% after; ${pace.toFixed(3)} s a second`,
        )
        ok &&= down >= WANTED.down && band <= WANTED.band && pumping <= WANTED.pumping && lost <= WANTED.words
      }
    }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
  return {
    value: Number(Math.min(...rows.map(({ down }) => Number(down))).toFixed(1)),
    unit: 'dB less noise in pauses',
    target: '12 or more; speech within 1 dB in its bands; 2 dB of pumping at most; no fewer words heard',
    ok,
    detail: { seed, rows },
  }
}
