import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { peaksOf } from '@core/voice'
import { writtenText } from '@core/words'
import { ProcessFailed, run } from '@render/process'
import { SAMPLE_RATE } from '@render/sound'
import { waysOfSaying } from './dictionary'
import { listenByModel } from './listen-by-model'
import { modelFor } from './model-for'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-listen-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

const NOTES = 'Skerrow harbour is calm tonight. Turn the rope 3 times around the post, then pull it tight.'
const OPTIONS = { time: 60_000, niceness: 0 }

/** A voice that says something from its first moment on, with silence in it that is nothing at all. */
async function voiceOf(sentences: readonly string[]): Promise<{ voice: string; peaks: readonly number[]; length: number }> {
  const [wave, voice] = [join(folder, 'said.wav'), join(folder, 'voice.pcm')]
  await run('espeak-ng', ['-v', 'en-us', '-s', '150', '-w', wave, sentences.join('\n\n')])
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', wave, '-ar', '48000', '-f', 's16le', 'pipe:1'])
  await writeFile(voice, stdout)
  const samples = new Int16Array(new Uint8Array(stdout).buffer)
  return { voice, peaks: peaksOf(samples, SAMPLE_RATE), length: samples.length / 48 }
}

describe('listening by the recogniser', () => {
  it('hears every word from the first on, spelt as it is written, in its time', async () => {
    const heard = await voiceOf(['Skerrow harbour is calm tonight.', 'Turn the rope three times around the post, then pull it tight.'])
    const shown = [{ from: 0, until: heard.length, text: 0 }]
    const { words, unsaid } = await listenByModel({ ...heard, texts: [writtenText(NOTES, 'en')], besides: [], shown }, OPTIONS)
    expect(words.map(({ text }) => text).join(' ')).toBe(NOTES)
    expect(unsaid).toEqual([])
    expect(words.every(({ from, until }, n) => until > from && from >= (words[n - 1]?.until ?? 0) - 50)).toBe(true)
    expect(words.at(-1)?.until).toBeLessThan(heard.length)
  })

  it('hears what is not written, and finds nothing where nothing is said', async () => {
    const heard = await voiceOf(['Thank you very much.'])
    const { words } = await listenByModel({ ...heard, texts: [], besides: [], shown: [] }, OPTIONS)
    expect(words.map(({ text, source }) => `${source} ${text}`)).toContain('heard you')
    const silent = { voice: heard.voice, peaks: heard.peaks.map(() => 0), length: heard.length }
    expect(await listenByModel({ ...silent, texts: [], besides: [], shown: [] }, OPTIONS)).toEqual({ words: [], unsaid: [] })
  })

  it('is given up in time', async () => {
    const heard = await voiceOf(['Thank you very much.'])
    await expect(listenByModel({ ...heard, texts: [], besides: [], shown: [] }, { ...OPTIONS, time: 1 })).rejects.toThrow(ProcessFailed)
  })

  it('is for languages that there is a model of', async () => {
    expect(await Promise.all(['en', 'en-GB', 'de', 'ja'].map(modelFor))).toEqual([true, true, false, false])
  })
})

describe('ways of saying words', () => {
  it('are those of the dictionary, and follow rules where that lacks them', async () => {
    const ways = await waysOfSaying(new Set(['the', 'skerrow', '-v', '漢']))
    expect(ways.get('the')).toEqual(['DH AH', 'DH IY'])
    expect(ways.get('skerrow')).toEqual([expect.stringMatching(/^S K EH R OW$/)])
  })
})
