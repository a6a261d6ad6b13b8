import { mkdtemp, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { XMLParser } from 'fast-xml-parser'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { programmeLength, visitsOf } from '@core/programme'
import type { AccountArchive, FilmView, TalkCard, TalkView } from '@contracts'
import { probe } from '@render/probe'
import { run } from '@render/process'
import { WAVE, editedTalk, restored } from '../harness/archived'
import { Client } from '../harness/client'
import { KNOTS, fileForm, makePdf } from '../harness/decks'
import { exported, unzippedInto } from '../harness/exports'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { filmOf, filmed } from '../harness/filmed'
import { faultsOfTimeline, mediaOf } from '../harness/open-timeline'
import type { OtioTimeline } from '../harness/open-timeline'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake, turningFace } from '../harness/recording'
import { until } from '../harness/run-product'
import { broughtInto, delivered, knotsTalk } from '../harness/talks'
import { unzipped } from '../harness/unzipped'

interface InkFile {
  readonly ink: { readonly traceGroup: { readonly trace: { readonly '#text': string; readonly '@_timeOffset': string } } }
}

let product: Product
let client: Client
let folder: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-along-'))
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
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

describe('an archive', () => {
  let edited: string
  let archive: Uint8Array
  beforeAll(async () => {
    edited = await editedTalk(client)
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
})

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
})

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

    const again = (await client.get<{ id: string }>('POST', '/talks', { name: 'From the film', limit: null })).id
    await client.get('POST', `/talks/${again}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
    const back = await filmed(client, again, 'knots.mp4', made)
    expect(back.imports.map(({ state, sentence }) => [state, sentence])).toEqual([
      ['done', null],
      ['done', null],
    ])
    expect(back.slides).toHaveLength(3)
    const film = await filmOf(client, again)
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
