import { chmod, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openPromise } from 'yauzl'
import type { DeliveryView, FilmView, TalkView, WordsView } from '@contracts'
import { run } from '@render/process'
import { Client } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake } from '../harness/recording'
import { screeningOf, shareTalk } from '../harness/screening'
import { saidRecording, soundRecording } from '../harness/speech'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
/** While this file is there, the recogniser dies. */
let dies: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-words-'))
  dies = join(folder, 'dies')
  const recogniser = join(folder, 'pocketsphinx_batch')
  await writeFile(recogniser, `#!/bin/sh\n[ -e '${dies}' ] && exit 3\nexec /usr/bin/pocketsphinx_batch "$@"\n`)
  await chmod(folder, 0o755)
  await chmod(recogniser, 0o755)
  product = await startProduct({ PATH: `${folder}:${process.env['PATH'] ?? ''}` })
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

const NOTES = 'Skerrow harbour is calm tonight. Turn the rope 3 times around the post, then pull it tight. Nobody sails before noon.'
const SAID = [
  'Skerrow harbour is calm tonight.',
  'Turn the rope three times around the post, then pull it tight.',
  'Thank you for your attention.',
]

/** A talk in which that is said over its first slide. */
async function spokenTalk(name: string, voice = 'en-us'): Promise<{ readonly talk: string; readonly length: number }> {
  const { talk, slides } = await knotsTalk(client, name)
  const { revision } = await client.get<TalkView>('GET', `/talks/${talk}`)
  await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slides[0]], fields: { notes: NOTES } } })
  const { media, length } = await saidRecording(SAID, voice)
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length, slide: slides[0] ?? '' }])
  return { talk, length }
}

const listened = async (talk: string): Promise<WordsView> => {
  await client.get('POST', `/talks/${talk}/words/listen`)
  return await until('the words', async () => {
    const view = await client.get<WordsView>('GET', `/talks/${talk}/words`)
    return view.waiting === 0 && view.stretches.length > 0 && view
  })
}
const read = (bytes: Uint8Array): string => new TextDecoder().decode(bytes)
const textOf = ({ stretches }: WordsView): string => stretches.flatMap(({ words }) => words.map(({ text }) => text)).join(' ')
const captionsOf = async (talk: string): Promise<string> => read(await client.bytes(`/talks/${talk}/words/captions?kind=vtt`))

describe('what is said', () => {
  it('is heard, spelt as it is written, put right, cut with the talk, read by viewers, and goes into files', async () => {
    const { talk } = await spokenTalk('Ropes')
    const view = await listened(talk)
    const [stretch] = view.stretches
    expect(stretch).toMatchObject({ state: 'done', by: 'model', sentence: null })
    expect(textOf(view)).toMatch(/^Skerrow harbour is calm tonight\. Turn the rope 3 times around the post, then pull it tight\. /)
    // What was not written stands as it was heard.
    expect(textOf(view)).toMatch(/attention$/)
    const words = stretch?.words ?? []
    const at = (text: string) => words.find((word) => word.text === text)
    expect(words.every(({ from, until: end }, n) => end > from && from >= (words[n - 1]?.from ?? 0))).toBe(true)

    // A name is put right, and that can be taken back.
    const skerrow = at('Skerrow')
    const correction = { stretch: stretch?.stretch, from: skerrow?.from, until: skerrow?.until, text: 'Skerrow’s inner' }
    const put = await client.get<WordsView>('POST', `/talks/${talk}/words/corrections`, { corrections: [correction] })
    expect(await captionsOf(talk)).toContain('Skerrow’s inner harbour')
    await client.get('DELETE', `/talks/${talk}/words/corrections/${put.stretches[0]?.corrections[0]?.id ?? ''}`)
    expect(await captionsOf(talk)).not.toContain('inner')

    // What is cut is neither read nor found, nor in the file.
    const [from, to] = [at('Turn')?.from ?? 0, (at('tight.')?.until ?? 0) + 50]
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    await client.get('POST', `/talks/${talk}/programme`, {
      revision: programme.revision,
      author: '4a4d8f0e-6c1a-4f0e-9b6e-2f7b4f0c1d11',
      edit: { kind: 'cut', parts: [{ from, to }] },
    })
    const captions = await captionsOf(talk)
    expect(captions).toContain('Skerrow harbour')
    expect(captions).not.toMatch(/rope|times/)
    const { key } = await shareTalk(client, talk)
    const screening = await screeningOf(product.url, key)
    expect(screening.said.map((one) => one.words)[0]).toBe('Skerrow harbour is calm tonight.')
    expect(JSON.stringify(screening)).not.toContain('rope')
    expect(await (await fetch(`${product.url}${screening.media}/captions.vtt`)).text()).toBe(captions)

    const file = await delivered(client, talk)
    const streams = await run('ffprobe', [
      '-v',
      'error',
      '-select_streams',
      's',
      '-show_entries',
      'stream_tags=language',
      '-of',
      'csv=p=0',
      file,
    ])
    expect(streams.stdout.toString().trim()).toBe('eng')
    const trackOf = async (of: string): Promise<string> =>
      (await run('ffmpeg', ['-v', 'error', '-i', of, '-map', '0:s', '-f', 'srt', 'pipe:1'])).stdout.toString()
    const inside = await trackOf(file)
    const [delivery] = await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
    expect(delivery?.facts?.captions).toBe(true)
    const beside = read(await client.bytes(`/deliveries/${delivery?.id ?? ''}/captions?kind=srt`))
    const said = (srt: string): string =>
      srt
        .replaceAll(/^\d+$|^.*-->.*$/gm, '')
        .replaceAll(/\s+/g, ' ')
        .trim()
    expect(said(inside)).toBe(said(beside))
    expect(said(inside)).toContain('Skerrow harbour is calm tonight.')
    expect(said(await trackOf(await delivered(client, talk, { format: 'webm', name: 'open' })))).toBe(said(inside))
  })

  it('is drawn into the picture of a file that is to have it there, at its times and as its programme says', async () => {
    const { talk } = await spokenTalk('Ropes to be read')
    const words = (await listened(talk)).stretches[0]?.words ?? []
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const style = { size: 'large', place: 'strip', ground: 'light' }
    const author = '4a4d8f0e-6c1a-4f0e-9b6e-2f7b4f0c1d11'
    await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author, edit: { kind: 'captions', style } })
    const file = await delivered(client, talk, { captions: 'drawn' })
    /** How light the strip below the slide is at a time, 0 to 255. */
    const lightness = async (at: number): Promise<number> => {
      const args = ['-ss', String(at / 1000), '-i', file, '-frames:v', '1', '-vf', 'crop=iw*0.3:ih*0.05:iw*0.35:ih*0.92,format=gray']
      const { stdout } = await run('ffmpeg', ['-v', 'error', ...args, '-f', 'rawvideo', 'pipe:1'])
      return stdout.reduce((sum, value) => sum + value, 0) / stdout.length
    }
    const [first, last] = [words[0], words.at(-1)]
    // A light plate with letters on it while something is said, dark ground before that.
    expect(await lightness(((first?.from ?? 0) + (first?.until ?? 0)) / 2)).toBeGreaterThan(120)
    expect(await lightness(((last?.from ?? 0) + (last?.until ?? 0)) / 2)).toBeGreaterThan(120)
    expect(await lightness(Math.max(0, (first?.from ?? 0) - 100))).toBeLessThan(60)
    const { stdout } = await run('ffprobe', ['-v', 'error', '-show_entries', 'stream=codec_type', '-of', 'csv=p=0', file])
    expect(stdout.toString()).not.toContain('subtitle')
  })

  it('can be taken along as a document, a page and plain text', async () => {
    const { talk } = await spokenTalk('Ropes & “knots”')
    expect(await client.ask('GET', `/talks/${talk}/words/transcript?kind=txt`)).toMatchObject({
      status: 409,
      body: { error: { sentence: /is not known yet/ } },
    })
    await listened(talk)
    const transcript = async (kind: string): Promise<Uint8Array> => await client.bytes(`/talks/${talk}/words/transcript?kind=${kind}`)
    for (const kind of ['txt', 'md', 'html']) {
      expect([kind, read(await transcript(kind))]).toEqual([kind, expect.stringContaining('Turn the rope 3 times around the post')])
    }
    const file = join(folder, 'transcript.docx')
    await writeFile(file, await transcript('docx'))
    const archive = await openPromise(file, { lazyEntries: true })
    let xml = ''
    for await (const entry of archive.eachEntry()) {
      if (entry.fileName === 'word/document.xml') xml = await text(await archive.openReadStreamPromise(entry))
    }
    expect(xml).toContain('Ropes &amp; “knots”')
    expect(xml).toMatch(/Heading1[\s\S]*Bowline[\s\S]*Skerrow harbour is calm tonight\./)
  })

  it('costs nothing but its words when the recogniser dies, and is found when it is asked for again', async () => {
    const { talk } = await spokenTalk('Ropes that break')
    await writeFile(dies, '')
    const failed = await listened(talk)
    expect(failed.stretches).toMatchObject([
      { state: 'failed', by: null, words: [], sentence: expect.stringMatching(/listened to again/) as string },
    ])
    await rm(dies)
    expect(textOf(await listened(talk))).toContain('Skerrow harbour')
  })

  it('is timed by its pauses in a language that nothing here understands, and says so', async () => {
    const { talk, length } = await spokenTalk('Seile', 'de')
    await client.get('PATCH', `/talks/${talk}`, { language: 'de' })
    const view = await listened(talk)
    expect(view.stretches).toMatchObject([{ state: 'done', by: 'pauses' }])
    expect(textOf(view)).toBe(NOTES)
    expect(view.stretches[0]?.words.at(-1)?.until).toBeLessThanOrEqual(length)
  })

  it('is said not to be made out in music, and what is written is not taken for it', async () => {
    const { talk, slides } = await knotsTalk(client, 'A song')
    const notes = await client.get<TalkView>('GET', `/talks/${talk}`)
    await client.get('POST', `/talks/${talk}/deck`, {
      revision: notes.revision,
      edit: { kind: 'set', slides: [slides[0]], fields: { notes: NOTES } },
    })
    const tune = "aevalsrc='0.2*sin(2*PI*220*t*(1+floor(mod(t,4))/8))+0.15*sin(2*PI*330*t)+0.1*sin(2*PI*440*t*(1+floor(mod(t*2,3))/6))':d=8"
    const media = await soundRecording(tune)
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 7900, slide: slides[0] ?? '' }])
    expect((await listened(talk)).stretches).toMatchObject([
      { state: 'done', by: null, words: [], sentence: expect.stringMatching(/music or noise/) as string },
    ])
  })

  it('is said to be unknown where nobody speaks', async () => {
    const { talk, slides } = await knotsTalk(client, 'Nothing said')
    const media = await soundRecording('anullsrc=r=48000:cl=mono:d=4')
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 3900, slide: slides[0] ?? '' }])
    expect((await listened(talk)).stretches).toMatchObject([
      { state: 'done', by: null, sentence: 'No speech was found in this recording.' },
    ])
  })
})
