import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import type { Said } from '@core/model'
import { peaksOf } from '@core/voice'
import { writtenText } from '@core/words'
import { run } from '@render/process'
import { SAMPLE_RATE } from '@render/sound'
import { listenByModel, modelFor } from '.'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-hard-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

const NOTES = 'Skerrow harbour is calm tonight. Turn the rope 3 times around the post, then pull it tight. Nobody sails before noon.'
const SAID =
  'Skerrow harbour is calm tonight.\n\nTurn the rope three times around the post, then pull it tight.\n\nNobody sails before noon.'

async function said(voice: string, text = SAID): Promise<string> {
  const file = join(folder, `${voice}-${String(text.length)}.wav`)
  await run('espeak-ng', ['-v', voice, '-s', '150', '-w', file, text])
  return file
}

/** What is heard of some sound. @param input arguments of ffmpeg that give it */
async function heard(input: readonly string[], notes = NOTES): Promise<Said> {
  const voice = join(folder, 'voice.pcm')
  const { stdout } = await run('ffmpeg', ['-v', 'error', ...input, '-ar', '48000', '-ac', '1', '-f', 's16le', 'pipe:1'])
  await writeFile(voice, stdout)
  const samples = new Int16Array(new Uint8Array(stdout).buffer)
  const length = samples.length / 48
  const order = { voice, peaks: peaksOf(samples, SAMPLE_RATE), length, texts: [writtenText(notes, 'en')], besides: [] }
  return await listenByModel({ ...order, shown: [{ from: 0, until: length, text: 0 }] }, { time: 120_000, niceness: 0 })
}
const textOf = ({ words }: Said): string => words.map(({ text }) => text).join(' ')

describe('a voice that is hard to hear', () => {
  it('that whispers is understood all the same', async () => {
    expect(textOf(await heard(['-i', await said('en-us+whisper')]))).toBe(NOTES)
  })

  it('that shouts over what can be recorded, or over somebody else, costs its own words and no others', async () => {
    const shouts = ['-i', await said('en-us'), '-af', 'volume=30dB,alimiter=limit=1:level=0:attack=0.1:release=1']
    expect(textOf(await heard(shouts))).toMatch(/Nobody sails before noon\.$/)
    const other = await said('en-gb', 'This is another person who talks about something else, and does not stop.')
    const two = ['-i', await said('en-us'), '-i', other, '-filter_complex', 'amix=inputs=2:duration=first:normalize=0']
    expect(textOf(await heard(two))).toMatch(/then pull it tight\. Nobody sails before noon\.$/)
  })

  it('is found in notes of fifty thousand words', async () => {
    const names = ['tide', 'rope', 'anchor', 'harbour', 'swift', 'meadow', 'river', 'tower', 'bell', 'chimney']
    const name = (n: number): string => names[n % names.length] ?? ''
    const long = Array.from({ length: 5000 }, (_, n) => `The ${name(n)} near ${name(n * 7)} holds ${name(n * 3)} fast ${String(n % 50)}.`)
    const found = await heard(['-i', await said('en-us')], `${long.join(' ')} ${NOTES}`)
    expect(textOf(found)).toMatch(/Skerrow harbour is calm tonight\..*then pull it tight\. Nobody sails before noon\.$/)
  })

  it('is not heard where no recogniser is installed', async () => {
    vi.stubEnv('PATH', folder)
    expect(await modelFor('en')).toBe(false)
    vi.unstubAllEnvs()
    expect(await modelFor('en')).toBe(true)
  })
})
