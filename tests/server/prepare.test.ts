import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { emptyComposition } from '@core/compose'
import type { ComposedPicture, Composition } from '@core/model'
import type { TalkCard, ImportView, SpellingView, TalkView } from '@contracts'
import { openPdf, pageOf, pageWords } from '@render/pdf'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS, LESSON, awkwardPdf, buildingPdf, fileForm, lockedPdf, makePdf, makeZip, plainPng } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let client: Client

beforeAll(async () => {
  product = await startProduct({ AISLE_MAX_UPLOAD_MB: '2' })
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

const newTalk = async (name = 'Tides'): Promise<string> => (await client.get<{ id: string }>('POST', '/talks', { name, limit: null })).id
const talkOf = (id: string): Promise<TalkView> => client.get('GET', `/talks/${id}`)
const edit = async (talk: string, change: unknown) =>
  await client.ask('POST', `/talks/${talk}/deck`, { revision: (await talkOf(talk)).revision, edit: change })

function formOf(files: Readonly<Record<string, Uint8Array | string>>): FormData {
  const form = new FormData()
  for (const [name, content] of Object.entries(files))
    form.append('file', new Blob([typeof content === 'string' ? content : new Uint8Array(content)]), name)
  return form
}

async function bringIn(talk: string, form: FormData, at?: number): Promise<ImportView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/imports${at === undefined ? '' : `?at=${String(at)}`}`, form)
  return await until('the import', async () =>
    (await talkOf(talk)).imports.find((one) => one.id === id && ['done', 'failed'].includes(one.state)),
  )
}

async function talkWith(form: FormData): Promise<string> {
  const talk = await newTalk()
  expect(await bringIn(talk, form)).toMatchObject({ state: 'done', sentence: null })
  return talk
}

describe('decks from texts and archives', () => {
  it('a text with its picture becomes slides made here, whether they come side by side or packed', async () => {
    const pier = plainPng(400, 300, '#336699')
    const forms = [
      formOf({ 'tides.md': LESSON, 'pier.png': pier }),
      fileForm(
        'lesson.zip',
        await makeZip({ 'lesson/tides.md': LESSON, 'lesson/pier.png': pier, '__MACOSX/x.png': 'no', 'readme.doc': 'no' }),
      ),
    ]
    for (const form of forms) {
      const { slides } = await talkOf(await talkWith(form))
      expect(slides.map((slide) => [slide.title, slide.composition?.layout, slide.steps.length])).toEqual([
        ['Tides for beginners', 'opening', 1],
        ['Why the water comes back', 'points', 3],
        ['The pier', 'plate', 1],
      ])
      expect(slides.map((slide) => [slide.notes, slide.viewerNotes])).toEqual([
        ['Welcome back. [pause]', ''],
        ['', 'See the harbour almanac.'],
        ['', ''],
      ])
      expect(slides[2]?.composition?.pictures).toMatchObject([{ size: { width: 400, height: 300 }, alt: 'The pier at low water' }])
    }
  })

  it('puts files in at a place, several in the order of their names', async () => {
    const talk = await talkWith(fileForm('knots.pdf', await makePdf(KNOTS)))
    expect(
      (await bringIn(talk, formOf({ '2 b.png': plainPng(90, 60, 'red'), '10 c.png': plainPng(90, 60, 'red'), '1 a.md': '## A text' }), 1))
        .state,
    ).toBe('done')
    expect((await talkOf(talk)).slides.map((slide) => slide.title)).toEqual([
      'Bowline',
      'A text',
      '2 b',
      '10 c',
      'Clove hitch',
      'Reef knot',
    ])
  })

  it('refuses what could do harm with one clear sentence each, and leaves the talk as it was', async () => {
    const talk = await talkWith(fileForm('knots.pdf', await makePdf(KNOTS)))
    const before = (await talkOf(talk)).slides
    const whole = await makePdf(KNOTS)
    const bomb = await makeZip({ 'a.png': Buffer.alloc(40_000_000) })
    const bad: readonly (readonly [string, Uint8Array | string, RegExp])[] = [
      ['locked.pdf', lockedPdf(), /^This PDF is locked with a password/],
      ['cut.pdf', Buffer.from(whole).subarray(0, 200), /^This PDF is damaged/],
      ['script.md', '## A\n\n<script>steal()</script>', /^This text holds scripts/],
      ['elsewhere.md', '## A\n\n![x](http://elsewhere.example/x.png)', /^This text shows a picture from elsewhere/],
      ['missing.md', '## A\n\n![x](nowhere.png)', /^This text shows a picture “nowhere.png” that did not come with it/],
      ['latin.md', Buffer.from([0x23, 0x20, 0xe9, 0xe8, 0x0a]), /^This text is not stored as UTF-8/],
      ['bomb.zip', bomb, /^This archive unpacks to more than 4 MB/],
      ['damaged.zip', bomb.subarray(0, bomb.length - 60), /^This archive is damaged/],
      ['empty.zip', await makeZip({ 'letter.doc': 'x' }), /^There is nothing in this archive/],
      [
        'nested.zip',
        await makeZip({ 'inside.pdf': await makeZip({ 'a.md': '# A' }) }),
        /^“nested.zip: inside.pdf”: There is an archive inside this archive/,
      ],
    ]
    for (const [name, content, sentence] of bad) {
      const { state, sentence: said } = await bringIn(talk, formOf({ [name]: content }))
      expect([name, state]).toEqual([name, 'failed'])
      expect(said).toMatch(sentence)
    }
    expect((await talkOf(talk)).slides).toEqual(before)
  }, 300_000)

  it('reads turned pages and other sizes as they are seen, and titles from the outline', async () => {
    const { slides, shape } = await talkOf(await talkWith(fileForm('awkward.pdf', await awkwardPdf())))
    expect(shape).toEqual({ width: 16, height: 9 })
    expect(slides.map((slide) => [slide.title, slide.steps[0]?.picture.size])).toEqual([
      ['Outline 1', { width: 960, height: 540 }],
      ['Outline 2', { width: 960, height: 540 }],
      ['Outline 3', { width: 400, height: 400 }],
    ])
  })

  it('offers pages that only add to each other as steps, until the offer is settled', async () => {
    const talk = await talkWith(fileForm('builds.pdf', await buildingPdf()))
    const { slides, imports } = await talkOf(talk)
    const ids = slides.map((slide) => slide.id)
    expect(imports[0]?.builds).toEqual([ids.slice(0, 3)])
    expect((await edit(talk, { kind: 'merge', slides: ids.slice(0, 3) })).status).toBe(200)
    await client.get('POST', `/talks/${talk}/imports/${imports[0]?.id ?? ''}/settle`)
    const merged = await talkOf(talk)
    expect([merged.slides.map((slide) => slide.steps.length), merged.imports[0]?.builds]).toEqual([[3, 1], []])
    expect((await edit(talk, { kind: 'split', slide: ids[0], keep: 1, as: ids[1] })).status).toBe(200)
    expect((await talkOf(talk)).slides.map((slide) => [slide.id, slide.steps.length])).toEqual([
      [ids[0], 1],
      [ids[1], 2],
      [ids[3], 1],
    ])
  })
})

describe('slides made here', () => {
  const slideOf = (composition: Composition, id: string = randomUUID()) => ({
    id,
    title: '',
    notes: '',
    section: '',
    viewerNotes: '',
    description: '',
    planned: null,
    skip: false,
    optional: false,
    framing: null,
    transition: 'fade',
    composition,
  })

  it('are put in, written on, given pictures, and laid out anew when the deck changes its shape', async () => {
    const talk = await newTalk()
    const slide = slideOf({ ...emptyComposition('points', 'dusk'), heading: 'Low water', body: '- one\n- two', reveal: 'slide' })
    await edit(talk, { kind: 'compose', at: 0, slide })
    const pictures = await client.get<readonly ComposedPicture[]>(
      'POST',
      `/talks/${talk}/pictures`,
      fileForm('pier.png', plainPng(300, 200, 'teal')),
    )
    expect(
      (
        await edit(talk, {
          kind: 'set',
          slides: [slide.id],
          fields: { composition: { ...slide.composition, layout: 'plate-points', pictures } },
        })
      ).status,
    ).toBe(200)
    const made = (await talkOf(talk)).slides[0]
    expect([made?.title, made?.steps.length, made?.version]).toEqual(['Low water', 4, 2])
    await edit(talk, { kind: 'shape', shape: { width: 1, height: 1 } })
    const square = await talkOf(talk)
    expect([square.shape, square.slides[0]?.steps[0]?.picture.size, square.slides[0]?.version]).toEqual([
      { width: 1, height: 1 },
      { width: 1, height: 1 },
      3,
    ])
    expect((await client.ask('GET', `/talks/${talk}/assets/${pictures[0]?.asset ?? ''}`)).status).toBe(200)
  })

  it('come back as they were after they were taken out, in a version that was never shown', async () => {
    const talk = await newTalk()
    const slide = slideOf({ ...emptyComposition('claim', 'paper'), heading: 'One' })
    await edit(talk, { kind: 'compose', at: 0, slide })
    await edit(talk, { kind: 'remove', slides: [slide.id] })
    await edit(talk, { kind: 'compose', at: 0, slide: { ...slide, composition: { ...slide.composition, heading: 'Two' } } })
    const [back] = (await talkOf(talk)).slides
    expect([back?.id, back?.title]).toEqual([slide.id, 'Two'])
    expect(back?.version).toBeGreaterThan(1)
  })

  it('take no pictures of another talk, no ids of another talk, and nothing that is out of range', async () => {
    const [talk, other] = [await newTalk(), await talkWith(fileForm('knots.pdf', await makePdf(KNOTS)))]
    const theirs = await client.get<readonly ComposedPicture[]>(
      'POST',
      `/talks/${other}/pictures`,
      fileForm('pier.png', plainPng(300, 200, 'teal')),
    )
    const composition = emptyComposition('plate', 'paper')
    const foreign = (await talkOf(other)).slides
    const tries: readonly (readonly [unknown, number])[] = [
      [{ kind: 'compose', at: 0, slide: slideOf({ ...composition, pictures: theirs }) }, 404],
      [{ kind: 'compose', at: 0, slide: slideOf(composition, foreign[0]?.id) }, 409],
      [{ kind: 'compose', at: 0, slide: slideOf({ ...composition, layout: 'poster' as never }) }, 400],
      [{ kind: 'compose', at: 0, slide: slideOf({ ...composition, body: 'x'.repeat(7000) }) }, 400],
      [{ kind: 'shape', shape: { width: 100, height: 3 } }, 400],
      [{ kind: 'set', slides: [foreign[0]?.id], fields: { notes: 'mine' } }, 409],
    ]
    for (const [change, status] of tries) expect([change, (await edit(talk, change)).status]).toEqual([change, status])
    expect((await talkOf(other)).slides).toEqual(foreign)
    expect((await talkOf(talk)).slides).toEqual([])
    expect(sentenceOf((await client.ask('POST', `/talks/${talk}/pictures`, fileForm('not.png', Buffer.from('text')))).body)).toMatch(
      /^This file is not a PDF, an office deck, a PNG/,
    )
  })
})

describe('between talks and out of them', () => {
  it('copies slides with notes, times and pictures, none of which changes with the other', async () => {
    const from = await talkWith(fileForm('knots.pdf', await makePdf(KNOTS)))
    const to = await talkWith(formOf({ 'a.md': '## A' }))
    const source = (await talkOf(from)).slides
    await edit(from, { kind: 'set', slides: [source[1]?.id], fields: { notes: 'twice round', planned: 9000 } })
    await client.get('POST', `/talks/${to}/copies`, { from, slides: [source[2]?.id, source[1]?.id], at: 0 })
    const copied = (await talkOf(to)).slides
    expect(copied.map((slide) => [slide.title, slide.notes, slide.planned, slide.steps.length])).toEqual([
      ['Clove hitch', 'twice round', 9000, 2],
      ['Reef knot', '', null, 1],
      ['A', '', null, 1],
    ])
    const picture = copied[0]?.steps[0]?.picture
    expect((await client.ask('GET', `/talks/${to}/assets/${picture?.kind === 'page' ? picture.screen : ''}`)).status).toBe(200)
    expect((await client.ask('POST', `/talks/${to}/copies`, { from, slides: [randomUUID()], at: 0 })).status).toBe(404)
  })

  it('hands out notes of one kind and never the other', async () => {
    const talk = await talkWith(formOf({ 'tides.md': LESSON, 'pier.png': plainPng(400, 300, '#336699') }))
    const [own, viewers] = await Promise.all(
      ['notes', 'viewerNotes'].map(async (kind) => (await client.ask('GET', `/talks/${talk}/notes.md?kind=${kind}`)).body),
    )
    expect(own).toContain('Welcome back')
    expect(own).not.toContain('almanac')
    expect(viewers).toContain('almanac')
    expect(viewers).not.toContain('Welcome back')
    const folder = await mkdtemp(join(tmpdir(), 'aisle-handout-'))
    const wordsOf = async (kind: string): Promise<string> => {
      const answer = await fetch(`${product.url}/api/talks/${talk}/handout.pdf?kind=${kind}`)
      expect(answer.headers.get('content-type')).toBe('application/pdf')
      const file = join(folder, `${kind}.pdf`)
      await writeFile(file, new Uint8Array(await answer.arrayBuffer()))
      const pdf = await openPdf(file)
      return (await pageWords(await pageOf(pdf, 1))).text.replace(/\s+/g, ' ')
    }
    const [handout, forViewers] = [await wordsOf('notes'), await wordsOf('viewerNotes')]
    expect(handout).toContain('Why the water comes back')
    expect(handout).toContain('Welcome back')
    expect(handout).not.toContain('almanac')
    expect(forViewers).toContain('almanac')
    expect(forViewers).not.toContain('Welcome back')
    await rm(folder, { recursive: true })
    expect((await client.ask('GET', `/talks/${talk}/handout.pdf?kind=both`)).status).toBe(400)
  })

  it("keeps a talk's language, and takes only tags that are one", async () => {
    const talk = await newTalk()
    expect((await talkOf(talk)).language).toBe('en')
    expect((await client.get<TalkView>('PATCH', `/talks/${talk}`, { language: 'pt-BR' })).language).toBe('pt-BR')
    expect((await client.ask('PATCH', `/talks/${talk}`, { language: 'english; drop' })).status).toBe(400)
    // Well formed, though not every library knows them.
    for (const language of ['zh-yue', 'zh-cmn-Hans', 'xx-abcde-fghij']) {
      await client.get('PATCH', `/talks/${talk}`, { language })
      expect((await talkOf(talk)).language).toBe(language)
      expect((await client.get<readonly TalkCard[]>('GET', '/talks')).some((card) => card.id === talk)).toBe(true)
    }
  })
})

describe('spelling', () => {
  const LESSON_WITH_SLIPS = '# The tide tabel\n\nSkerrow at low water, 5.6m\n\n???\n\nThe tabel is of the harbour of Skerrow.\n'

  it('tells words that no dictionary knows until they are put right, or are the talk’s own', async () => {
    const talk = await talkWith(formOf({ 'tides.md': LESSON_WITH_SLIPS }))
    const [slide] = (await talkOf(talk)).slides
    const spelling = (): Promise<SpellingView> => client.get('GET', `/talks/${talk}/spelling`)
    const found = await spelling()
    expect(found).toMatchObject({
      checked: true,
      words: [
        { word: 'tabel', slides: [slide?.id] },
        { word: 'Skerrow', slides: [slide?.id] },
      ],
    })
    expect(found.words[0]?.instead).toContain('table')
    await client.get('PUT', `/talks/${talk}/words/terms`, { terms: ['Skerrow'] })
    expect((await spelling()).words.map(({ word }) => word)).toEqual(['tabel'])
  })

  it('says nothing in a language that it has no dictionary of', async () => {
    const talk = await talkWith(formOf({ 'tides.md': LESSON_WITH_SLIPS }))
    await client.get('PATCH', `/talks/${talk}`, { language: 'cs' })
    expect(await client.get<SpellingView>('GET', `/talks/${talk}/spelling`)).toEqual({ checked: false, words: [] })
  })
})
