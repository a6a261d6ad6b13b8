import { createHash, randomUUID } from 'node:crypto'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { UNTREATED, asId } from '@core/model'
import type { Bed, Overlay } from '@core/model'
import { visitsOf } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import type { DeliveryView, FilmView, MeasuredVoice, MusicView } from '@contracts'
import { probe } from '@render/probe'
import { run } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { exported } from '../harness/exports'
import { colourGap, frameOf, levelOf, meanColour } from '../harness/film-file'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { delivered, heardTalk } from '../harness/talks'

let product: Product
let client: Client
let folder: string
let talk: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-dressing-'))
  talk = await heardTalk(client, 'Knots')
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

/** A sound of ffmpeg's own making. */
async function soundOf(source: string, seconds: number, name: string, ...options: readonly string[]): Promise<Buffer> {
  const file = join(folder, name)
  // Not at once: a page that stands still while it is made would find its line closed.
  await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', source, '-t', String(seconds), ...options, '-y', file])
  return await readFile(file)
}
const film = (): Promise<FilmView> => client.get<FilmView>('GET', `/talks/${talk}/film`)
async function edit(what: ProgrammeEdit): Promise<void> {
  const { programme } = await film()
  await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author: randomUUID(), edit: what })
}
const digestOf = async (file: string): Promise<string> =>
  createHash('sha256')
    .update(await readFile(file))
    .digest('hex')
const bedOf = ({ name, media, credit }: MusicView, visit: string, more: Partial<Bed> = {}): Bed => ({
  id: asId(randomUUID()),
  visit: asId(visit),
  offset: 0,
  length: null,
  name,
  media,
  from: 0,
  repeat: true,
  fadeIn: 300,
  fadeOut: 300,
  gain: -6,
  instead: false,
  credit,
  ...more,
})

describe('music', () => {
  it('is one of the tunes that ship, or a file of any number of channels', async () => {
    const tune = await client.get<MusicView>('POST', `/talks/${talk}/music?tune=quayside`)
    expect([tune.name, tune.media.picture, tune.media.sound]).toEqual(['Quayside', null, true])
    expect(tune.media.loudness).toBeGreaterThan(-40)
    const wide = await soundOf('sine=f=300', 4, 'wide.wav', '-af', 'pan=6.1|c0=c0|c1=c0|c2=c0|c3=c0|c4=c0|c5=c0|c6=c0')
    const own = await client.get<MusicView>('POST', `/talks/${talk}/music`, fileForm('wide.wav', wide))
    expect([own.name, Math.round(own.media.length / 1000)]).toEqual(['wide.wav', 4])
  })

  it.each([
    ['silence', 'anullsrc', 5, 'Nothing is to be heard'],
    ['half a second', 'sine=f=300', 0.5, 'shorter than two seconds'],
  ])('that is %s is refused with a sentence', async (_, source, seconds, says) => {
    const refused = await client.ask('POST', `/talks/${talk}/music`, fileForm('music.wav', await soundOf(source, seconds, 'music.wav')))
    expect([refused.status >= 400 && refused.status < 500, sentenceOf(refused.body)]).toEqual([true, expect.stringContaining(says)])
  })

  it('of three hours, or that cannot be read, is refused with a sentence', async () => {
    const long = await soundOf('sine=f=300:r=8000', 10_800, 'long.flac', '-ac', '1')
    const refused = await client.ask('POST', `/talks/${talk}/music`, fileForm('long.flac', long))
    expect(sentenceOf(refused.body)).toContain('longer than an hour')
    const locked = await client.ask('POST', `/talks/${talk}/music`, fileForm('locked.m4a', Buffer.from('not a sound at all, but locked')))
    expect(sentenceOf(locked.body)).toContain('can be read')
  })

  it('is left where it is when a picture over it is far too large, or none', async () => {
    const wide = join(folder, 'wide.png')
    await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'color=c=teal:s=30000x40', '-frames:v', '1', '-y', wide])
    const large = await client.ask('POST', `/talks/${talk}/pictures`, fileForm('wide.png', await readFile(wide)))
    expect([large.status, sentenceOf(large.body)]).toEqual([413, expect.stringContaining('Scale it down')])
    const none = await client.ask('POST', `/talks/${talk}/pictures`, fileForm('none.png', Buffer.from('no picture at all')))
    expect([none.status >= 400 && none.status < 500, sentenceOf(none.body).length > 20]).toEqual([true, true])
  })

  it('and pictures of another talk cannot be laid over this one', async () => {
    const [visit] = visitsOf((await film()).programme)
    const { programme } = await film()
    const foreign = {
      name: 'x',
      credit: '',
      media: { file: asId<'asset'>('a'.repeat(64)), length: 9000, picture: null, sound: true, loudness: -20 },
    }
    const asked = await client.ask('POST', `/talks/${talk}/programme`, {
      revision: programme.revision,
      author: randomUUID(),
      edit: { kind: 'bed', bed: bedOf(foreign, visit?.id ?? '') },
    })
    expect([asked.status, sentenceOf(asked.body)]).toEqual([404, expect.stringContaining('not in this talk')])
  })
})

describe('a dressed talk', () => {
  it('is made as it is seen and heard, and is the first file again once all of it is taken off', async () => {
    const plain = await delivered(client, talk)
    const [visit] = visitsOf((await film()).programme)
    if (visit === undefined) throw new Error('a visit')
    const music = await client.get<MusicView>('POST', `/talks/${talk}/music?tune=lanterns`)
    const version = (await film()).programme.slides[visit.slide] ?? 1
    const [name, cardId, nameId] = [randomUUID(), randomUUID(), randomUUID()]
    const card: Overlay = {
      kind: 'card',
      id: asId(cardId),
      visit: asId(name),
      offset: 0,
      length: 3000,
      theme: 'dusk',
      heading: 'Knots that hold',
      body: '',
    }
    await edit({
      kind: 'all',
      edits: [
        { kind: 'insert', slide: visit.slide, version, length: 3000, before: visit.id, name },
        { kind: 'overlay', overlay: card },
      ],
    })
    const lowerThird: Overlay = {
      kind: 'lower-third',
      id: asId(nameId),
      visit: visit.id,
      offset: 500,
      length: 2500,
      theme: 'harbour',
      at: { x: 0.1, y: 0.7 },
      name: 'Ilse Marrak',
      place: 'Harbour school',
    }
    await edit({ kind: 'overlay', overlay: lowerThird })
    const bed = bedOf(music, name)
    await edit({ kind: 'bed', bed })
    const [voice] = await client.get<readonly MeasuredVoice[]>('GET', `/talks/${talk}/voices`)
    if (voice === undefined) throw new Error('a voice')
    expect(voice.facts.speech).toBeGreaterThan(-50)
    await edit({ kind: 'voice', stretches: [voice.stretch], visits: [], treatment: { ...UNTREATED, noise: 'learned', level: true } })

    const dressed = await delivered(client, talk)
    const [before, after] = [await probe(plain), await probe(dressed)]
    expect(Math.abs(Number(after.format.duration) - Number(before.format.duration) - 3)).toBeLessThan(0.05)
    const width = after.streams[0]?.width ?? 0
    // The card, the name, and the slide as it was once that is gone.
    expect(colourGap(meanColour(await frameOf(dressed, 60), width, { x: 0.5, y: 0.05, w: 0.4, h: 0.2 }), [0x2b, 0x23, 0x40])).toBeLessThan(
      8,
    )
    const plate = { x: 0.115, y: 0.7, w: 0.01, h: 0.02 }
    expect(colourGap(meanColour(await frameOf(dressed, 150), width, plate), [0x17, 0x3b, 0x4a])).toBeLessThan(24)
    const corner = { x: 0.05, y: 0.6, w: 0.5, h: 0.35 }
    const gone = meanColour(await frameOf(dressed, 200), width, corner)
    expect(colourGap(gone, meanColour(await frameOf(plain, 110), width, corner))).toBeLessThan(3)
    // Music is heard before the first word, where the plain file begins with the voice alone.
    expect(await levelOf(dressed, 1000, 1500)).toBeGreaterThan(-45)

    // Seen and heard likewise by those who watch, and in what is taken along.
    const { bytes } = await exported(client, talk, { kind: 'bundle', lines: 480 })
    expect(bytes.length).toBeGreaterThan(10_000)

    await edit({ kind: 'bare', ids: [card.id, lowerThird.id, bed.id] })
    await edit({ kind: 'drop', visits: [asId(name)] })
    await edit({ kind: 'voice', stretches: [voice.stretch], visits: [], treatment: null })
    const again = await delivered(client, talk)
    expect(await digestOf(again)).toBe(await digestOf(plain))
    const [newest] = await client.get<readonly DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
    expect(newest?.facts?.encoded).toBe(0)
  })

  it('has its voice treated for who compares, and for nobody else', async () => {
    const [voice] = await client.get<readonly MeasuredVoice[]>('GET', `/talks/${talk}/voices`)
    const bytes = await client.bytes(`/stretches/${voice?.stretch ?? ''}/treated?noise=gated&rumble=true`)
    const file = join(folder, 'treated.webm')
    await writeFile(file, bytes)
    const recording = join(folder, 'recording.webm')
    await writeFile(recording, await client.bytes(`/stretches/${voice?.stretch ?? ''}/recording`))
    const [treated, recorded] = [await probe(file), await probe(recording)]
    expect(Math.abs(Number(treated.format.duration) - Number(recorded.format.duration))).toBeLessThan(0.1)
    const wrong = await client.ask('GET', `/stretches/${voice?.stretch ?? ''}/treated?noise=loud`)
    expect(wrong.status).toBe(400)
  })
})
