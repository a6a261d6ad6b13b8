import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Slide } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { toFilm } from '@contracts'
import type { FilmView, TalkView, ViewersFilm } from '@contracts'
import { probe } from '@render/probe'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { decodesClean, frameOf, levelOf, meanColour } from '../harness/film-file'
import { filmFile, makeOfficeDeck, movingPicture, redThenGreen, toneFile } from '../harness/office-decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake } from '../harness/recording'
import { everythingOf, screeningOf, shareTalk } from '../harness/screening'
import { broughtInto, delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-clips-'))
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true, force: true })
})

const WIDTH = 854
const MIDDLE = { x: 0.45, y: 0.45, w: 0.1, h: 0.1 }
const view = (talk: string): Promise<TalkView> => client.get<TalkView>('GET', `/talks/${talk}`)
const bring = (talk: string, name: string, file: Uint8Array, wish?: string): Promise<TalkView> =>
  broughtInto(client, talk, name, file, wish)
const clipsOf = (now: TalkView, n: number): NonNullable<Slide['clips']> => now.slides[n]?.clips ?? []

describe('a film on a slide', () => {
  let talk = ''
  let slides: readonly string[] = []
  beforeAll(async () => {
    const made = await knotsTalk(client, 'With a film')
    talk = made.talk
    slides = made.slides
    const now = await bring(talk, 'tank.mp4', await redThenGreen({ red: 1, seconds: 4 }), `?onto=${slides[0] ?? ''}`)
    expect(now.imports[0]).toMatchObject({ state: 'done' })
  })

  it('is a clip of it, made once for all browsers, and is changed like anything of a deck', async () => {
    const now = await view(talk)
    const [clip] = clipsOf(now, 0)
    expect(clip).toMatchObject({ name: 'tank.mp4', start: 'click', from: 0, to: 4000, loop: false, gain: 0 })
    expect(clip?.media).toMatchObject({
      length: 4000,
      sound: true,
      picture: { size: { width: 320, height: 180 }, rate: { num: 25, den: 1 } },
    })
    const file = join(folder, 'clip.mp4')
    await writeFile(file, await client.bytes(`/talks/${talk}/assets/${clip?.media.file ?? ''}`))
    expect((await probe(file)).streams.map((stream) => stream.codec_name)).toEqual(['h264', 'aac'])
    const edit = {
      kind: 'set',
      slides: [slides[0]],
      fields: { clips: [{ ...clip, from: 500, box: { x: 0.25, y: 0.25, w: 0.5, h: 0.5 } }] },
    }
    await client.get('POST', `/talks/${talk}/deck`, { revision: now.revision, edit })
    const changed = await view(talk)
    expect(clipsOf(changed, 0)).toMatchObject([{ from: 500, box: { w: 0.5 } }])
    expect(changed.slides[0]?.version).toBe((now.slides[0]?.version ?? 0) + 1)
  })

  it('is in the file when and as far as it was played, its sound with it', async () => {
    const clip = clipsOf(await view(talk), 0)[0]?.id ?? ''
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
      {
        media: null,
        length: 7000,
        slide: slides[0] ?? '',
        cues: [
          { kind: 'clip', at: 1000, clip, place: 0, playing: true },
          { kind: 'clip', at: 3000, clip, place: 2000, playing: false },
          { kind: 'show', at: 5000, slide: slides[1], step: 0 },
        ],
      },
    ])
    const file = await delivered(client, talk)
    expect(await decodesClean(file)).toBe(true)
    const colour = async (ms: number) => meanColour(await frameOf(file, Math.round((ms * 30) / 1000)), WIDTH, MIDDLE)
    const isRed = ([r, g]: readonly number[]): boolean => (r ?? 0) > 200 && (g ?? 255) < 60
    const isGreen = ([r, g]: readonly number[]): boolean => (g ?? 0) > 200 && (r ?? 255) < 60
    // It begins half a second into the film, so that turns green half a second later: at a frame, and not at the next.
    expect([await colour(0), await colour(900), await colour(1400), await colour(1467)].map(isRed)).toEqual([true, true, true, true])
    expect([await colour(1533), await colour(2500), await colour(4500)].map(isGreen)).toEqual([true, true, true])
    expect([await colour(5100)].map(isGreen)).toEqual([false])
    const levels = await Promise.all([300, 1500, 2500, 3300, 5500].map((from) => levelOf(file, from, 400)))
    expect(levels.map((level) => level > -40)).toEqual([false, true, true, false, false])
  })

  it('is seen by those who watch, and heard with the voice', async () => {
    const { key } = await shareTalk(client, talk)
    const shown = await screeningOf(product.url, key)
    const { film, sound } = await everythingOf(product.url, shown, join(folder, 'watched'))
    const [clip] = clipsOf(await view(talk), 0)
    const index = indexFilm(toFilm(JSON.parse(film) as ViewersFilm))
    expect([500, 2000, 4000].map((at) => sceneAt(index, at)?.clips.map((one) => [one.at, one.playing]))).toEqual([
      [[500, false]],
      [[1500, true]],
      [[2500, false]],
    ])
    const levels = await Promise.all([300, 1500, 2500, 3300].map((from) => levelOf(sound, from, 400)))
    expect(levels.map((level) => level > -40)).toEqual([false, true, true, false])
    const fetched = await fetch(`${product.url}${shown.media}/assets/${clip?.media.file ?? ''}`, { headers: { range: 'bytes=0-99' } })
    expect([fetched.status, fetched.headers.get('content-type')]).toEqual([206, 'video/mp4'])
  })
})

describe('films and sounds that are brought in', () => {
  it('are slides of their own among the slides, and begin by themselves', async () => {
    const { talk } = await knotsTalk(client, 'A film between')
    const now = await bring(talk, 'Last year.mp4', await filmFile(3, 'blue', 660), '?at=1')
    expect(now.slides.map(({ title }) => title)[1]).toBe('Last year')
    expect(clipsOf(now, 1)).toMatchObject([{ start: 'step', box: { x: 0, y: 0, w: 1, h: 1 }, to: 3000 }])
    expect(now.slides[1]?.framing?.off).toBe(true)
    // Held in Review it plays from its beginning, and counts as it is long.
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const film = now.slides[1]
    const edit = {
      kind: 'insert',
      slide: film?.id,
      version: film?.version,
      length: 3000,
      before: null,
      name: '5b3f7f64-1a0a-4a53-9a53-0e2f6d1c8a11',
    }
    await client.get('POST', `/talks/${talk}/programme`, {
      revision: programme.revision,
      author: '5b3f7f64-1a0a-4a53-9a53-0e2f6d1c8a12',
      edit,
    })
    const file = await delivered(client, talk)
    const [r, g, b] = meanColour(await frameOf(file, 45), WIDTH, { x: 0.4, y: 0.2, w: 0.2, h: 0.6 })
    expect(b > 200 && r < 60 && g < 60).toBe(true)
    expect(await levelOf(file, 1000, 500)).toBeGreaterThan(-30)
    expect(Number((await probe(file)).format.duration)).toBeCloseTo(3, 1)
  })

  it('come with an office deck, each where it stands, and are no recording', async () => {
    const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name: 'Clips of a deck', limit: null })
    const [film, sound] = await Promise.all([filmFile(2, 'red', 440), toneFile(1, 880)])
    const now = await bring(
      talk,
      'clips.pptx',
      await makeOfficeDeck([
        {
          put: (slide) => {
            slide.addMedia({ type: 'video', data: `video/mp4;base64,${film.toString('base64')}`, x: 3.33, y: 1.875, w: 6.67, h: 3.75 })
          },
        },
        {
          put: (slide) =>
            slide.addMedia({ type: 'audio', data: `audio/m4a;base64,${sound.toString('base64')}`, extn: 'm4a', x: 1, y: 1, w: 1, h: 1 }),
        },
      ]),
    )
    const [[seen], [heard]] = [clipsOf(now, 0), clipsOf(now, 1)]
    expect([seen?.box.x, seen?.box.y, seen?.box.w, seen?.box.h].map((share) => Math.round((share ?? 0) * 100) / 100)).toEqual([
      0.25, 0.25, 0.5, 0.5,
    ])
    expect(seen).toMatchObject({ start: 'click', media: { sound: true } })
    expect(heard?.media).toMatchObject({ picture: null, sound: true })
    expect(now.imports[0]?.reports[0]?.findings.filter(({ kind }) => kind !== 'font')).toEqual([])
    expect(now.takes).toEqual([])
  })

  it('move where they are moving pictures, on a slide and as slides; a still picture is none', async () => {
    const { talk, slides } = await knotsTalk(client, 'Moving pictures')
    for (const [name, codec] of [
      ['bird.gif', 'gif'],
      ['bird.webp', 'libwebp_anim'],
    ] as const) {
      const file = await movingPicture(name, codec)
      const onSlide = await bring(talk, name, file, `?onto=${slides[0] ?? ''}`)
      const clip = clipsOf(onSlide, 0).at(-1)
      expect(clip).toMatchObject({ name, media: { sound: false, picture: { size: { width: 320, height: 180 } } } })
      expect(Math.abs((clip?.media.length ?? 0) - 1000)).toBeLessThanOrEqual(100)
      const between = await bring(talk, name, file, '?at=1')
      expect(clipsOf(between, 1)).toMatchObject([{ start: 'step', box: { x: 0, y: 0, w: 1, h: 1 } }])
      const path = join(folder, `${name}.mp4`)
      await writeFile(path, await client.bytes(`/talks/${talk}/assets/${clip?.media.file ?? ''}`))
      const [first, last] = [await frameOf(path, 2), await frameOf(path, Math.round(((clip?.media.picture?.rate.num ?? 25) * 9) / 10))]
      expect([first, last].map((frame) => meanColour(frame, 320, MIDDLE).map((value) => value > 128))).toEqual([
        [true, false, false],
        [false, true, false],
      ])
    }
    const still = await bring(talk, 'still.webp', await movingPicture('still.webp', 'libwebp'), `?onto=${slides[0] ?? ''}`)
    expect(still.imports[0]?.sentence).toMatch(/still picture goes on a slide that is made here/)
  })

  it('that are none are refused in words, and the talk is as it was', async () => {
    const { talk, slides } = await knotsTalk(client, 'Bad films')
    const onto = `?onto=${slides[0] ?? ''}`
    const fake = Buffer.concat([Buffer.from('\0\0\0\x20ftypisom'), Buffer.alloc(4000, 7)])
    for (const [name, file, where, sentence] of [
      ['no-film.mp4', fake, onto, /no film or sound that can be read/],
      ['deck.md', Buffer.from('# A deck'), onto, /Only films, moving pictures and sounds/],
      ['tone.m4a', await toneFile(1, 440), '', /A sound belongs on a slide/],
    ] as const) {
      const now = await bring(talk, name, file, where)
      const failed = now.imports.find((one) => one.name === name)
      expect([name, failed?.state]).toEqual([name, 'failed'])
      expect(failed?.sentence).toMatch(sentence)
      expect(now.slides.map(({ id, clips }) => [id, clips ?? []])).toEqual(slides.map((id) => [id, []]))
    }
    const gone = await client.ask(
      'POST',
      `/talks/${talk}/imports?onto=5b3f7f64-1a0a-4a53-9a53-0e2f6d1c8a11`,
      fileForm('tone.m4a', await toneFile(1, 440)),
    )
    expect([gone.status, sentenceOf(gone.body)]).toEqual([404, expect.stringContaining('not in the deck any more')])
  })

  it('of others cannot be put on a slide, nor one that ends before it begins', async () => {
    const [mine, other] = [await knotsTalk(client, 'Mine'), await knotsTalk(client, 'Another')]
    const [clip] = clipsOf(await bring(other.talk, 'tone.m4a', await toneFile(1, 440), `?onto=${other.slides[0] ?? ''}`), 0)
    const put = async (clips: readonly unknown[]) => {
      const { revision } = await view(mine.talk)
      const edit = { kind: 'set', slides: [mine.slides[0]], fields: { clips } }
      return (await client.ask('POST', `/talks/${mine.talk}/deck`, { revision, edit })).status
    }
    expect(await put([clip])).toBe(404)
    expect(await put([{ ...clip, from: 900, to: 100 }])).toBe(400)
    expect(await put([{ ...clip, to: 5000 }])).toBe(400)
    expect(await put([clip, clip])).toBe(400)
    expect(clipsOf(await view(mine.talk), 0)).toEqual([])
  })
})
