import { randomUUID } from 'node:crypto'
import { mkdtemp, readFile, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { XMLParser } from 'fast-xml-parser'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ZipFile } from 'yazl'
import type { TalkArchive } from '@core/archive'
import { programmeLength, visitsOf } from '@core/programme'
import type { AccountArchive, FilmView, TalkCard, TalkExportView, TalkView } from '@contracts'
import { probe } from '@render/probe'
import { run } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { exported, unzippedInto } from '../harness/exports'
import { colourGap, frameOf, meanColour } from '../harness/film-file'
import { faultsOfTimeline, mediaOf } from '../harness/open-timeline'
import type { OtioTimeline } from '../harness/open-timeline'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording, turningFace } from '../harness/recording'
import { until } from '../harness/run-product'
import { broughtInto, delivered, heardTalk, knotsTalk } from '../harness/talks'
import { unzipped } from '../harness/unzipped'

interface InkFile {
  readonly ink: { readonly traceGroup: { readonly trace: { readonly '#text': string; readonly '@_timeOffset': string } } }
}

/** A stroke that takes 400 ms. */
const WAVE = {
  id: '6d0b8f3a-52f4-4c57-9a5e-0d8f6b1f7a01',
  colour: 'brick',
  width: 'broad',
  pressure: false,
  points: [
    { dt: 0, x: 0.2, y: 0.3, p: 0.5 },
    { dt: 400, x: 0.6, y: 0.5, p: 0.5 },
  ],
}

let product: Product
let client: Client
let folder: string
let talk: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-along-'))
  talk = await heardTalk(client, 'Knots, round & firm')
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

describe('a folder without internet', () => {
  it('holds the film, the page and all that goes with them, and says when the talk was changed since', async () => {
    await client.get('POST', `/talks/${talk}/share/files`, fileForm('work sheet.txt', Buffer.from('Tie three of them.')))
    const { view, bytes } = await exported(client, talk, { kind: 'bundle', lines: 480 })
    expect(view).toMatchObject({ file: 'aisle-knots-round-firm-without-internet.zip', bytes: bytes.length, current: true, share: 1 })
    const top = await unzippedInto(folder, bytes)
    const film = await probe(join(top, 'film.mp4'))
    expect(film.streams.map(({ codec_name }) => codec_name)).toEqual(expect.arrayContaining(['h264', 'aac', 'mov_text']))
    expect(film.streams[0]?.height).toBe(480)
    expect(Math.abs(Number(film.format.duration) * 1000 - (view.length ?? 0))).toBeLessThan(60)
    const page = await readFile(join(top, 'watch.html'), 'utf8')
    expect(page).toContain('Knots, round &amp; firm')
    expect(page).toMatch(/Turn the rope three times around the post/)
    expect(await readFile(join(top, 'files/work sheet.txt'), 'utf8')).toBe('Tie three of them.')
    expect(await readFile(join(top, 'captions.vtt'), 'utf8')).toMatch(/^WEBVTT/)
    expect(await readFile(join(top, 'transcript.txt'), 'utf8')).toContain('Skerrow harbour')
    expect((await stat(join(top, 'slides.pdf'))).size).toBeGreaterThan(1000)
    // What was written for the presenter alone goes nowhere.
    const { revision, slides } = await client.get<TalkView>('GET', `/talks/${talk}`)
    const fields = { notes: 'Do not forget the blue rope.' }
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slides[1]?.id], fields } })
    const [now] = await client.get<TalkExportView[]>('GET', `/talks/${talk}/exports`)
    expect(now?.current).toBe(false)
    const again = await unzipped((await exported(client, talk, { kind: 'small-bundle' })).bytes)
    for (const content of again.values()) expect(content.includes('blue rope')).toBe(false)
  })

  it('is small in its small form: pictures of every step, and the voice as Opus of one channel', async () => {
    const { bytes } = await exported(client, talk, { kind: 'small-bundle' })
    const files = await unzipped(bytes)
    const names = [...files.keys()].map((name) => name.split('/').slice(1).join('/'))
    expect(names).toEqual(expect.arrayContaining(['watch.html', 'voice.webm', 'pictures/p1.jpg']))
    expect(names.some((name) => name.endsWith('.mp4'))).toBe(false)
    const unpacked = [...files.values()].reduce((sum, content) => sum + content.length, 0)
    expect(unpacked).toBeLessThan(4_000_000)
    const top = await unzippedInto(folder, bytes)
    const voice = await probe(join(top, 'voice.webm'))
    expect(voice.streams.map(({ codec_name }) => codec_name)).toEqual(['opus'])
  })

  it('can be made of what was not recorded yet, of nothing it cannot, and is nobody else’s', async () => {
    const { talk: planned } = await knotsTalk(client, 'Not recorded')
    const files = await unzipped((await exported(client, planned, { kind: 'small-bundle' })).bytes)
    expect([...files.keys()].some((name) => name.endsWith('voice.webm'))).toBe(false)
    const { id: empty } = await client.get<{ id: string }>('POST', '/talks', { name: 'Empty', limit: null })
    const refused = await client.ask('POST', `/talks/${empty}/exports`, { kind: 'bundle' })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([409, expect.stringContaining('no slides yet')])
    const wrong = await client.ask('POST', `/talks/${planned}/exports`, { kind: 'everything' })
    expect(wrong.status).toBe(400)
    expect((await client.ask('GET', `/talks/${planned}/exports/bundle/file`)).status).toBe(404)
    await client.get('DELETE', `/talks/${planned}/exports/small-bundle`)
    expect((await client.ask('GET', `/talks/${planned}/exports/small-bundle/file`)).status).toBe(404)
  })
})

/** Digests of all decoded pictures and samples of a file. */
async function decodedOf(file: string): Promise<string> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    file,
    '-map',
    '0:v',
    '-map',
    '0:a',
    '-f',
    'streamhash',
    '-hash',
    'sha256',
    'pipe:1',
  ])
  return stdout.toString()
}

/** Brings an archive in. @returns the talk that it became, once it is read or refused */
async function restored(to: Client, archive: Uint8Array): Promise<TalkView> {
  const { id } = await to.get<{ id: string }>('POST', '/talks/archive', fileForm('brought.zip', archive))
  return await until('the archive', async () => {
    const now = await to.get<TalkView>('GET', `/talks/${id}`)
    return ['done', 'failed'].includes(now.imports[0]?.state ?? '') && now
  })
}

/** The same archive with files changed, left out (null) or added. */
async function changedArchive(archive: Uint8Array, changes: Readonly<Record<string, string | Buffer | null>>): Promise<Buffer> {
  const zip = new ZipFile()
  const files = new Map(await unzipped(archive))
  const top = [...files.keys()][0]?.split('/')[0] ?? ''
  for (const [name, content] of Object.entries(changes)) {
    files.delete(`${top}/${name}`)
    if (content !== null) files.set(`${top}/${name}`, Buffer.from(content))
  }
  for (const [name, content] of files) zip.addBuffer(content, name)
  zip.end()
  return await buffer(zip.outputStream)
}

describe('an archive', () => {
  let edited: string
  let archive: Uint8Array
  beforeAll(async () => {
    const { talk: made, slides } = await knotsTalk(client, 'Knots to keep')
    edited = made
    const [one = '', two = '', three = ''] = slides
    const cues = [
      { kind: 'ink', at: 500, stroke: { ...WAVE, slide: one } },
      { kind: 'show', at: 2500, slide: two, step: 0 },
      { kind: 'inset', at: 3000, on: false },
      { kind: 'show', at: 4200, slide: three, step: 0 },
    ]
    const first = { media: await turningFace(6, 3), length: 6000, slide: one, camera: true, cues }
    const second = { media: await toneRecording(2), length: 2000, slide: three }
    await sendTake(client, edited, 'full', { kind: 'replaceAll' }, [first, second])
    const { programme } = await client.get<FilmView>('GET', `/talks/${edited}/film`)
    const [a, b] = visitsOf(programme)
    const edits = [
      { kind: 'cut', parts: [{ from: 1000, to: 1600 }] },
      { kind: 'tempo', visits: [b?.id], rate: { num: 5, den: 4 } },
      { kind: 'linger', visit: a?.id, length: 700, step: 0 },
    ]
    await client.get('POST', `/talks/${edited}/programme`, {
      revision: programme.revision,
      author: randomUUID(),
      edit: { kind: 'all', edits },
    })
    archive = (await exported(client, edited, { kind: 'archive' })).bytes
  })

  it('comes back whole on another server: the film that is made there has the same pictures and samples', async () => {
    const other = await startProduct()
    try {
      const there = new Client(other.url)
      const back = await restored(there, archive)
      expect(back.imports[0]).toMatchObject({ state: 'done', sentence: null })
      expect(back.name).toBe('Knots to keep')
      const [mine, theirs] = [await delivered(client, edited), await delivered(there, back.id)]
      expect(await decodedOf(theirs)).toBe(await decodedOf(mine))
      // And again on the same server, beside the one that it was made of.
      const beside = await restored(there, archive)
      expect(await decodedOf(await delivered(there, beside.id))).toBe(await decodedOf(mine))
      expect(beside.slides.map(({ id }) => id)).not.toEqual(back.slides.map(({ id }) => id))
    } finally {
      await other.stop()
    }
  })

  it('opens in tools that edit films: an edit list whose files are there and as long as it says, and ink', async () => {
    const top = await unzippedInto(await mkdtemp(join(folder, 'edit-')), archive)
    const list = JSON.parse(await readFile(join(top, 'edit/talk.otio'), 'utf8')) as OtioTimeline
    expect(faultsOfTimeline(list)).toEqual([])
    const { programme } = await client.get<FilmView>('GET', `/talks/${edited}/film`)
    const length = programmeLength(programme)
    for (const track of list.tracks.children) {
      const seconds = track.children.reduce((sum, { source_range: { duration } }) => sum + duration.value / duration.rate, 0)
      expect(Math.abs(seconds * 1000 - length)).toBeLessThan(20)
    }
    const used = new Set(list.tracks.children.flatMap(({ children }) => children.flatMap((one) => mediaOf(one)?.target_url ?? [])))
    expect([...used].sort()).toEqual(['held-1.jpg', 'take-1-face.mp4', 'take-1-slides.mp4', 'take-1-voice.wav'])
    for (const file of [...used].filter((name) => name !== 'held-1.jpg')) {
      const { format } = await probe(join(top, 'edit', file))
      expect(Math.abs(Number(format.duration) - 8)).toBeLessThan(0.05)
    }
    // Its second half is blue: the face film is in the time of the take.
    expect(
      colourGap(meanColour(await frameOf(join(top, 'edit/take-1-face.mp4'), 30), 1280, { x: 0.4, y: 0.4, w: 0.2, h: 0.2 }), [255, 0, 0]),
    ).toBeLessThan(60)
    expect(
      colourGap(meanColour(await frameOf(join(top, 'edit/take-1-face.mp4'), 120), 1280, { x: 0.4, y: 0.4, w: 0.2, h: 0.2 }), [0, 0, 255]),
    ).toBeLessThan(60)
    const ink = new XMLParser({ ignoreAttributes: false }).parse(await readFile(join(top, 'ink/take-1-part-1.inkml'), 'utf8')) as InkFile
    expect(ink.ink.traceGroup.trace['@_timeOffset']).toBe('500')
    expect(ink.ink.traceGroup.trace['#text']).toBe('3556 3000 0.5 0, 10667 5000 0.5 400')
  })

  it('that was changed, cut short, made by a newer version, or leads outside, is refused and leaves nothing', async () => {
    const text = JSON.parse((await unzipped(archive)).get('aisle-knots-to-keep/talk.json')?.toString() ?? '') as TalkArchive
    const json = (changes: object): string => JSON.stringify({ ...text, ...changes })
    const raw = text.takes[0]?.stretches[0]?.folder ?? ''
    const stranger = randomUUID()
    const cases: readonly (readonly [Buffer | Uint8Array, RegExp])[] = [
      [archive.slice(0, archive.length / 2), /cut short/],
      [Buffer.from('no zip'), /damaged/],
      [await changedArchive(archive, { 'talk.json': null }), /no archive of a talk/],
      [await changedArchive(archive, { 'talk.json': json({ version: 99 }) }), /newer version \(99/],
      [await changedArchive(archive, { 'talk.json': json({ slides: [{}] }) }), /was changed and cannot be read/],
      [await changedArchive(archive, { [`${raw}/raw.webm`]: 'another' }), /raw\.webm.*missing or was changed/],
      [await changedArchive(archive, { [`${raw}/raw.webm`]: null }), /raw\.webm.*missing or was changed/],
      [
        await changedArchive(archive, {
          'talk.json': JSON.stringify(text)
            .replaceAll(text.slides[0]?.id ?? '', stranger)
            .replace(stranger, text.slides[0]?.id ?? ''),
        }),
        /lacks .* that it names/,
      ],
      [
        await changedArchive(archive, {
          'talk.json': json({
            takes: text.takes.map((take) => ({ ...take, stretches: take.stretches.map((one) => ({ ...one, folder: '../../../etc' })) })),
          }),
        }),
        /was changed and cannot be read/,
      ],
    ]
    for (const [bytes, sentence] of cases) {
      const view = await restored(client, bytes)
      expect([view.imports[0]?.state, view.imports[0]?.sentence]).toEqual(['failed', expect.stringMatching(sentence)])
      expect(view.slides).toEqual([])
      expect(view.takes).toEqual([])
    }
    const asDeck = await broughtInto(client, edited, 'archive.zip', archive)
    expect(asDeck.imports[0]?.sentence).toMatch(/archive of a whole talk/)
  })

  it('holds the files of the ledger only where they are asked for', async () => {
    await delivered(client, edited)
    const { length } = await client.get<readonly unknown[]>('GET', `/talks/${edited}/deliveries`)
    const names = async (deliveries: boolean): Promise<readonly string[]> =>
      [...(await unzipped((await exported(client, edited, { kind: 'archive', deliveries })).bytes)).keys()].filter((name) =>
        /\/files\//.test(name),
      )
    expect(await names(false)).toEqual([])
    expect(await names(true)).toHaveLength(length)
  })
})

describe('a PDF of what was shown', () => {
  it('has every showing with its picture, times, words, notes and links, in an order in which it can be read aloud', async () => {
    const { talk: linked } = await knotsTalk(client, 'Knots with links')
    const { revision } = await client.get<TalkView>('GET', `/talks/${linked}`)
    const deck = '# Learn more\n\nSee the [rope walk](https://ropes.example/walk).\n\n```viewer-notes\nBring a rope.\n```\n'
    await broughtInto(client, linked, 'more.md', Buffer.from(deck))
    const view = await client.get<TalkView>('GET', `/talks/${linked}`)
    expect(view.revision).toBeGreaterThan(revision)
    const { bytes } = await exported(client, linked, { kind: 'shown' })
    const pdf = await getDocument({ data: bytes, useSystemFonts: false }).promise
    expect(await pdf.getMarkInfo()).toMatchObject({ Marked: true })
    const outline = await pdf.getOutline()
    expect(outline.map(({ title }) => title)).toEqual(view.slides.map(({ title }, n) => `${String(n + 1)}  ${title}`))
    const roles: string[] = []
    let text = ''
    const addresses: string[] = []
    for (let n = 1; n <= pdf.numPages; n += 1) {
      const page = await pdf.getPage(n)
      roles.push(...rolesIn(await page.getStructTree()))
      text += (await page.getTextContent()).items.map((item) => ('str' in item ? item.str : '')).join(' ')
      const links = (await page.getAnnotations()) as readonly { readonly url?: string }[]
      addresses.push(...links.flatMap(({ url }) => url ?? []))
    }
    expect(roles.filter((role) => role === 'H2')).toHaveLength(view.slides.length)
    expect(roles.filter((role) => role === 'Figure')).toHaveLength(view.slides.length)
    expect(text).toContain('Knots with links')
    expect(text).toContain('Bring a rope.')
    expect(text).toMatch(/0:00 to \d:\d\d/)
    const { bytes: said } = await exported(client, talk, { kind: 'shown' })
    const spoken = await (await (await getDocument({ data: said }).promise).getPage(1)).getTextContent()
    expect(spoken.items.map((item) => ('str' in item ? item.str : '')).join(' ')).toContain('Skerrow harbour is calm')
    await pdf.destroy()
    expect(addresses.filter((address) => !address.startsWith('https://'))).toEqual([])
  })
})

/** Roles of a page's structure, in the order of reading. */
const rolesIn = (node: unknown): readonly string[] => {
  if (typeof node !== 'object' || node === null) return []
  const { role, children = [] } = node as { readonly role?: string; readonly children?: readonly unknown[] }
  return [...(role === undefined ? [] : [role]), ...children.flatMap(rolesIn)]
}

describe('a narrated deck', () => {
  it('opens without loss of a slide, and comes back as a take whose showings, steps and ink are within a frame of the talk', async () => {
    const { talk: made, slides } = await knotsTalk(client, 'Knots with a voice')
    const [one = '', two = ''] = slides
    const { revision } = await client.get<TalkView>('GET', `/talks/${made}`)
    const fields = { notes: 'Slowly now.' }
    await client.get('POST', `/talks/${made}/deck`, { revision, edit: { kind: 'set', slides: [two], fields } })
    const cues = [
      { kind: 'show', at: 2510, slide: two, step: 0 },
      { kind: 'ink', at: 3070, stroke: { ...WAVE, slide: two } },
      { kind: 'show', at: 4640, slide: one, step: 0 },
    ]
    const media = await turningFace(6, 3)
    await sendTake(client, made, 'full', { kind: 'replaceAll' }, [{ media, length: 6000, slide: one, camera: true, cues }])
    const { bytes, view } = await exported(client, made, { kind: 'narrated-deck' })
    expect(view.file).toBe('aisle-knots-with-a-voice-narrated.pptx')
    const { id: again } = await client.get<{ id: string }>('POST', '/talks', { name: 'Back again', limit: null })
    const back = await broughtInto(client, again, view.file, Buffer.from(bytes))
    expect(back.imports[0]).toMatchObject({ state: 'done', reports: [{ recorded: { slides: 3 } }] })
    expect(back.slides.map(({ title, notes }) => [title, notes])).toEqual([
      ['Bowline', ''],
      ['Clove hitch', 'Slowly now.'],
      ['Bowline', ''],
    ])
    const film = await until('the take', async () => {
      const now = await client.get<FilmView>('GET', `/talks/${again}/film`)
      return now.programme.pieces.length > 0 && now
    })
    const lengths = visitsOf(film.programme).map(({ length }) => length)
    for (const [n, length] of [2510, 2130, 1360].entries()) expect(Math.abs((lengths[n] ?? 0) - length)).toBeLessThanOrEqual(34)
    const second = film.stretches.find(({ opening }) => opening.slide === back.slides[1]?.id)
    const ink = second?.cues.find(({ kind }) => kind === 'ink')
    expect(ink).toMatchObject({ at: 560, stroke: { colour: 'brick', width: 'broad' } })
    const points = ink?.kind === 'ink' ? ink.stroke.points : []
    expect(points.at(-1)?.dt).toBeGreaterThan(350)
    expect(points[0]?.x).toBeCloseTo(0.2, 2)
    expect(points.at(-1)?.x).toBeCloseTo(0.6, 2)
    expect(film.stretches.every(({ camera, voice }) => camera && voice)).toBe(true)
    // Ink is played, and does not lie on the slide before.
    const onInk = { x: 0.38, y: 0.38, w: 0.04, h: 0.04 }
    const early = await frameOf(await delivered(client, again), Math.round((2510 + 200) * 0.03))
    expect(colourGap(meanColour(early, 854, onInk), [190, 235, 195])).toBeLessThan(12)
    // The face turns blue in its second showing, at half a second of it.
    const file = await delivered(client, again)
    const { rect } = (await client.get<TalkView>('GET', `/talks/${again}`)).slides[1]?.proposedInset ?? { rect: { x: 0, y: 0, w: 1, h: 1 } }
    const middle = { x: rect.x + rect.w * 0.4, y: rect.y + rect.h * 0.4, w: rect.w * 0.2, h: rect.h * 0.2 }
    expect(colourGap(meanColour(await frameOf(file, Math.round((2510 + 200) * 0.03)), 854, middle), [255, 0, 0])).toBeLessThan(70)
    expect(colourGap(meanColour(await frameOf(file, Math.round((2510 + 900) * 0.03)), 854, middle), [0, 0, 255])).toBeLessThan(70)
  })

  it('is refused before anything is recorded', async () => {
    const { talk: planned } = await knotsTalk(client, 'No voice')
    await expect(exported(client, planned, { kind: 'narrated-deck' })).rejects.toThrow(/Nothing is recorded yet/)
  })
})

describe('all talks of a person', () => {
  it('are made into archives at once and saved as one file, each of them whole; a talk of no slides is left out', async () => {
    const before = await client.get<readonly AccountArchive[]>('GET', '/archives')
    const talks = (await client.get<readonly TalkCard[]>('GET', '/talks')).filter(({ picture }) => picture !== null)
    expect([...before.map(({ talk: id }) => String(id))].sort()).toEqual(talks.map(({ id }) => id).sort())
    await client.get('POST', '/archives')
    await until('all archives', async () =>
      (await client.get<readonly AccountArchive[]>('GET', '/archives')).every(({ made }) => made?.state === 'done' && made.current),
    )
    const all = await unzipped(await client.bytes('/archives/all'))
    expect(all.size).toBe(talks.length)
    const [first] = [...all.values()]
    const back = await restored(client, first ?? Buffer.alloc(0))
    expect(back.imports[0]).toMatchObject({ state: 'done' })
    expect(talks.map(({ name }) => name)).toContain(back.name)
  })
})
