import { readFile } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS, fileForm, makePdf } from '../harness/decks'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { movingFile } from '../harness/office-decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { until } from '../harness/run-product'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

/** Brings a film into a talk. @returns the talk once it was read, or refused */
async function filmed(talk: string, name: string, film: Uint8Array): Promise<TalkView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/film`, fileForm(name, film))
  return await until('the film', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return ['done', 'failed'].includes(now.imports.find((one) => one.id === id)?.state ?? '') && now
  })
}
const filmOf = (talk: string): Promise<FilmView> =>
  until('the take', async () => {
    const now = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    return now.programme.pieces.length > 0 && now
  })
const newTalk = async (name: string): Promise<string> => (await client.get<{ id: string }>('POST', '/talks', { name, limit: null })).id

/** A silent film of colours one after the other, each for so many seconds. @param size as ffmpeg writes it */
const colours = (parts: readonly (readonly [string, number])[], size: string): Promise<Buffer> => {
  const ends = parts.map((_, n) => parts.slice(0, n + 1).reduce((sum, [, seconds]) => sum + seconds, 0))
  const during = (n: number): string => `enable='between(t,${String(ends[n - 1] ?? 0)},${String(ends[n] ?? 0)})'`
  const boxes = parts.map(([colour], n) => `drawbox=t=fill:color=${colour}:${during(n)}`)
  const marks = parts.map((_, n) => `drawbox=x=${String(20 + n * 40)}:y=40:w=120:h=60:t=fill:color=black:${during(n)}`)
  return movingFile(`color=c=white:s=${size}:r=25:d=${String(ends.at(-1) ?? 0)},${[...boxes, ...marks].join(',')}`)
}

describe('a finished film with its deck', () => {
  it('becomes a take whose visits lie within 100 ms, that looks as filmed until a slide is said again', async () => {
    const { talk, slides } = await knotsTalk(client, 'Knots on film')
    const [one = '', two = '', three = ''] = slides
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    const edit = { kind: 'set', slides: [three], fields: { transition: 'fade' } }
    await client.get('POST', `/talks/${talk}/deck`, { revision: view.revision, edit })
    const cues = [
      { kind: 'show', at: 2200, slide: two, step: 0 },
      { kind: 'show', at: 3700, slide: two, step: 1 },
      { kind: 'show', at: 5100, slide: three, step: 0 },
      { kind: 'show', at: 7400, slide: one, step: 0 },
    ]
    const media = await facedRecording(9, 'orange')
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 9000, slide: one, camera: true, cues }])
    const first = await delivered(client, talk, { lines: 720 })
    const made = await readFile(first)

    const again = await newTalk('From the film')
    await client.get('POST', `/talks/${again}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
    const back = await filmed(again, 'knots.mp4', made)
    expect(back.imports.map(({ state, sentence }) => [state, sentence])).toEqual([
      ['done', null],
      ['done', null],
    ])
    expect(back.slides).toHaveLength(3)
    const film = await filmOf(again)
    const visits = visitsOf(film.programme)
    expect(visits.map(({ slide }) => back.slides.findIndex(({ id }) => id === slide))).toEqual([0, 1, 2, 0])
    for (const [n, at] of [0, 2200, 5100, 7400].entries()) expect(Math.abs((visits[n]?.start ?? 0) - at)).toBeLessThan(100)
    const step = film.stretches[0]?.cues.find((cue) => cue.kind === 'show' && cue.step === 1)
    expect(Math.abs((step?.at ?? 0) - 3700)).toBeLessThan(100)

    // Its file looks and sounds as the film did: also the face, which stands in it.
    const file = await delivered(client, again, { lines: 720 })
    const corner = { x: 0.8, y: 0.1, w: 0.1, h: 0.1 }
    for (const number of [30, 90, 200]) {
      const [was, is] = [await frameOf(first, number), await frameOf(file, number)]
      expect(colourGap(meanColour(is, 1280, corner), meanColour(was, 1280, corner))).toBeLessThan(12)
    }
    expect(await levelOf(file, 1000, 2000, 440)).toBeGreaterThan(-40)

    // What is said again takes the place of the film's picture as well: the slide alone, and the new face.
    const second = visits[1]
    const anew = { media: await facedRecording(2, 'green'), length: 2000, slide: second?.slide ?? '', camera: true }
    await sendTake(client, again, 'retake', { kind: 'retake', visit: second!.id }, [anew])
    const mended = visitsOf((await client.get<FilmView>('GET', `/talks/${again}/film`)).programme)
    expect(Math.round(mended[1]?.length ?? 0)).toBe(2000)
    const retaken = await frameOf(await delivered(client, again, { lines: 720 }), Math.round((mended[1]!.start + 1000) * 0.03))
    expect(colourGap(meanColour(retaken, 1280, { x: 0.3, y: 0.7, w: 0.2, h: 0.1 }), [190, 235, 195])).toBeLessThan(30)
  })
})

describe('a recorded screen without a deck', () => {
  it('becomes slides that are stills of it, and visits within 100 ms; one that is shown again is the same slide', async () => {
    const talk = await newTalk('A screen')
    const film = await colours(
      [
        ['0xD8E8F0', 3],
        ['0xF0E0C8', 2.4],
        ['0xD8E8F0', 2],
        ['0x203040', 1],
        ['0xC8F0D0', 2.6],
      ],
      '640x360',
    )
    const view = await filmed(talk, 'screen.mp4', film)
    expect(view.imports[0]).toMatchObject({ state: 'done', sentence: null })
    const visits = visitsOf((await filmOf(talk)).programme)
    for (const [n, at] of [0, 3000, 5400, 7400, 8400].entries()) expect(Math.abs((visits[n]?.start ?? 0) - at)).toBeLessThan(100)
    expect(visits).toHaveLength(5)
    expect(view.slides[0]?.title).toBe('In the film at 0:00')
  })

  it('in portrait, with cuts of a second, is taken as it is', async () => {
    const talk = await newTalk('Upright')
    const film = await colours(
      Array.from({ length: 8 }, (_, n) => [['0xE08080', '0x80E080', '0x8080E0', '0xE0E080'][n % 4] ?? 'white', 1] as const),
      '360x640',
    )
    const view = await filmed(talk, 'upright.mp4', film)
    expect(view.imports[0]).toMatchObject({ state: 'done' })
    expect(view.shape.height).toBeGreaterThan(view.shape.width)
    const visits = visitsOf((await filmOf(talk)).programme)
    expect(visits).toHaveLength(8)
    for (const [n, { start }] of visits.entries()) expect(Math.abs(start - n * 1000)).toBeLessThan(100)
  })
})

describe('what is no film of slides', () => {
  it('is refused with a sentence, and leaves the talk as it was', async () => {
    const talk = await newTalk('No slides')
    const moving = await filmed(talk, 'moving.mp4', await movingFile('mandelbrot=s=320x180:r=25,trim=duration=8'))
    expect(moving.imports[0]?.sentence).toMatch(/No slides can be told in this film/)
    const broken = await filmed(talk, 'broken.mp4', Buffer.from('no film at all'))
    expect(broken.imports[0]?.state).toBe('failed')
    expect(broken.imports[0]?.sentence).toMatch(/The talk is as it was\./)
    expect(broken.slides).toEqual([])
    const empty = await client.ask('POST', `/talks/${talk}/film`, fileForm('empty.mp4', new Uint8Array()))
    expect([empty.status, sentenceOf(empty.body)]).toEqual([422, expect.stringContaining('is empty')])
  })
})
