import { chmod, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { annotationsOf, drawPage, pageLinks, pageOf } from '@render/pdf'
import { AS_ODP, convertOffice, officeKindOf, openOffice } from '@render/office'
import type { OfficeConverter, OfficeKind, OpenedOffice } from '@render/office'
import { filmFile, makeOfficeDeck, rewritten, toneFile } from '../../tests/harness/office-decks'
import type { MadeSlide } from '../../tests/harness/office-decks'

let folder: string
let converter: OfficeConverter
let names = 0
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'open-office-'))
  converter = { program: '/usr/lib/libreoffice/program/soffice.bin', profile: join(folder, 'profile'), time: 120_000, memory: 3072 }
})
afterAll(async () => {
  await rm(folder, { recursive: true, force: true })
})

async function open(
  deck: Buffer,
  kind: OfficeKind = 'pptx',
  bounds: Partial<Parameters<typeof openOffice>[1]> = {},
): Promise<OpenedOffice> {
  names += 1
  const path = join(folder, `deck-${String(names)}.${kind}`)
  await writeFile(path, deck)
  return await openOffice(path, {
    ...{ kind, out: folder, name: `made-${String(names)}`, converter, mostBytes: 200_000_000, mostPages: 200 },
    ...bounds,
  })
}

/** Colours by their names where something is at a place of a page: `-` is the paper. */
const COLOURS: Readonly<Record<string, readonly [number, number, number]>> = {
  red: [204, 51, 51],
  green: [51, 153, 51],
  blue: [51, 51, 204],
  '-': [255, 255, 255],
}

/** What is seen at places of a page, in fractions of it. */
async function seen(office: OpenedOffice, page: number, places: readonly (readonly [number, number])[]): Promise<string> {
  const canvas = await drawPage(await pageOf(office.pdf, page), { width: 640, height: 640 })
  const ctx = canvas.getContext('2d')
  return places
    .map(([x, y]) => {
      const [r = 0, g = 0, b = 0] = ctx.getImageData(Math.round(x * canvas.width), Math.round(y * canvas.height), 1, 1).data
      return Object.entries(COLOURS).find(([, [red, green, blue]]) => Math.hypot(r - red, g - green, b - blue) < 12)?.[0] ?? '?'
    })
    .join(' ')
}

/** Where lines of words begin on the left of a page, in pixels from its top. */
async function linesOf(office: OpenedOffice, page: number): Promise<readonly number[]> {
  const canvas = await drawPage(await pageOf(office.pdf, page), { width: 640, height: 640 })
  const width = Math.round(canvas.width * 0.4)
  const { data } = canvas.getContext('2d').getImageData(0, 0, width, Math.round(canvas.height * 0.6))
  const dark = Array.from({ length: data.length / 4 / width }, (_, y) =>
    data.subarray(y * width * 4, (y + 1) * width * 4).some((value, n) => n % 4 === 0 && value < 90),
  )
  return dark.flatMap((now, y) => (now && dark[y - 1] !== true ? [y] : []))
}

const box = (colour: string, x: number, name: string): Parameters<Parameters<MadeSlide['put']>[0]['addShape']>[1] => ({
  ...{ x, y: 5, w: 1.5, h: 1.5, objectName: name },
  fill: { color: colour },
})
const RED = 'CC3333'
const GREEN = '339933'
const BLUE = '3333CC'
/** Middles of the three boxes, in fractions of a slide of 13.33 by 7.5 inches. */
const PLACES = [
  [1.75 / 13.333, 5.75 / 7.5],
  [5.75 / 13.333, 5.75 / 7.5],
  [9.75 / 13.333, 5.75 / 7.5],
] as const
/** The blue box where its path leads: a tenth of the slide's width to the right, three tenths of its height up. */
const ARRIVED = [9.75 / 13.333 + 0.1, 5.75 / 7.5 - 0.3] as const

/** Boxes that come, go and move, and points that come one by one: shapes 2 to 5. */
const moving: MadeSlide = {
  put: (slide) => {
    slide.addShape('rect', box(RED, 1, 'red'))
    slide.addShape('rect', box(GREEN, 5, 'green'))
    slide.addShape('rect', box(BLUE, 9, 'blue'))
    slide.addText(
      ['First the wind', 'Then the water', 'Last the boats'].map((text) => ({ text, options: { bullet: true, breakLine: true } })),
      { x: 0.5, y: 0.6, w: 5, h: 3.6, fontSize: 28, valign: 'middle' },
    )
  },
  effects: [
    { shape: 5, paragraphs: [0, 0], does: 'entrance', how: 'fade', begins: 'click' },
    { shape: 5, paragraphs: [1, 1], does: 'entrance', begins: 'click' },
    { shape: 2, does: 'entrance', begins: 'with' },
    { shape: 3, does: 'exit', begins: 'after' },
    { shape: 4, does: 'emphasis', begins: 'click' },
    { shape: 5, paragraphs: [2, 2], does: 'entrance', begins: 'click' },
    { shape: 4, does: 'path', path: 'M 0 0 L 0.1 -0.3 E', begins: 'with' },
    { shape: 2, does: 'exit', begins: 'click' },
  ],
}

const still: MadeSlide = {
  put: (slide) => {
    slide.addText('Ebb and flow', { x: 1, y: 1, w: 8, h: 1, placeholder: 'none' })
    slide.addImage({ data: PIXEL, x: 1, y: 3, w: 2, h: 2, altText: 'A tide table' })
  },
}
const PIXEL = 'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='

describe('steps of an office deck', () => {
  const check = async (office: OpenedOffice): Promise<void> => {
    expect(office.groups).toEqual([[1, 2, 3, 4, 5]])
    expect(office.slides[0]?.states.map(({ clicks, soft }) => [clicks, soft])).toEqual([
      [0, false],
      [1, true],
      [2, false],
      [4, false],
      [5, false],
    ])
    const looks = await Promise.all([1, 2, 3, 4, 5].map((page) => seen(office, page, [...PLACES, ARRIVED])))
    expect(looks).toEqual(['- green blue -', '- green blue -', 'red - blue -', 'red - - blue', '- - - blue'])
    // Points stand from the start where they stand when all are there.
    const [none, one, two, three] = await Promise.all([1, 2, 3, 4].map((page) => linesOf(office, page)))
    expect([none, one, two]).toEqual([[], three?.slice(0, 1), three?.slice(0, 2)])
    expect(three).toHaveLength(3)
    expect(office.slides[0]?.states[3]?.motions).toMatchObject([{ path: expect.stringMatching(/^M 0 0 L 0.1 -0.3/) as string }])
    expect(office.slides[0]?.states[3]?.motions[0]?.box.x).toBeCloseTo(9 / 13.333, 2)
    expect(office.findings.map(({ kind }) => kind).filter((kind) => kind !== 'font')).toEqual(['effect', 'path'])
  }

  it('show what is there after each click, in PresentationML', async () => {
    await check(await open(await makeOfficeDeck([moving])))
  })

  it('show the same in an old file, which is made a newer one first', async () => {
    const path = join(folder, 'old.pptx')
    await writeFile(path, await makeOfficeDeck([still, moving]))
    const old = await readFile(await convertOffice(path, { ending: 'ppt', filter: 'MS PowerPoint 97' }, folder, converter))
    expect(await officeKindOf(join(folder, 'old.ppt'), old.subarray(0, 1024))).toBe('ppt')
    const office = await open(old, 'ppt')
    expect(office.slides).toHaveLength(2)
    const looks = await Promise.all((office.groups[1] ?? []).map((page) => seen(office, page, [...PLACES, ARRIVED])))
    expect(looks).toEqual(['- green blue -', '- green blue -', 'red - blue -', 'red - - blue', '- - - blue'])
  })

  it.each([AS_ODP, { ending: 'otp', filter: 'impress8_template' }])('show the same in OpenDocument, as $ending', async (format) => {
    const path = join(folder, `as-${format.ending}.pptx`)
    await writeFile(path, await makeOfficeDeck([moving]))
    await check(await open(await readFile(await convertOffice(path, format, folder, converter)), 'odp'))
  })

  it('come of groups and of shapes that stand where their layout says, too', async () => {
    const grouped = (id: number, x: number): string =>
      `<p:sp><p:nvSpPr><p:cNvPr id="${String(id)}" name="in group"/><p:cNvSpPr/><p:nvPr/></p:nvSpPr><p:spPr><a:xfrm>` +
      `<a:off x="${String(x)}" y="0"/>` +
      '<a:ext cx="100" cy="100"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom>' +
      '<a:solidFill><a:srgbClr val="CC3333"/></a:solidFill></p:spPr></p:sp>'
    // A group in units of its own: 300 by 100 of them are 9 by 3 inches.
    const group =
      '<p:grpSp><p:nvGrpSpPr><p:cNvPr id="20" name="group"/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr>' +
      '<a:xfrm><a:off x="914400" y="914400"/><a:ext cx="8229600" cy="2743200"/><a:chOff x="0" y="0"/><a:chExt cx="300" cy="100"/>' +
      '</a:xfrm></p:grpSpPr>' +
      `${grouped(21, 0)}${grouped(22, 200)}</p:grpSp>`
    const office = await open(
      await makeOfficeDeck([
        {
          put: () => undefined,
          shapes: group,
          effects: [
            { shape: 20, does: 'entrance', begins: 'click' },
            { shape: 22, does: 'path', path: 'M 0 0 L 0 0.3 E', begins: 'click' },
            { shape: 21, does: 'exit', begins: 'click' },
          ],
        },
      ]),
    )
    const places = [
      [2.5 / 13.333, 2.5 / 7.5],
      [8.5 / 13.333, 2.5 / 7.5],
      [8.5 / 13.333, 2.5 / 7.5 + 0.3],
    ] as const
    const looks = await Promise.all([1, 2, 3, 4].map((page) => seen(office, page, places)))
    expect(looks).toEqual(['- - -', 'red red -', 'red - red', '- - red'])
  })
})

describe('what an office deck says of its slides', () => {
  it('comes along: notes by paragraph, what is left out, sections, transitions, what pictures show, numbers', async () => {
    const office = await open(
      await rewritten(
        await makeOfficeDeck([
          { ...still, notes: 'Good evening.', section: 'Water', transition: '<p:fade/>' },
          { ...moving, hidden: true },
          { put: (slide) => (slide.slideNumber = { x: 1, y: 6 }), section: 'Wind', transition: '<p:vortex/>', effects: [] },
        ]),
        (name, text) =>
          name.startsWith('ppt/notesSlides/')
            ? text.replace(
                /<a:p>(<a:r>.*?<a:t>)Good evening\.(<\/a:t>.*?)<\/a:p>/s,
                '<a:p>$1Good evening.$2</a:p><a:p>$1Point at the table.$2</a:p>',
              )
            : text,
      ),
    )
    const [first, second, third] = office.slides
    expect(first).toMatchObject({
      notes: 'Good evening.\n\nPoint at the table.',
      section: 'Water',
      transition: 'fade',
      description: 'A tide table',
    })
    expect(second).toMatchObject({ hidden: true, section: '' })
    expect(third).toMatchObject({ section: 'Wind', transition: 'fade', hidden: false })
    expect(office.findings).toContainEqual({ kind: 'transition', slide: 3 })
    // The third slide is the seventh page, and still says its own number.
    expect(office.groups).toEqual([[1], [2, 3, 4, 5, 6], [7]])
    const words = (await (await pageOf(office.pdf, 7)).getTextContent()).items.map((item) => ('str' in item ? item.str : ''))
    expect(words.join('').trim()).toBe('3')
  })

  it('comes along in OpenDocument too: notes, what is left out, transitions, numbers of slides that have several pages', async () => {
    const numbered = (made: MadeSlide): MadeSlide => ({
      ...made,
      put: (slide) => {
        made.put(slide)
        slide.slideNumber = { x: 12, y: 6.9, w: 1, h: 0.4 }
      },
    })
    const path = join(folder, 'facts.pptx')
    const slides = [
      { ...moving, notes: 'Point at the boats.', transition: '<p:push/>' },
      { ...still, hidden: true },
    ]
    await writeFile(path, await makeOfficeDeck(slides.map(numbered)))
    const office = await open(await readFile(await convertOffice(path, AS_ODP, folder, converter)), 'odp')
    expect(office.slides.map(({ notes, hidden, transition, description }) => [notes, hidden, transition, description])).toEqual([
      ['Point at the boats.', false, 'push', ''],
      ['', true, 'cut', 'A tide table'],
    ])
    const words = async (page: number): Promise<readonly string[]> =>
      (await (await pageOf(office.pdf, page)).getTextContent()).items.map((item) => ('str' in item ? item.str.trim() : ''))
    expect(await Promise.all([1, 5, 6].map(async (page) => (await words(page)).filter((word) => /^\d$/.test(word))))).toEqual([
      ['1'],
      ['1'],
      ['2'],
    ])
  })

  it('has links where they were, and words from right to left, and tells of a picture that is missing', async () => {
    const office = await open(
      await rewritten(
        await makeOfficeDeck([
          {
            put: (slide) => {
              slide.addText([{ text: 'The tide tables', options: { hyperlink: { url: 'https://tides.example/' } } }], {
                x: 1,
                y: 1,
                w: 5,
                h: 1,
              })
              slide.addText('سنونو الميناء', { x: 1, y: 3, w: 8, h: 1, fontSize: 32, rtlMode: true, lang: 'ar-SA' })
            },
            relations: [{ id: 'rIdGone', type: 'image', target: '../media/gone.png' }],
          },
        ]),
        (_, text) => text,
      ),
    )
    const page = await pageOf(office.pdf, 1)
    expect(pageLinks(page, await annotationsOf(page)).map(({ address }) => address)).toEqual(['https://tides.example/'])
    expect(await linesOf(office, 1)).not.toEqual([])
    expect(office.findings).toContainEqual({ kind: 'missing', slide: 1 })
  })

  it('tells of what cannot come: fonts, films elsewhere, what is missing, macros', async () => {
    const link = { type: 'video', external: true } as const
    const picture = (id: number, relation: string): string =>
      `<p:pic><p:nvPicPr><p:cNvPr id="${String(id)}" name="film"/><p:cNvPicPr/><p:nvPr>` +
      `<a:videoFile r:link="${relation}"/></p:nvPr></p:nvPicPr>` +
      '<p:blipFill/><p:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="9" cy="9"/></a:xfrm><a:prstGeom prst="rect"/></p:spPr></p:pic>'
    const office = await open(
      await makeOfficeDeck(
        [
          {
            put: (slide) => slide.addText('Kelp', { x: 1, y: 1, w: 3, h: 1, fontFace: 'Mole Antiqua' }),
            shapes: picture(50, 'rIdA') + picture(51, 'rIdB'),
            relations: [
              { id: 'rIdA', target: 'https://films.example/tide', ...link },
              { id: 'rIdB', target: 'file:///home/somebody/tide.mp4', ...link },
            ],
          },
        ],
        { 'ppt/vbaProject.bin': 'macro' },
      ),
    )
    expect(office.findings).toContainEqual({ kind: 'internet', slide: 1, host: 'films.example' })
    expect(office.findings).toContainEqual({ kind: 'elsewhere', slide: 1 })
    expect(office.findings).toContainEqual({ kind: 'font', font: 'Mole Antiqua', standIn: expect.stringMatching(/\w/) as string })
    expect(office.findings).toContainEqual({ kind: 'macros' })
  })

  it('has what was recorded: voice or camera, timings, clicks, pointer and ink', async () => {
    const newer = 'xmlns:p14="http://schemas.microsoft.com/office/powerpoint/2010/main"'
    const traces =
      `<p:extLst><p:ext uri="{1}"><p14:laserTraceLst ${newer}><p14:tracePtLst>` +
      '<p14:tracePt t="400" x="6096000" y="3429000"/><p14:tracePt t="700" x="12192000" y="0"/></p14:tracePtLst>' +
      '</p14:laserTraceLst></p:ext>' +
      `<p:ext uri="{2}"><p14:showEvtLst ${newer}><p14:triggerEvt type="onClick" time="900" objId="2"/>` +
      '<p14:triggerEvt type="onClick" time="1500" objId="2"/></p14:showEvtLst></p:ext></p:extLst>'
    const office = await open(
      await makeOfficeDeck([
        {
          put: (slide) => {
            slide.addShape('rect', box(RED, 1, 'red'))
            slide.addShape('rect', box(GREEN, 5, 'green'))
            slide.addMedia({
              type: 'audio',
              data: `audio/m4a;base64,${voice}`,
              extn: 'm4a',
              objectName: 'voice',
              x: 11,
              y: 6,
              w: 0.5,
              h: 0.5,
            })
          },
          effects: [
            { shape: 2, does: 'entrance', begins: 'click' },
            { shape: 3, does: 'entrance', begins: 'click' },
          ],
          narration: 'voice',
          advance: 2500,
          extensions: traces,
        },
        {
          put: (slide) => slide.addMedia({ type: 'video', data: `video/mp4;base64,${film}`, objectName: 'camera', x: 9, y: 4, w: 3, h: 2 }),
          narration: 'camera',
        },
        { put: (slide) => slide.addMedia({ type: 'audio', data: `audio/m4a;base64,${voice}`, extn: 'm4a', x: 1, y: 1, w: 1, h: 1 }) },
      ]),
    )
    const [spoken, seenToo, silent] = office.slides
    expect(spoken?.recording).toMatchObject({ camera: false, length: 2500, clicks: [900, 1500] })
    expect(spoken?.recording?.pointer).toEqual([
      {
        at: 400,
        path: [
          { dt: 0, x: 0.5, y: expect.closeTo(0.5, 3) as number },
          { dt: 300, x: 1, y: 0 },
        ],
      },
    ])
    expect(seenToo?.recording).toMatchObject({ camera: true, length: null })
    // A sound that is no recording is a clip.
    expect(silent?.recording).toBeNull()
    expect(office.slides.map(({ clips }) => clips.length)).toEqual([0, 0, 1])
    expect(silent?.clips[0]).toMatchObject({ film: false, start: 'click', state: 0, loop: false })
  })
  let voice = ''
  let film = ''
  beforeAll(async () => {
    voice = (await toneFile(2, 440)).toString('base64')
    film = (await filmFile(2, 'red', 660)).toString('base64')
  })
})

describe('an office deck that is no good', () => {
  const refused = async (deck: Buffer, kind?: OfficeKind, bounds?: Parameters<typeof open>[2]): Promise<string> =>
    await open(deck, kind, bounds).then(
      () => 'taken',
      (error: unknown) => (error instanceof Error ? error.message : ''),
    )

  it('is refused in words: damaged, without slides, too large, too slow, without a converter', async () => {
    const good = await makeOfficeDeck([still])
    expect(await refused(good.subarray(0, good.length / 2))).toMatch(/damaged/)
    expect(await refused(await rewritten(good, (name, text) => (name === 'ppt/presentation.xml' ? text.slice(0, 400) : text)))).toMatch(
      /damaged/,
    )
    const entities = '<!DOCTYPE p [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]>'
    const bomb = await rewritten(good, (name, text) => (name.endsWith('slide1.xml') ? text.replace('?>', `?>${entities}`) : text))
    expect(await refused(bomb)).toMatch(/damaged/)
    const none = await rewritten(good, (name, text) =>
      name === 'ppt/presentation.xml' ? text.replace(/<p:sldIdLst>.*<\/p:sldIdLst>/s, '') : text,
    )
    expect(await refused(none)).toMatch(/no slides/)
    expect(await refused(good, 'pptx', { mostBytes: 2000 })).toMatch(/unpacks to more/)
    expect(await refused(await makeOfficeDeck([moving, moving]), 'pptx', { mostPages: 7 })).toMatch(/more than 7 slides and steps/)
    expect(await refused(good, 'pptx', { converter: { ...converter, program: '/nowhere' } })).toMatch(/not installed/)
    const hanging = join(folder, 'hangs')
    await writeFile(hanging, '#!/bin/sh\nsleep 600\n')
    await chmod(hanging, 0o755)
    expect(await refused(good, 'pptx', { converter: { ...converter, program: hanging, time: 1500 } })).toMatch(/too long/)
    // The next one is read as if nothing had happened.
    expect((await open(good)).slides).toHaveLength(1)
  })
})
