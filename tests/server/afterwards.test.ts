import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PLAIN_FRAMING } from '@core/model'
import type { Programme, Stroke } from '@core/model'
import { frameAt } from '@core/plan'
import { programmeLength, seamsOf, visitsOf } from '@core/programme'
import { run } from '@render/process'
import type { ProgrammeEdit } from '@core/programme'
import type { FilmView, RecordingView, TalkView, UseRequest } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { frameOf, meanColour } from '../harness/film-file'
import { sendTake, toneRecording, turningFace } from '../harness/recording'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
let slides: readonly string[]
const here = randomUUID()

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client)
  talk = made.talk
  slides = made.slides
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await toneRecording(9),
      length: 9000,
      slide: slides[0] ?? '',
      cues: [
        { kind: 'show', at: 3000, slide: slides[1], step: 0 },
        { kind: 'show', at: 6000, slide: slides[2], step: 0 },
      ],
    },
  ])
})
afterAll(async () => {
  await product.stop()
})

const film = (): Promise<FilmView> => client.get<FilmView>('GET', `/talks/${talk}/film`)
const now = async (): Promise<Programme> => (await film()).programme
const edit = async (change: ProgrammeEdit) =>
  client.ask('POST', `/talks/${talk}/programme`, { revision: (await now()).revision, author: here, edit: change })
const use = async (what: UseRequest) =>
  client.ask('POST', `/talks/${talk}/programme/use`, { revision: (await now()).revision, author: here, ...what })
const line = (slide: string): Stroke => ({
  id: randomUUID() as Stroke['id'],
  slide: slide as Stroke['slide'],
  colour: 'moss',
  width: 'fine',
  pressure: false,
  points: [
    { dt: 0, x: 0.2, y: 0.2, p: 0.5 },
    { dt: 400, x: 0.6, y: 0.2, p: 0.5 },
  ],
})
const recordings = (slide: string): Promise<readonly RecordingView[]> =>
  client.get<RecordingView[]>('GET', `/talks/${talk}/slides/${slide}/recordings`)

describe('a talk that was recorded', () => {
  it('is drawn on, has its face moved, and every one of that is taken back', async () => {
    const before = await now()
    const [first, second] = visitsOf(before)
    const stroke = line(first!.slide)
    expect(
      (
        await edit({
          kind: 'draw',
          ink: {
            visit: first!.id,
            over: { kind: 'stretch', id: (before.pieces[0] as { show: { stretch: string } }).show.stretch as never },
            at: 500,
            stroke,
          },
        })
      ).status,
    ).toBe(200)
    expect((await edit({ kind: 'ink', visit: first!.id, strokes: [stroke.id], change: { kind: 'shift', by: 700 } })).status).toBe(200)
    expect(
      (
        await edit({
          kind: 'framing',
          visits: [second!.id],
          framing: { ...PLAIN_FRAMING, rect: { x: 0.1, y: 0.1, w: 0.2, h: 0.3 }, off: true },
        })
      ).status,
    ).toBe(200)
    const after = await now()
    expect(after.inkAdded).toMatchObject([{ at: 1200, stroke: { id: stroke.id } }])
    expect(after.framings[second!.id]).toMatchObject({ off: true })
    for (let n = 0; n < 3; n += 1)
      expect((await client.ask('POST', `/talks/${talk}/programme/back`, { author: here, role: 'undo' })).status).toBe(200)
    expect({ ...(await now()), revision: 0 }).toEqual({ ...before, revision: 0 })
  })

  it('shows the recordings of a slide side by side, and takes another one up', async () => {
    const before = await now()
    const [, second] = visitsOf(before)
    await sendTake(client, talk, 'retake', { kind: 'retake', visit: second!.id }, [
      { media: await toneRecording(2), length: 2000, slide: slides[1] ?? '' },
    ])
    const [retaken] = visitsOf(await now()).slice(1)
    const all = await recordings(slides[1] ?? '')
    expect(all.map(({ kind, length }) => [kind, length])).toEqual([
      ['retake', 2000],
      ['full', 3000],
    ])
    expect(all[1]?.parts[0]?.peaks.length).toBe(60)
    expect((await use({ visit: retaken!.id, take: all[1]!.take, showing: all[1]!.showing, name: 'a' })).status).toBe(200)
    expect((await now()).pieces).toEqual(before.pieces)
    // A recording of another talk cannot be taken up.
    const other = await knotsTalk(client, 'Other knots')
    const { take } = await sendTake(client, other.talk, 'full', { kind: 'replaceAll' }, [
      { media: await toneRecording(1), length: 1000, slide: other.slides[0] ?? '' },
    ])
    const foreign = await client.get<RecordingView[]>('GET', `/talks/${other.talk}/slides/${other.slides[0] ?? ''}/recordings`)
    const refused = await use({ visit: visitsOf(before)[1]!.id, take, showing: foreign[0]!.showing, name: 'b' })
    expect(refused.status).toBe(404)
    expect((await now()).pieces).toEqual(before.pieces)
    const slide = await edit({
      kind: 'insert',
      slide: other.slides[0] as never,
      version: 1,
      length: 1000,
      before: null,
      name: randomUUID(),
    })
    expect(slide.status).toBe(404)
  })

  it('has a part of a slide said again: what is silent at its ends is cut and can be opened', async () => {
    const before = await now()
    const [, second] = visitsOf(before)
    const { stdout } = await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'aevalsrc=0.3*sin(2*PI*220*t)*between(t\\,1\\,2)+0.001*(random(0)*2-1):d=3:s=48000',
      '-c:a',
      'libopus',
      '-f',
      'webm',
      'pipe:1',
    ])
    await sendTake(client, talk, 'retake', { kind: 'range', visit: second!.id, from: 1000, to: 2000 }, [
      { media: stdout, length: 3000, slide: slides[1] ?? '' },
    ])
    const after = await now()
    expect(visitsOf(after).map(({ id }) => id)).toEqual(visitsOf(before).map(({ id }) => id))
    const won = 9000 - 1000 + 3000 - programmeLength(after)
    expect(won).toBeGreaterThan(800)
    expect(won).toBeLessThan(1700)
    expect(seamsOf(after)).toHaveLength(2)
    for (const seam of seamsOf(await now())) expect((await edit({ kind: 'reopen', seam: seam.id })).status).toBe(200)
    expect(programmeLength(await now())).toBe(11_000)
    expect((await client.ask('POST', `/talks/${talk}/programme/return`, { author: here, revision: before.revision })).status).toBe(200)
  })
})

describe('a tempo', () => {
  it('is that of the face too: in the file both turn at one time, late in a long slide', async () => {
    const made = await knotsTalk(client, 'Faster')
    await sendTake(client, made.talk, 'full', { kind: 'replaceAll' }, [
      { media: await turningFace(18, 16.2), camera: true, length: 18_000, slide: made.slides[0] ?? '' },
    ])
    const { programme } = await client.get<FilmView>('GET', `/talks/${made.talk}/film`)
    const rate = { num: 27, den: 25 }
    expect(
      (
        await client.ask('POST', `/talks/${made.talk}/programme`, {
          revision: programme.revision,
          author: here,
          edit: { kind: 'tempo', visits: [], rate },
        })
      ).status,
    ).toBe(200)
    const file = await delivered(client, made.talk)
    const face = { x: 0.7, y: 0.55, w: 0.3, h: 0.45 }
    const blue = async (at: number): Promise<boolean> => {
      const [red, , blueness] = meanColour(await frameOf(file, frameAt(at, 30)), 854, face)
      return blueness > red
    }
    expect([await blue(15_000 - 100), await blue(15_000 + 100)]).toEqual([false, true])
    const high = async (from: number): Promise<number> =>
      Number(
        /mean_volume: (-?[\d.]+)/.exec(
          (
            await run('ffmpeg', [
              '-hide_banner',
              '-nostats',
              '-ss',
              String(from / 1000),
              '-t',
              '0.1',
              '-i',
              file,
              '-af',
              'highpass=f=1200,volumedetect',
              '-f',
              'null',
              '-',
            ])
          ).stderr,
        )?.[1] ?? 0,
      )
    expect((await high(15_000 + 40)) - (await high(15_000 - 160))).toBeGreaterThan(15)
  })
})

describe('a voice from a file', () => {
  const sound = async (format: readonly string[], seconds = 2.5): Promise<Buffer> =>
    (
      await run('ffmpeg', [
        '-v',
        'error',
        '-f',
        'lavfi',
        '-i',
        `sine=frequency=300:duration=${String(seconds)}:sample_rate=44100`,
        '-ac',
        '2',
        ...format,
        'pipe:1',
      ])
    ).stdout
  const bring = (visit: string, name: string, bytes: Uint8Array) =>
    client.ask(
      'POST',
      `/talks/${talk}/voices?${new URLSearchParams({ visit, browser: here, name: 'Chromium' }).toString()}`,
      fileForm(name, bytes),
    )
  const taken = async (answer: { readonly body: unknown }): Promise<TalkView['takes'][number]> => {
    const { take } = answer.body as { take: string }
    return await until('the voice', async () => {
      const found = (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)
      return found !== undefined && found.state !== 'closing' && found
    })
  }

  it('is taken as WAV, MP3, M4A, Ogg and FLAC, and its slide is up for as long as it lasts', async () => {
    const before = await now()
    const { take: _, ...kinds } = {
      take: null,
      wav: ['-f', 'wav'],
      mp3: ['-f', 'mp3'],
      m4a: ['-movflags', 'frag_keyframe+empty_moov', '-f', 'ipod'],
      ogg: ['-c:a', 'libvorbis', '-f', 'ogg'],
      flac: ['-f', 'flac'],
    }
    for (const [kind, format] of Object.entries(kinds)) {
      const [, second] = visitsOf(await now())
      const answer = await bring(second!.id, `tide.${kind}`, await sound(format))
      expect(answer.status, kind).toBe(200)
      expect(await taken(answer), kind).toMatchObject({ state: 'closed' })
      const [, voiced] = visitsOf(await now())
      expect(Math.abs(voiced!.length - 2500), kind).toBeLessThan(90)
    }
    expect((await client.ask('POST', `/talks/${talk}/programme/return`, { author: here, revision: before.revision })).status).toBe(200)
  })

  it('gives a slide that was only held its voice', async () => {
    const name = randomUUID()
    expect((await edit({ kind: 'insert', slide: slides[0] as never, version: 1, length: 4000, before: null, name })).status).toBe(200)
    expect(await taken(await bring(name, 'closing.wav', await sound(['-f', 'wav'], 1.5)))).toMatchObject({ state: 'closed' })
    const last = (await now()).pieces.at(-1)
    expect(last).toMatchObject({ kind: 'recorded', slide: slides[0], camera: null })
    expect(programmeLength(await now())).toBeGreaterThan(9000 + 1400)
  })

  it('that is none is refused in words, and the talk is as it was', async () => {
    const before = await now()
    const [first] = visitsOf(before)
    for (const [name, bytes] of [
      ['notes.wav', Buffer.from('RIFF....WAVEthis is no sound at all')],
      ['words.mp3', Buffer.from('only words')],
      ['list.m4a', Buffer.from('ffconcat version 1.0\nfile /etc/hostname\n')],
    ] as const) {
      const take = await taken(await bring(first!.id, name, bytes))
      expect(take.state, name).toBe('failed')
      expect(take.sentence).toMatch(/No sound could be read .* the talk is as it was/)
    }
    const gone = await bring('gone', 'tide.wav', await sound(['-f', 'wav']))
    expect([gone.status, sentenceOf(gone.body)]).toEqual([404, expect.stringMatching(/not there any more/)])
    expect((await bring(first!.id, 'empty.wav', Buffer.alloc(0))).status).toBeGreaterThanOrEqual(400)
    expect({ ...(await now()) }).toEqual(before)
  })
})
