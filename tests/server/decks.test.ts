import { readdir } from 'node:fs/promises'
import { connect } from 'node:net'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { PDFDocument, PDFName, PDFString } from 'pdf-lib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ImportView, TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS, fileForm, hugePng, makePdf } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let client: Client

beforeAll(async () => {
  product = await startProduct({ AISLE_MAX_PAGES: '20', AISLE_MAX_UPLOAD_MB: '2' })
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

const newTalk = async (): Promise<string> => (await client.get<{ id: string }>('POST', '/talks', { name: 'Knots', limit: null })).id
const talkOf = (id: string): Promise<TalkView> => client.get('GET', `/talks/${id}`)

async function bringIn(talk: string, name: string, bytes: Uint8Array): Promise<ImportView> {
  await client.get('POST', `/talks/${talk}/imports`, fileForm(name, bytes))
  return await until('the import', async () => {
    const [newest] = (await talkOf(talk)).imports
    return newest !== undefined && ['done', 'failed'].includes(newest.state) && newest
  })
}

async function knots(): Promise<string> {
  const talk = await newTalk()
  expect((await bringIn(talk, 'knots.pdf', await makePdf(KNOTS))).state).toBe('done')
  return talk
}

describe('bringing decks in', () => {
  it('refuses what cannot be read with one clear sentence and leaves the talk as it was', async () => {
    const talk = await knots()
    const whole = await makePdf(KNOTS)
    const many = await makePdf(Array.from({ length: 21 }, (_, n) => ({ colour: [n, n, n] as const, title: String(n) })))
    const bad: readonly (readonly [string, Uint8Array, RegExp])[] = [
      ['damaged.pdf', Buffer.concat([Buffer.from('%PDF-1.7\n'), Buffer.from(whole).subarray(900, 1400)]), /^This PDF is damaged/],
      [
        'letter.pdf',
        Buffer.from('Dear harbour school, here are the knots.'),
        /^This file is not a PDF, an office deck, a PNG, JPEG or WebP, a film or a sound, whatever its name says/,
      ],
      ['huge.png', hugePng(40_000, 40_000), /^This picture has 40000 by 40000 pixels/],
      ['many.pdf', many, /^This PDF has 21 pages; up to 20/],
    ]
    const before = await talkOf(talk)
    for (const [name, bytes, sentence] of bad) {
      const { state, sentence: said } = await bringIn(talk, name, bytes)
      expect([name, state]).toEqual([name, 'failed'])
      expect(said).toMatch(sentence)
      expect(said).toMatch(/The talk is as it was\.$/)
    }
    expect((await talkOf(talk)).slides).toEqual(before.slides)
  })

  it('keeps nothing on the disk of files that are too much together, or whose transfer breaks off', async () => {
    const talk = await newTalk()
    const lying = async (): Promise<readonly string[]> =>
      (await readdir(join(product.data, 'store', 'uploads')).catch(() => [])).filter((name) => /^[0-9a-f-]{36}$/.test(name))
    // Sent without saying how much it is: three files of a megabyte each.
    const form = new FormData()
    for (let n = 0; n < 3; n += 1) form.append('file', new Blob([new Uint8Array(1_000_000)]), `${String(n)}.png`)
    const said = new Response(form)
    const unsaid = await fetch(`${product.url}/api/talks/${talk}/imports`, {
      method: 'POST',
      headers: { 'content-type': said.headers.get('content-type') ?? '' },
      body: said.body,
      duplex: 'half',
    } as RequestInit)
    expect(unsaid.status).toBe(413)
    await until('nothing to lie there', async () => (await lying()).length === 0)
    // Broken off in the middle.
    const socket = connect(Number(new URL(product.url).port), '127.0.0.1')
    socket.on('error', () => undefined)
    socket.write(
      `POST /api/talks/${talk}/imports HTTP/1.1\r\nHost: ${new URL(product.url).host}\r\nContent-Type: multipart/form-data; ` +
        `boundary=x\r\nContent-Length: 900000\r\n\r\n--x\r\nContent-Disposition: form-data; name="file"; ` +
        `filename="half.pdf"\r\n\r\n${'y'.repeat(200_000)}`,
    )
    await until('it to come', async () => (await lying()).length === 1)
    socket.destroy()
    await until('it to go again', async () => (await lying()).length === 0)
    expect((await talkOf(talk)).imports).toEqual([])
  })

  it('refuses an empty file and one that is too large at once', async () => {
    const talk = await newTalk()
    const empty = await client.ask('POST', `/talks/${talk}/imports`, fileForm('nothing.pdf', new Uint8Array()))
    expect([empty.status, sentenceOf(empty.body)]).toEqual([422, '“nothing.pdf” is empty. Nothing was changed.'])
    const large = await client.ask('POST', `/talks/${talk}/imports`, fileForm('large.pdf', new Uint8Array(3_000_000)))
    expect([large.status, sentenceOf(large.body)]).toEqual([413, expect.stringMatching(/^Files up to 2 MB together/)])
  })

  it('keeps where a page leads, and only to the web', async () => {
    const document = await PDFDocument.load(await makePdf(KNOTS.slice(0, 1)))
    const linked = (address: string, rect: readonly number[]) =>
      document.context.register(
        document.context.obj({
          Type: 'Annot',
          Subtype: 'Link',
          Rect: [...rect],
          A: { Type: 'Action', S: 'URI', URI: PDFString.of(address) },
        }),
      )
    const [page] = document.getPages()
    const links = [
      linked('https://knots.example/bowline', [96, 432, 480, 486]),
      linked('javascript:alert(1)', [0, 0, 50, 50]),
      linked('file:///etc/passwd', [0, 0, 50, 50]),
    ]
    page?.node.set(PDFName.of('Annots'), document.context.obj(links))
    const talk = await newTalk()
    await bringIn(talk, 'linked.pdf', await document.save())
    const { slides } = await talkOf(talk)
    const found = slides[0]?.steps[0]?.links ?? []
    expect(found.map(({ address }) => address)).toEqual(['https://knots.example/bowline'])
    const { x, y, w, h } = found[0]?.box ?? { x: 0, y: 0, w: 0, h: 0 }
    for (const [is, wanted] of [
      [x, 0.1],
      [y, 0.1],
      [w, 0.4],
      [h, 0.1],
    ] as const)
      expect(is).toBeCloseTo(wanted, 3)
  })

  it('takes pictures in the order a person would count them', async () => {
    const talk = await newTalk()
    const form = new FormData()
    for (const name of ['step 10.png', 'step 9.png', 'step 1.png']) {
      const canvas = createCanvas(200, 300)
      canvas.getContext('2d').fillRect(40, 40, 60, 60)
      form.append('file', new Blob([canvas.toBuffer('image/png')]), name)
    }
    await client.get('POST', `/talks/${talk}/imports`, form)
    const view = await until('the pictures', async () => {
      const now = await talkOf(talk)
      return now.imports[0]?.state === 'done' && now
    })
    expect(view.slides.map((slide) => slide.title)).toEqual(['step 1', 'step 9', 'step 10'])
    expect(view.slides[0]?.steps[0]?.picture).toMatchObject({ kind: 'image', size: { width: 200, height: 300 } })
  })
})

describe('a deck whose reader is killed', () => {
  it('is read on by the next one, after what is there, with each slide once', async () => {
    const talk = await newTalk()
    const pages = Array.from({ length: 20 }, (_, n) => ({ title: `Knot ${String(n + 1)}`, colour: [200, 12 * n, 120] as const }))
    await client.get('POST', `/talks/${talk}/imports`, fileForm('twenty.pdf', await makePdf(pages)))
    await until('the first slide', async () => (await talkOf(talk)).slides.length > 0)
    await product.kill('worker')
    const left = (await talkOf(talk)).slides
    expect(left.length).toBeLessThan(20)
    await product.start('worker')
    const done = await until('the deck', async () => {
      const now = await talkOf(talk)
      return now.imports[0]?.state === 'done' && now
    })
    expect(done.slides.map((slide) => slide.title)).toEqual(pages.map((page) => page.title))
    expect(done.slides.slice(0, left.length).map((slide) => slide.id)).toEqual(left.map((slide) => slide.id))
    expect(done.imports[0]).toMatchObject({ pagesDone: 20, slides: done.slides.map((slide) => slide.id) })
  })
})

describe('changing a deck', () => {
  it('moves, changes, removes and brings back, and keeps what it saved', async () => {
    const talk = await knots()
    const { slides, revision } = await talkOf(talk)
    const [first, second, third] = slides.map((slide) => slide.id)
    const edit = (base: number, change: unknown) =>
      client.get<{ revision: number }>('POST', `/talks/${talk}/deck`, { revision: base, edit: change })
    const one = await edit(revision, { kind: 'move', slides: [third], before: first })
    const two = await edit(one.revision, {
      kind: 'set',
      slides: [first],
      fields: { notes: 'Over, under, through.', planned: 42_000, skip: true },
    })
    const three = await edit(two.revision, { kind: 'remove', slides: [second] })
    expect((await talkOf(talk)).slides.map((slide) => slide.id)).toEqual([third, first])
    await edit(three.revision, { kind: 'restore', slides: [second], at: 2 })
    const after = await talkOf(talk)
    expect(after.slides.map((slide) => slide.id)).toEqual([third, first, second])
    expect(after.slides[1]).toMatchObject({ notes: 'Over, under, through.', planned: 42_000, skip: true })
  })

  it('lets two pages change different slides, and refuses the second change of the same one', async () => {
    const talk = await knots()
    const { slides, revision } = await talkOf(talk)
    const set = (slide: string | undefined, notes: string) =>
      client.ask('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slide], fields: { notes } } })
    expect((await set(slides[0]?.id, 'from the first page')).status).toBe(200)
    expect((await set(slides[1]?.id, 'from the second page')).status).toBe(200)
    const clash = await set(slides[0]?.id, 'from the second page')
    expect(clash.status).toBe(409)
    expect(sentenceOf(clash.body)).toMatch(/^This slide was changed on another page/)
    expect((await talkOf(talk)).slides.map((slide) => slide.notes)).toEqual(['from the first page', 'from the second page', ''])
  })

  it('refuses what is out of range or foreign', async () => {
    const talk = await knots()
    const other = await knots()
    const { slides, revision } = await talkOf(talk)
    const foreign = (await talkOf(other)).slides[0]?.id
    const bad: readonly unknown[] = [
      { kind: 'set', slides: [slides[0]?.id], fields: { planned: -1 } },
      { kind: 'set', slides: [slides[0]?.id], fields: { planned: 1.5 } },
      { kind: 'set', slides: ['../etc'], fields: { skip: true } },
      {
        kind: 'set',
        slides: [slides[0]?.id],
        fields: { framing: { rect: { x: 0, y: 0, w: 3, h: 1 }, outline: 'card', mirrored: false, off: false } },
      },
      { kind: 'insert', at: 0, slides },
    ]
    for (const edit of bad) expect((await client.ask('POST', `/talks/${talk}/deck`, { revision, edit })).status).toBe(400)
    expect((await client.ask('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'remove', slides: [foreign] } })).status).toBe(409)
    await client.ask('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'restore', at: 0, slides: [foreign] } })
    expect((await talkOf(talk)).slides).toEqual(slides)
    expect((await talkOf(other)).slides.length).toBe(3)
  })
})

describe('talks', () => {
  it('duplicates deck and notes but no recording, and deletes so that it can be undone', async () => {
    const talk = await knots()
    const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/duplicate`)
    const [from, to] = [await talkOf(talk), await talkOf(id)]
    expect(to.name).toBe('Knots (copy)')
    expect(to.slides.map((slide) => slide.steps)).toEqual(from.slides.map((slide) => slide.steps))
    expect(new Set([...from.slides, ...to.slides].map((slide) => slide.id)).size).toBe(6)
    await client.get('DELETE', `/talks/${id}`)
    const listed = async (): Promise<boolean> => (await client.get<{ id: string }[]>('GET', '/talks')).some((card) => card.id === id)
    expect(await listed()).toBe(false)
    await client.get('POST', `/talks/${id}/restore`)
    expect(await listed()).toBe(true)
  })

  it('has its recipe follow name and limit', async () => {
    const talk = await newTalk()
    const view = await client.get<TalkView>('PATCH', `/talks/${talk}`, { name: 'Seven knots & a hitch', limit: 300_000 })
    expect(view.recipe).toMatchObject({ name: 'aisle-seven-knots-a-hitch', limit: { kind: 'hold', limit: 300_000 } })
  })
})
