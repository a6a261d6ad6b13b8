import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ProcessFailed } from '@render/process'
import { hearParts, listenByFolder, speaks, speechModelIn } from '.'
import type { OnnxRecognisers } from '.'
import { recognisedWords } from './recognised-words'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-model-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

let count = 0
/** A folder with empty files of these names. */
async function folderOf(files: readonly string[], about?: string): Promise<string> {
  count += 1
  const path = join(folder, String(count))
  await mkdir(path)
  await Promise.all(files.map((file) => writeFile(join(path, file), '')))
  if (about !== undefined) await writeFile(join(path, 'model.json'), about)
  return path
}

describe('a folder of a model', () => {
  it('is known by its files, and the smaller of two is taken', async () => {
    const at = await folderOf(['a-tokens.txt', 'encoder.onnx', 'encoder.int8.onnx', 'decoder.onnx', 'joiner.onnx', 'README.md'])
    expect((await speechModelIn(at)).configFor('de')).toEqual({
      tokens: join(at, 'a-tokens.txt'),
      transducer: { encoder: join(at, 'encoder.int8.onnx'), decoder: join(at, 'decoder.onnx'), joiner: join(at, 'joiner.onnx') },
    })
    const writes = await speechModelIn(await folderOf(['tokens.txt', 'small-encoder.onnx', 'small-decoder.onnx']))
    expect(writes.configFor('pt-BR')).toMatchObject({ whisper: { language: 'pt', task: 'transcribe' } })
    expect(speaks(writes, 'ja')).toBe(true)
  })

  it('says what it is and what it understands', async () => {
    const one = await speechModelIn(await folderOf(['tokens.txt', 'model.onnx'], '{"kind":"senseVoice","languages":["en-GB","ja"]}'))
    expect(one.configFor('en')).toMatchObject({ senseVoice: { model: expect.stringMatching(/model\.onnx$/) as string } })
    expect(['en', 'ja-JP', 'de'].map((language) => speaks(one, language))).toEqual([true, true, false])
  })

  it.each([
    [['model.onnx'], undefined, /no tokens\.txt/],
    [['tokens.txt'], undefined, /no \.onnx file/],
    [['tokens.txt', 'encoder.onnx'], undefined, /an encoder and no decoder/],
    [['tokens.txt', 'model.onnx'], '{"kind":"piano"}', /“piano”; nemoCtc and senseVoice/],
    [['tokens.txt', 'model.onnx'], '{"languages":"en"}', /not a list of language tags/],
    [['tokens.txt', 'model.onnx'], 'kind: x', /is no JSON/],
  ] as const)('that is wrong is said in words: %s %s', async (files, about, sentence) => {
    await expect(speechModelIn(await folderOf(files, about))).rejects.toThrow(sentence)
    await expect(speechModelIn(join(folder, 'nowhere'))).rejects.toThrow(/There is no folder/)
  })
})

describe('what its recogniser makes out', () => {
  it('is words in the time of the voice, by tokens where they have times and by letters where not', () => {
    const part = { from: 2000, to: 6000 }
    const timed = { text: ' Skerrow is calm', tokens: [' Sker', 'row', ' is', ' calm'], timestamps: [0.1, 0.4, 0.9, 1.2] }
    expect(recognisedWords(timed, part, 'en')).toEqual([
      { sound: 'skerrow', from: 2100, until: 2700, sure: 0.8 },
      { sound: 'is', from: 2900, until: 3200, sure: 0.8 },
      { sound: 'calm', from: 3200, until: 3500, sure: 0.8 },
    ])
    const untimed = recognisedWords({ text: '3 ropes.', tokens: [], timestamps: [] }, part, 'en')
    expect(untimed.map(({ sound }) => sound)).toEqual(['three', 'ropes'])
    expect([untimed[0]?.from, untimed.at(-1)?.until]).toEqual([2000, 6000])
    expect(recognisedWords({ text: '', tokens: [], timestamps: [] }, part, 'en')).toEqual([])
  })

  it('is asked part by part, of those samples alone', async () => {
    const samples = join(folder, 'samples.raw')
    const bytes = Buffer.alloc(16_000 * 2)
    for (let n = 0; n < 16_000; n += 1) bytes.writeInt16LE(n < 8000 ? 16_384 : -16_384, n * 2)
    await writeFile(samples, bytes)
    const heard: { readonly length: number; readonly first: number | undefined; readonly rate: number }[] = []
    /** Speaks the package's interface, and says what it was given. */
    class OfflineRecognizer {
      readonly threads: number
      constructor({ modelConfig }: ConstructorParameters<OnnxRecognisers['OfflineRecognizer']>[0]) {
        this.threads = modelConfig.numThreads
      }
      createStream() {
        return {
          acceptWaveform: ({ samples: given, sampleRate }: { readonly samples: Float32Array; readonly sampleRate: number }) => {
            heard.push({ length: given.length, first: given[0], rate: sampleRate })
          },
        }
      }
      decode(): void {
        expect(this.threads).toBe(1)
      }
      getResult() {
        return { text: `part ${String(heard.length)}`, tokens: [], timestamps: [] }
      }
    }
    const order = {
      model: { tokens: 't', nemoCtc: { model: 'm' } },
      samples,
      parts: [
        { from: 0, to: 250 },
        { from: 500, to: 2000 },
      ],
    }
    const texts: string[] = []
    for await (const { text } of hearParts({ OfflineRecognizer }, order)) texts.push(text)
    expect(texts).toEqual(['part 1', 'part 2'])
    expect(heard).toEqual([
      { length: 4000, first: 0.5, rate: 16_000 },
      { length: 8000, first: -0.5, rate: 16_000 },
    ])
  })

  it('is nothing when its files are none: the process dies, and no other does', async () => {
    const voice = join(folder, 'voice.pcm')
    await writeFile(voice, Buffer.alloc(48_000 * 2, 1))
    const model = await speechModelIn(await folderOf(['tokens.txt', 'model.onnx']))
    const order = { voice, peaks: Array.from({ length: 100 }, () => 0.5), length: 1000, texts: [], besides: [], shown: [] }
    const where = { programs: null, home: process.cwd() }
    await expect(listenByFolder(order, 'en', model, { time: 60_000, niceness: 0 }, where)).rejects.toThrow(ProcessFailed)
  })
})
