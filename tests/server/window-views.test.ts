import { randomUUID } from 'node:crypto'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Cue, StillTimes } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { toFilm } from '@contracts'
import type { FilmView, TalkView } from '@contracts'
import { run } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { frameOf, meanColour } from '../harness/film-file'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf } from '../harness/recording'
import { delivered, knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-window-'))
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true, force: true })
})

const MIDDLE = { x: 0.45, y: 0.45, w: 0.1, h: 0.1 }
const CORNER = { x: 0.02, y: 0.05, w: 0.05, h: 0.05 }
const FPS = 30

async function madeBy(name: string, ...args: readonly string[]): Promise<Buffer> {
  const path = join(folder, name)
  await run('ffmpeg', ['-v', 'error', ...args, '-y', path])
  return await readFile(path)
}

/** A window as a browser records it: red for two seconds, then green, and of another size for the last of four. */
async function recordedWindow(): Promise<Buffer> {
  const part = (colour: string, size: string, length: number): readonly string[] => [
    ...['-f', 'lavfi', '-i', `color=c=${colour}:s=${size}:r=15:d=${String(length)}`, '-c:v', 'libvpx', '-auto-alt-ref', '0'],
  ]
  await madeBy('a.webm', ...part('red', '640x360', 2))
  await madeBy('b.webm', ...part('lime', '640x360', 1))
  await madeBy('c.webm', ...part('lime', '320x360', 1))
  const list = join(folder, 'parts.txt')
  await writeFile(list, ['a', 'b', 'c'].map((name) => `file '${name}.webm'`).join('\n'))
  return await madeBy('window.webm', '-f', 'concat', '-safe', '0', '-i', list, '-c', 'copy')
}

const stillOf = (colour: string): Promise<Buffer> =>
  madeBy(`${colour}.png`, '-f', 'lavfi', '-i', `color=c=${colour}:s=1280x720`, '-frames:v', '1')

interface SentWindow {
  readonly recording: Buffer
  readonly stills?: readonly { readonly times: StillTimes; readonly picture: Buffer }[]
  /** When it came, and when its recording began, in ms of the stretch. */
  readonly at: number
  readonly began: number
  readonly length: number
  /** Its page is gone before anything was closed. */
  readonly brokenOff?: boolean
}

/** Opens a take without a voice on a slide. */
async function openedStretch(talk: string, slide: string): Promise<{ readonly take: string; readonly stretch: string }> {
  const [take, stretch] = [randomUUID(), randomUUID()]
  await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  const opening = { slide, step: 0, blank: false, inset: true, ink: [] }
  await client.get('PUT', `/stretches/${stretch}`, { take, number: 0, camera: false, voice: false, mime: 'audio/webm', opening })
  return { take, stretch }
}

const windowStretch = (take: string, of: string, slide: string, { at, began }: Pick<SentWindow, 'at' | 'began'>) => ({
  ...{ take, number: 1, camera: true, voice: false, mime: 'video/webm;codecs=vp8,opus' },
  opening: { slide, step: 0, blank: false, inset: false, ink: [] },
  window: { of, clip: randomUUID(), slide, name: 'Tide tables', at, began },
})

/** A take on its first slide for a second, then the second slide as a window, and the third. */
async function takeWithWindow(talk: string, slides: readonly string[], sent: SentWindow): Promise<{ readonly take: string }> {
  const [first = '', second = '', third = ''] = slides
  const { take, stretch } = await openedStretch(talk, first)
  const cues: readonly Cue[] = [
    { kind: 'show', at: sent.at, slide: asId<'slide'>(second), step: 0 },
    { kind: 'show', at: sent.at + 5000, slide: asId<'slide'>(third), step: 0 },
  ]
  await client.get('PUT', `/stretches/${stretch}/cues`, { first: 0, cues })
  const window = randomUUID()
  await client.get('PUT', `/stretches/${window}`, windowStretch(take, stretch, second, sent))
  const { recording, stills = [] } = sent
  await client.ask('PUT', `/stretches/${window}/chunks/0`, new Uint8Array(recording), {
    'x-aisle-chunks': `${String(recording.length)}:${digestOf(recording)}`,
    'content-type': 'application/octet-stream',
  })
  for (const [n, { times, picture }] of stills.entries()) {
    const path = `/stretches/${window}/stills/${String(n)}?from=${String(times.from)}&until=${String(times.until)}`
    const kept = await client.ask('PUT', path, new Uint8Array(picture), { 'content-type': 'application/octet-stream' })
    expect(kept.status).toBe(200)
  }
  if (sent.brokenOff === true) await client.get('POST', `/takes/${take}/recover`, {})
  else {
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 0, cues: cues.length, length: 8000 })
    await client.get('POST', `/stretches/${window}/close`, { chunks: 1, cues: 0, length: sent.length })
    await client.get('POST', `/takes/${take}/finish`)
  }
  await until('the take', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return now.takes.find((one) => one.id === take)?.state === 'closed'
  })
  return { take }
}

describe('a window that was shown', () => {
  it('is in the talk when and as long as it was shown, whatever its size, and sharp where it rested', async () => {
    const { talk, slides } = await knotsTalk(client, 'With a window')
    const stills = [{ times: { from: 2400, until: 3600 }, picture: await stillOf('blue') }]
    await takeWithWindow(talk, slides, { recording: await recordedWindow(), stills, at: 1000, began: 1200, length: 4000 })

    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    const [clip] = view.slides[1]?.clips ?? []
    // As large as it was seen at rest, not as it was recorded.
    expect(clip).toMatchObject({
      name: 'Tide tables',
      captured: true,
      to: 4200,
      media: { picture: { size: { width: 1280, height: 720 } } },
    })
    expect(view.takes[0]?.length).toBe(8000)
    const index = indexFilm(toFilm(await client.get<FilmView>('GET', `/talks/${talk}/film`)))
    const playing = (at: number) => sceneAt(index, at)?.clips.map((one) => one.playing)
    // What stands still is halted, and costs no more than a slide.
    expect([500, 1100, 3300, 4300, 4900, 7000].map(playing)).toEqual([[], [true], [true], [false], [true], []])

    const file = await delivered(client, talk)
    const colourAt = async (ms: number, part = MIDDLE) => meanColour(await frameOf(file, Math.round((ms / 1000) * FPS)), 854, part)
    const [before, red, green, blue, narrow, side] = await Promise.all([
      ...[500, 2000, 3500, 4300, 5100].map((at) => colourAt(at)),
      colourAt(5100, CORNER),
    ])
    expect(before?.some((value) => value > 60)).toBe(true)
    expect(red?.map((value) => value > 128)).toEqual([true, false, false])
    expect(green?.map((value) => value > 128)).toEqual([false, true, false])
    expect(blue?.map((value) => value > 128)).toEqual([false, false, true])
    // It was made narrower while it was shown: black beside it.
    expect(narrow?.map((value) => value > 128)).toEqual([false, true, false])
    expect(side?.every((value) => value < 40)).toBe(true)
  })

  it('is there as far as it came when its page was gone', async () => {
    const { talk, slides } = await knotsTalk(client, 'Broken off')
    await takeWithWindow(talk, slides, { recording: await recordedWindow(), at: 1000, began: 1000, length: 0, brokenOff: true })
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    // The stretch goes on until the last thing that happened in it.
    expect(view.slides[1]?.clips).toMatchObject([{ captured: true, to: 5000 }])
    const index = indexFilm(toFilm(await client.get<FilmView>('GET', `/talks/${talk}/film`)))
    expect(sceneAt(index, 3000)?.clips.map(({ at }) => at)).toEqual([2000])
  })

  it('that cannot be read costs the take nothing else', async () => {
    const { talk, slides } = await knotsTalk(client, 'A broken window')
    await takeWithWindow(talk, slides, { recording: Buffer.from('no recording at all'), at: 500, began: 500, length: 4000 })
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    expect(view.slides[1]?.clips ?? []).toEqual([])
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    expect(programme.pieces.map(({ slide }) => slide)).toEqual(slides.slice(0, 3))
  })

  it('belongs to a stretch of its own take, on a slide of its own talk, and takes pictures alone', async () => {
    const [one, two] = [await knotsTalk(client, 'Mine'), await knotsTalk(client, 'Another')]
    const [mine, other] = [await openedStretch(one.talk, one.slides[0] ?? ''), await openedStretch(two.talk, two.slides[0] ?? '')]
    const times = { at: 0, began: 0 }
    const put = (body: unknown) => client.ask('PUT', `/stretches/${randomUUID()}`, body)
    expect((await put(windowStretch(mine.take, other.stretch, one.slides[0] ?? '', times))).status).toBe(404)
    expect((await put(windowStretch(mine.take, mine.stretch, two.slides[0] ?? '', times))).status).toBe(404)
    const still = (stretch: string, bytes: Uint8Array) =>
      client.ask('PUT', `/stretches/${stretch}/stills/0?from=0&until=900`, bytes, { 'content-type': 'application/octet-stream' })
    expect(sentenceOf((await still(mine.stretch, new Uint8Array(await stillOf('gray')))).body)).toMatch(/Nothing was shown of a window/)
    const window = randomUUID()
    await client.get('PUT', `/stretches/${window}`, windowStretch(mine.take, mine.stretch, one.slides[0] ?? '', times))
    expect(sentenceOf((await still(window, new Uint8Array([1, 2, 3, 4]))).body)).toMatch(/no picture of a window/)
  })
})
