import { randomUUID } from 'node:crypto'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PLAIN_FRAMING } from '@core/model'
import { visitsOf } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import type { FilmView, QuestionView, SharedFile, SharedLink, ShareView } from '@contracts'
import { run } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake } from '../harness/recording'
import { everythingOf, screeningOf, shareTalk } from '../harness/screening'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-screened-'))
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

let made: Promise<Buffer> | undefined
/** A recording that says one thing in each of four parts of four seconds: a tone and a colour of its own. */
const fourParts = (): Promise<Buffer> => (made ??= makeFourParts())
async function makeFourParts(): Promise<Buffer> {
  const [tones, colours] = [
    [400, 1000, 2500, 5000],
    ['red', 'lime', 'blue', 'yellow'],
  ]
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    ...tones.flatMap((tone) => ['-f', 'lavfi', '-i', `sine=frequency=${String(tone)}:duration=4,volume=8dB`]),
    ...colours.flatMap((colour) => ['-f', 'lavfi', '-i', `color=c=${colour}:s=640x360:r=30:d=4`]),
    '-filter_complex',
    '[0][1][2][3]concat=n=4:v=0:a=1[a];[4][5][6][7]concat=n=4:v=1:a=0[v]',
    '-map',
    '[v]',
    '-map',
    '[a]',
    ...['-c:v', 'libvpx', '-deadline', 'realtime', '-cpu-used', '8', '-b:v', '600k', '-c:a', 'libopus', '-f', 'webm', 'pipe:1'],
  ])
  return stdout
}

/** Highest level of one tone between some times of a file, in s, in dBFS. */
async function levelOfTone(file: string, tone: number, [from, to]: readonly [number, number]): Promise<number> {
  const narrow = `bandpass=f=${String(tone)}:width_type=q:w=12`
  const part = `atrim=${String(from)}:${String(to)}`
  const { stderr } = await run('ffmpeg', ['-hide_banner', '-i', file, '-af', `${narrow},${narrow},${part},volumedetect`, '-f', 'null', '-'])
  return Number(/max_volume: (-?[\d.]+) dB/.exec(stderr)?.[1] ?? -120)
}
/** Where a film of three parts of four seconds is heard between its joins, whose steps sound in every pitch. */
const BETWEEN = [
  [0.2, 3.8],
  [4.2, 7.8],
  [8.2, 11.8],
] as const

/** Every picture of a file as one colour. */
async function coloursOf(file: string): Promise<readonly (readonly number[])[]> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-vf', 'scale=1:1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'])
  return Array.from({ length: stdout.length / 3 }, (_, n) => [...stdout.subarray(n * 3, n * 3 + 3)])
}
const near = (colour: readonly number[], [r, g, b]: readonly [number, number, number]): boolean =>
  Math.max(Math.abs((colour[0] ?? 0) - r), Math.abs((colour[1] ?? 0) - g), Math.abs((colour[2] ?? 0) - b)) < 60
const [RED, LIME, BLUE, YELLOW, BLACK] = [
  [255, 0, 0],
  [0, 255, 0],
  [0, 0, 255],
  [255, 255, 0],
  [0, 0, 0],
] as const

const filmOf = (talk: string): Promise<FilmView> => client.get<FilmView>('GET', `/talks/${talk}/film`)
async function edit(talk: string, change: ProgrammeEdit): Promise<void> {
  const { revision } = (await filmOf(talk)).programme
  await client.get('POST', `/talks/${talk}/programme`, { revision, author: randomUUID(), edit: change })
}

const SLIP = 'cccccccc-0000-4000-8000-00000000000a'

/** A talk of four showings, four seconds each; the second slide is shown twice. */
async function recordedTalk(name: string): Promise<{ talk: string; slides: readonly string[] }> {
  const { talk, slides } = await knotsTalk(client, name)
  const show = (at: number, n: number) => ({ kind: 'show', at, slide: slides[n], step: 0 })
  const label = (id: string, n: number, text: string) => ({
    id,
    slide: slides[n],
    tool: 'label',
    text,
    colour: 'brick',
    width: 'fine',
    pressure: false,
    points: [{ dt: 0, x: 0.3, y: 0.3, p: 0.5 }],
  })
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await fourParts(),
      camera: true,
      length: 16_000,
      slide: slides[0] ?? '',
      cues: [
        show(4000, 1),
        { kind: 'ink', at: 5500, stroke: label(SLIP, 1, 'slip of the pen') },
        { kind: 'erase', at: 7500, stroke: SLIP },
        show(8000, 2),
        { kind: 'ink', at: 8500, stroke: label('cccccccc-0000-4000-8000-00000000000b', 2, 'kept words') },
        show(12_000, 1),
      ],
    },
  ])
  return { talk, slides }
}

describe('what viewers are sent', () => {
  it('holds what the programme keeps: no cut word, no hidden face, no cut ink, no private note', async () => {
    const { talk } = await recordedTalk('Kept and cut')
    const [first, second, third] = visitsOf((await filmOf(talk)).programme)
    if (first === undefined || second === undefined || third === undefined) throw new Error('no visits')
    await edit(talk, { kind: 'cut', parts: [{ from: second.start, to: second.start + second.length }] })
    const kept = visitsOf((await filmOf(talk)).programme)
    const off = { ...PLAIN_FRAMING, rect: { x: 0.7, y: 0.7, w: 0.2, h: 0.2 }, off: true }
    await edit(talk, { kind: 'framing', visits: [kept[1]?.id ?? third.id], framing: off })
    const { key } = await shareTalk(client, talk)
    const view = await screeningOf(product.url, key)
    expect(view).toMatchObject({ title: 'Kept and cut', presenter: 'Maren Holt', timing: 'recorded', length: 12_000, face: true })
    expect(view.visits.map(({ start, number }) => [start, number])).toEqual([
      [0, 1],
      [4000, 2],
      [8000, 3],
    ])
    const sent = await everythingOf(product.url, view, join(folder, 'kept'))
    const levels = async (tone: number) => await Promise.all(BETWEEN.map((part) => levelOfTone(sent.sound, tone, part)))
    for (const [n, tone] of [400, 2500, 5000].entries()) expect((await levels(tone))[n]).toBeGreaterThan(-30)
    expect(Math.max(...(await levels(1000)))).toBeLessThan(-45)
    const pictures = await coloursOf(sent.face ?? '')
    expect(pictures).toHaveLength(360)
    expect(pictures.filter((colour) => near(colour, LIME) || near(colour, BLUE))).toEqual([])
    expect([10, 200, 350].map((n) => [RED, BLACK, YELLOW].findIndex((one) => near(pictures[n] ?? [], one)))).toEqual([0, 1, 2])
    expect(sent.film).toContain('kept words')
    expect(sent.film).not.toContain('slip of the pen')
    for (const slide of (JSON.parse(sent.film) as FilmView).slides)
      expect([slide.notes, slide.viewerNotes, slide.description]).toEqual(['', '', ''])
  })

  it('is no more than that: neither recordings nor what was cut can be had by any address, also from another talk', async () => {
    const { talk, slides } = await recordedTalk('Closed ways')
    const { key } = await shareTalk(client, talk)
    const before = await screeningOf(product.url, key)
    const part = /[0-9a-f]{64}\.m4s/.exec(await (await fetch(`${product.url}${before.media}/face.m3u8`)).text())?.[0] ?? ''
    expect((await fetch(`${product.url}${before.media}/${part}`)).status).toBe(200)
    const [visit] = visitsOf((await filmOf(talk)).programme)
    await edit(talk, { kind: 'cut', parts: [{ from: 0, to: visit?.length ?? 0 }] })
    const after = await screeningOf(product.url, key)
    expect([after.version === before.version, after.visits.length]).toEqual([false, 3])
    // A page that was opened before goes on with what it began; the new pass opens nothing of it.
    expect((await fetch(`${product.url}${before.media}/${part}`)).status).toBe(200)
    expect((await fetch(`${product.url}${after.media}/${part}`)).status).toBe(404)
    const { stretches, slides: shown } = await filmOf(talk)
    const first = shown.find((slide) => slide.id === slides[0])?.steps[0]?.picture
    const other = await shareTalk(client, (await recordedTalk('Another')).talk)
    const another = await screeningOf(product.url, other.key)
    const forged = `${after.media.slice(0, -4)}AAAA`
    for (const path of [
      `${after.media}/assets/${first?.kind === 'page' ? first.screen : ''}`,
      `${before.media}/assets/${first?.kind === 'page' ? first.source : ''}`,
      `${another.media}/${part}`,
      `${forged}/film.json`,
      `${after.media}/${stretches[0]?.id ?? ''}`,
      `${after.media}/recording.webm`,
      `${after.media}/talk.mp4`,
      `${after.media}/..%2f..%2fkeys`,
      '/v/x/film.json',
    ])
      expect([path, (await fetch(`${product.url}${path}`)).status]).toEqual([path, 404])
  })

  it('are slides at their planned times while nothing is recorded, in silence', async () => {
    const { talk } = await knotsTalk(client, 'Not yet recorded')
    const { key } = await shareTalk(client, talk)
    const view = await screeningOf(product.url, key)
    expect([view.timing, view.voice, view.face, view.visits.length]).toEqual(['planned', false, false, 3])
    const { sound } = await everythingOf(product.url, view, join(folder, 'planned'))
    const { stdout } = await run('ffprobe', ['-v', 'error', '-show_entries', 'format=duration', '-of', 'csv=p=0', sound])
    expect(Math.abs(Number(stdout.toString()) * 1000 - view.length)).toBeLessThan(50)
  })
})

describe('a share', () => {
  const status = async (path: string): Promise<number> => (await fetch(`${product.url}${path}`)).status

  it('is closed until it is opened; once it has ended, its page and its media say nothing of what is there', async () => {
    const { talk } = await recordedTalk('Ends')
    const closed = await client.get<ShareView>('GET', `/talks/${talk}/share`)
    expect(closed.level).toBe('closed')
    const key = closed.address.split('/s/')[1] ?? ''
    expect(await status(`/api/screenings/${key}`)).toBe(404)
    await shareTalk(client, talk)
    const { media } = await screeningOf(product.url, key)
    expect(await status(`${media}/film.json`)).toBe(200)
    await shareTalk(client, talk, { level: 'closed' })
    await expect.poll(() => status(`${media}/film.json`)).toBe(404)
    const [ended, unknown] = await Promise.all(
      [key, 'A'.repeat(22)].map(async (one) => await (await fetch(`${product.url}/api/screenings/${one}`)).text()),
    )
    expect(ended).toBe(unknown)
  })

  it('gets another link, and the old one opens nothing; a deleted talk is gone with it', async () => {
    const { talk } = await recordedTalk('Renewed')
    const { key } = await shareTalk(client, talk)
    const { address } = await client.get<ShareView>('POST', `/talks/${talk}/share/link`)
    expect([await status(`/api/screenings/${key}`), await status(`/api/screenings/${address.split('/s/')[1] ?? ''}`)]).toEqual([404, 200])
    await client.get('DELETE', `/talks/${talk}`)
    expect(await status(`/api/screenings/${address.split('/s/')[1] ?? ''}`)).toBe(404)
  })

  it('lets a question through, tied to its slide, and an answer back to its asker, or to all', async () => {
    const { talk } = await recordedTalk('Asked')
    const { key } = await shareTalk(client, talk)
    const asked = async (words: string): Promise<QuestionView> => {
      const answer = await fetch(`${product.url}/api/screenings/${key}/questions`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ at: 9000, name: 'Ole', words }),
      })
      return (await answer.json()) as QuestionView
    }
    const seen = async (own: readonly string[]): Promise<readonly QuestionView[]> =>
      (await (await fetch(`${product.url}/api/screenings/${key}/questions?own=${own.join(',')}`)).json()) as QuestionView[]
    const [mine, other] = [await asked('Which way round?'), await asked('Does it hold wet?')]
    expect((await seen([])).length).toBe(0)
    expect((await seen([mine.id])).map(({ words, answer }) => [words, answer])).toEqual([['Which way round?', null]])
    await client.get('PUT', `/talks/${talk}/questions/${mine.id}`, { answer: 'Against the clock.', open: false })
    await client.get('PUT', `/talks/${talk}/questions/${other.id}`, { answer: 'Better than dry.', open: true })
    expect((await seen([])).map(({ words, answer }) => [words, answer])).toEqual([['Does it hold wet?', 'Better than dry.']])
    expect((await seen([mine.id])).map(({ answer }) => answer)).toEqual(['Against the clock.', 'Better than dry.'])
    // It goes where its slide goes.
    await edit(talk, { kind: 'cut', parts: [{ from: 0, to: 4000 }] })
    expect((await client.get<QuestionView[]>('GET', `/talks/${talk}/questions`)).map(({ at }) => at)).toEqual([5000, 5000])
    await shareTalk(client, talk, { questions: false })
    const refused = await fetch(`${product.url}/api/screenings/${key}/questions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ at: 0, name: '', words: 'And now?' }),
    })
    expect([refused.status, sentenceOf(await refused.json())]).toEqual([403, 'Questions are not taken on this page.'])
  })

  it('has files and links with it: as they came, at the moments that they belong to, and for nobody once they are taken away', async () => {
    const { talk } = await recordedTalk('With files')
    const other = (await recordedTalk('Without')).talk
    const { key } = await shareTalk(client, talk)
    const sheet = Buffer.from('<script>alert(1)</script>')
    const files = await client.get<SharedFile[]>('POST', `/talks/${talk}/share/files`, fileForm('../work sheet.html', sheet))
    expect(files.map(({ name, bytes }) => [name, bytes])).toEqual([['work sheet.html', sheet.length]])
    const [{ id } = { id: '' }] = files
    const links: readonly SharedLink[] = [
      { address: 'https://knots.example/bowline', title: 'The bowline', during: { from: 5000, to: 9000 } },
      { address: 'http://knots.example/all', title: '', during: null },
    ]
    expect(await client.get('PUT', `/talks/${talk}/share/links`, { links })).toEqual(links)
    const refused = async (...wrong: readonly unknown[]) => (await client.ask('PUT', `/talks/${talk}/share/links`, { links: wrong })).status
    expect(await refused({ address: 'javascript:alert(1)', title: '', during: null })).toBe(400)
    expect(await refused({ ...links[0], during: { from: 9000, to: 5000 } })).toBe(400)
    const view = await screeningOf(product.url, key)
    expect([view.files, view.links]).toEqual([files, links])
    const file = `${view.media}/file-${id}`
    const sent = await fetch(`${product.url}${file}`)
    expect(Buffer.from(await sent.arrayBuffer()).equals(sheet)).toBe(true)
    // It is saved under its name, and no page of ours, whatever it holds.
    expect(sent.headers.get('content-type')).toBe('application/octet-stream')
    expect(sent.headers.get('content-disposition')).toBe("attachment; filename*=UTF-8''work%20sheet.html")
    const another = await screeningOf(product.url, (await shareTalk(client, other)).key)
    expect(await status(`${another.media}/file-${id}`)).toBe(404)
    expect((await client.ask('DELETE', `/talks/${other}/share/files/${id}`)).status).toBe(404)
    const during = async () => (await screeningOf(product.url, key)).links[0]?.during
    // The slide before the link's is cut, then what comes before it on its own, then what it went with, then all that it stood beside.
    await edit(talk, { kind: 'cut', parts: [{ from: 0, to: 4000 }] })
    expect(await during()).toEqual({ from: 1000, to: 5000 })
    await edit(talk, { kind: 'cut', parts: [{ from: 200, to: 700 }] })
    expect(await during()).toEqual({ from: 500, to: 4500 })
    await edit(talk, { kind: 'cut', parts: [{ from: 3500, to: 7500 }] })
    expect(await during()).toEqual({ from: 500, to: 3500 })
    await edit(talk, { kind: 'cut', parts: [{ from: 0, to: 3500 }] })
    expect(await during()).toBeNull()
    expect(await client.get('DELETE', `/talks/${talk}/share/files/${id}`)).toEqual([])
    expect(await status(file)).toBe(404)
    expect((await screeningOf(product.url, key)).files).toEqual([])
  })

  it('is no place for guessing', async () => {
    const tried = async (): Promise<number> => await status(`/api/screenings/${randomUUID().replaceAll('-', '').slice(0, 22)}`)
    let last = 404
    for (let n = 0; n < 70 && last === 404; n += 1) last = await tried()
    expect(last).toBe(429)
  })
})
