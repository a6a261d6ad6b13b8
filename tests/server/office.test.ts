import { mkdtemp, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { framingOf } from '@core/layout'
import type { Slide, Stretch } from '@core/model'
import { frameAt } from '@core/plan'
import type { DeliveryView, FilmView, TalkView } from '@contracts'
import { Client } from '../harness/client'
import { frameOf, levelOf, meanColour } from '../harness/film-file'
import { filmFile, makeOfficeDeck, rewritten, toneFile } from '../harness/office-decks'
import type { MadeSlide } from '../harness/office-decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { broughtInto } from '../harness/talks'

let product: Product
let client: Client
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

const newTalk = async (name: string): Promise<string> => (await client.get<{ id: string }>('POST', '/talks', { name, limit: null })).id
const view = (talk: string): Promise<TalkView> => client.get<TalkView>('GET', `/talks/${talk}`)

/** What was recorded, in the order in which it is played. */
function stretchesIn({ programme, stretches }: FilmView): readonly Stretch[] {
  const played = new Set(programme.pieces.flatMap((piece) => (piece.kind === 'still' ? [] : [piece.show.stretch])))
  return [...played].flatMap((id) => stretches.find((stretch) => stretch.id === id) ?? [])
}

const bring = (talk: string, name: string, file: Uint8Array, wish?: string): Promise<TalkView> =>
  broughtInto(client, talk, name, file, wish)

const clicked: MadeSlide = {
  put: (slide) => {
    slide.addText('Three birds', { x: 1, y: 0.5, w: 8, h: 1 })
    slide.addShape('rect', { x: 1, y: 3, w: 2, h: 2, fill: { color: 'CC3333' } })
    slide.addShape('rect', { x: 5, y: 3, w: 2, h: 2, fill: { color: '3333CC' } })
  },
  effects: [
    { shape: 3, does: 'entrance', how: 'fade', begins: 'click' },
    { shape: 4, does: 'entrance', begins: 'click' },
  ],
  notes: 'Count them twice.',
  section: 'Counting',
}
const left: MadeSlide = { put: (slide) => slide.addText('For the teacher', { x: 1, y: 1, w: 8, h: 1 }), hidden: true }

describe('an office deck', () => {
  it('becomes slides with steps, notes and headings, and says what came of it', async () => {
    const talk = await newTalk('Swifts')
    const { slides, imports } = await bring(talk, 'swifts.pptx', await makeOfficeDeck([clicked, left]))
    expect(slides.map(({ section, notes, skip, steps }) => [section, notes, skip, steps.length])).toEqual([
      ['Counting', 'Count them twice.', false, 3],
      ['', '', true, 1],
    ])
    expect(slides[0]?.steps.map(({ reveal }) => reveal)).toEqual([undefined, 'fade', undefined])
    const [brought] = imports
    expect(brought?.reports).toMatchObject([{ name: 'swifts.pptx', slides: 2, steps: 2, notes: 1, skipped: 1, recorded: null }])
    expect(brought?.reportSeen).toBe(false)
    await client.get('POST', `/talks/${talk}/imports/${brought?.id ?? ''}/seen`)
    expect((await view(talk)).imports[0]?.reportSeen).toBe(true)
    // A heading is the deck's to change.
    const { revision } = await view(talk)
    const edit = { kind: 'set', slides: [slides[0]?.id], fields: { section: 'At dusk' } }
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit })
    expect((await view(talk)).slides[0]?.section).toBe('At dusk')
  })

  it('becomes a take of what was recorded on it, shown and heard as long as it was', async () => {
    const [low, high] = await Promise.all([toneFile(2, 440), toneFile(1.5, 880)])
    const sound =
      (name: string, bytes: Buffer): MadeSlide['put'] =>
      (slide) =>
        slide.addMedia({
          type: 'audio',
          data: `audio/m4a;base64,${bytes.toString('base64')}`,
          extn: 'm4a',
          objectName: name,
          x: 9,
          y: 6,
          w: 1,
          h: 1,
        })
    const newer = 'xmlns:p14="http://schemas.microsoft.com/office/powerpoint/2010/main"'
    const clicks =
      `<p:extLst><p:ext uri="{2}"><p14:showEvtLst ${newer}><p14:triggerEvt type="onClick" time="600" objId="3"/>` +
      '<p14:triggerEvt type="onClick" time="1400" objId="4"/></p14:showEvtLst></p:ext></p:extLst>'
    const talk = await newTalk('Recorded elsewhere')
    const first: MadeSlide = {
      ...clicked,
      put: (slide) => {
        clicked.put(slide)
        sound('voice', low)(slide)
      },
      narration: 'voice',
      advance: 3000,
      extensions: clicks,
    }
    const { imports, slides } = await bring(
      talk,
      'recorded.pptx',
      await makeOfficeDeck([first, left, { put: sound('more', high), narration: 'more' }]),
    )
    const report = imports[0]?.reports[0]
    expect(report?.recorded?.slides).toBe(2)
    expect(report?.findings.filter(({ kind }) => kind !== 'font')).toEqual([])
    // The first is shown for as long as its timing says, the last for as long as its sound is.
    expect(report?.recorded?.length).toBeGreaterThan(4450)
    expect(report?.recorded?.length).toBeLessThan(4600)
    const film = await until('the take', async () => {
      const now = await client.get<FilmView>('GET', `/talks/${talk}/film`)
      return now.programme.pieces.length > 0 && now
    })
    const played = stretchesIn(film)
    const [one, two] = played
    expect(one?.cues.filter(({ kind }) => kind === 'show').map(({ at }) => at)).toEqual([600, 1400])
    expect(played.map(({ voice, camera }) => [voice, camera])).toEqual([
      [true, false],
      [true, false],
    ])
    expect([one?.length, two?.opening.slide]).toEqual([3000, slides.at(-1)?.id])
    // In the file each step is seen from its click on, and each voice is heard with its slide and no longer.
    const { ids } = await client.get<{ ids: string[] }>('POST', `/talks/${talk}/deliveries`, {
      ...{ lines: 480, quality: 'good', name: 'recorded', limit: { kind: 'none' } },
    })
    const delivery = await until('the file', async () => {
      const ledger = await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
      const made = ledger.find(({ id }) => id === ids[0])
      return made?.state === 'done' && made
    })
    const file = join(await mkdtemp(join(tmpdir(), 'recorded-')), 'recorded.mp4')
    await writeFile(file, await client.bytes(`/deliveries/${ids[0] ?? ''}/file`))
    expect(Math.abs(delivery.length - (report?.recorded?.length ?? 0))).toBeLessThan(40)
    const boxes = async (at: number): Promise<readonly string[]> => {
      const frame = await frameOf(file, frameAt(at, 30))
      return [1.5, 5.5].map((x) => {
        const [red, , blue] = meanColour(frame, 854, { x: x / 13.333, y: 3.5 / 7.5, w: 1 / 13.333, h: 1 / 7.5 })
        if (red > 190 && blue > 190) return 'paper'
        return red > blue ? 'red' : 'blue'
      })
    }
    expect(await Promise.all([300, 1200, 1600].map(boxes))).toEqual([
      ['paper', 'paper'],
      ['red', 'paper'],
      ['red', 'blue'],
    ])
    expect(await levelOf(file, 500, 1000)).toBeGreaterThan(-40)
    expect(await levelOf(file, 2300, 500)).toBeLessThan(-60)
    expect(await levelOf(file, 3300, 800)).toBeGreaterThan(-40)
  })

  it('has the camera where its slides were recorded with one, trimmed as there, and a silent slide between', async () => {
    const film = (await filmFile(3, 'red', 660)).toString('base64')
    const talk = await newTalk('With a camera')
    const seen: MadeSlide = {
      put: (slide) => slide.addMedia({ type: 'video', data: `video/mp4;base64,${film}`, objectName: 'camera', x: 9, y: 4, w: 3, h: 2 }),
      narration: 'camera',
    }
    // The first second of it is not played.
    const deck = await rewritten(
      await makeOfficeDeck([seen, { put: (slide) => slide.addShape('rect', {}), advance: 1500 }]),
      (name, text) => (name.endsWith('slide1.xml') ? text.replace(/(<p14:media [^>]*)\/>/, '$1><p14:trim st="1000"/></p14:media>') : text),
    )
    const { imports } = await bring(talk, 'camera.pptx', deck)
    expect(imports[0]?.reports[0]).toMatchObject({ recorded: { slides: 2 } })
    const made = await until('the take', async () => {
      const now = await client.get<FilmView>('GET', `/talks/${talk}/film`)
      return now.programme.pieces.length > 0 && now
    })
    const played = stretchesIn(made)
    expect(played.map(({ camera, voice }) => [camera, voice])).toEqual([
      [true, true],
      [false, false],
    ])
    expect(Math.abs((played[0]?.length ?? 0) - 2000)).toBeLessThan(60)
    expect(played[1]?.length).toBe(1500)
    const { ids } = await client.get<{ ids: string[] }>('POST', `/talks/${talk}/deliveries`, {
      ...{ lines: 480, quality: 'good', name: 'camera', limit: { kind: 'none' } },
    })
    await until('the file', async () => {
      const ledger = await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)
      return ledger.find(({ id }) => id === ids[0])?.state === 'done'
    })
    const file = join(await mkdtemp(join(tmpdir(), 'camera-')), 'camera.mp4')
    await writeFile(file, await client.bytes(`/deliveries/${ids[0] ?? ''}/file`))
    const slide = made.slides.find(({ id }) => id === played[0]?.opening.slide)
    const { rect } = framingOf(slide as Slide, made.shape)
    const middle = { x: rect.x + rect.w * 0.35, y: rect.y + rect.h * 0.35, w: rect.w * 0.3, h: rect.h * 0.3 }
    const face = async (at: number): Promise<boolean> => {
      const [red, green] = meanColour(await frameOf(file, frameAt(at, 30)), 854, middle)
      return red > 150 && green < 90
    }
    expect([await face(1000), await face(2800)]).toEqual([true, false])
    expect(await levelOf(file, 300, 1400)).toBeGreaterThan(-40)
  })

  it('is refused in a sentence, and the talk is as it was', async () => {
    const talk = await newTalk('Refused')
    const good = await makeOfficeDeck([clicked])
    const damaged = await bring(talk, 'damaged.pptx', good.subarray(0, good.length - 400))
    expect([damaged.imports[0]?.state, damaged.slides.length]).toEqual(['failed', 0])
    expect(damaged.imports[0]?.sentence).toMatch(/damaged.*The talk is as it was\./)
    const texts = await rewritten(good, (name, text) =>
      name === 'ppt/presentation.xml' ? '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"/>' : text,
    )
    expect((await bring(talk, 'letter.docx', texts)).imports[0]?.sentence).toMatch(/holds a text, not slides/)
    const locked = Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(2000), Buffer.from('EncryptedPackage', 'utf16le')])
    expect((await bring(talk, 'locked.pptx', locked)).imports[0]?.sentence).toMatch(/locked with a password/)
  })
})

describe('a talk', () => {
  it('can begin with a deck whose notes say what goes where, in parts and within its limit', async () => {
    const { id } = await client.get<{ id: string }>('POST', '/talks', { name: 'Swifts in May', limit: 720_000, starter: 'conference' })
    const { slides, limit } = await view(id)
    expect(slides.length).toBeGreaterThan(5)
    expect(slides.every(({ notes, steps }) => notes !== '' && steps.length > 0)).toBe(true)
    expect(slides.reduce((sum, { planned }) => sum + (planned ?? 0), 0)).toBeLessThan(limit ?? 0)
    expect(slides[0]).toMatchObject({ section: 'Why', framing: { off: true } })
    expect((await client.ask('POST', '/talks', { name: 'None', limit: null, starter: 'opera' })).status).toBe(400)
  })
})
