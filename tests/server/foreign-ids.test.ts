import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Description } from 'joi'
import * as schemas from '@contracts/schemas'
import { asId } from '@core/model'
import type { FilmView, TalkView } from '@contracts'
import { answeredCall, callFields } from '../harness/calls'
import { Client } from '../harness/client'
import { fileForm, makePdf, plainPng } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'

let product: Product

const RULES = { kind: 'talk-rules', version: 1, name: 'Tides', length: { most: 600 }, fields: [{ key: 'surname', label: 'Surname' }] }

/** A person with a talk that has some of everything. */
interface Person {
  readonly client: Client
  readonly ids: Readonly<
    Record<
      | 'talk'
      | 'slide'
      | 'other'
      | 'take'
      | 'stretch'
      | 'visit'
      | 'stroke'
      | 'rehearsal'
      | 'picture'
      | 'screen'
      | 'preset'
      | 'delivery'
      | 'group'
      | 'series'
      | 'place'
      | 'rules'
      | 'call'
      | 'entrant'
      | 'entry',
      string
    >
  >
}

async function personWith(name: string, hue: number): Promise<Person> {
  const client = new Client(product.url)
  const account = { email: `${name}@harbour.example`, password: 'heron lantern gravel' }
  await client.get('POST', '/people', { name, ...account })
  await client.get('POST', '/session', account)
  const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name, limit: null })
  await client.get(
    'POST',
    `/talks/${talk}/imports`,
    fileForm(
      'deck.pdf',
      await makePdf([
        { colour: [hue, 90, 90], title: name },
        { colour: [90, hue, 90], title: 'Second' },
      ]),
    ),
  )
  const view = await until('the deck', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return now.imports[0]?.state === 'done' && now
  })
  const [slide = '', other = ''] = view.slides.map((one) => String(one.id))
  const stroke = randomUUID()
  const drawn = { id: stroke, slide, colour: 'moss', width: 'fine', pressure: false, points: [{ dt: 0, x: 0.1, y: 0.1, p: 0.5 }] }
  const { take } = await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await toneRecording(3),
      length: 2900,
      slide,
      cues: [
        { kind: 'ink', at: 300, stroke: drawn },
        { kind: 'show', at: 1500, slide: other, step: 0 },
      ],
    },
  ])
  const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
  const rehearsal = randomUUID()
  await client.get('PUT', `/talks/${talk}/rehearsals/${rehearsal}`, {
    started: new Date().toISOString(),
    visits: [{ slide, length: 1000 }],
  })
  const [picture] = await client.get<{ asset: string }[]>(
    'POST',
    `/talks/${talk}/pictures`,
    fileForm('pier.png', plainPng(60, 40, name === 'maren' ? 'teal' : 'navy')),
  )
  const recipe = { ...view.recipe, lines: 480, name }
  const { limit: _, part: __, fields: ___, ...preset } = recipe
  const kept = await client.get<{ id: string }>('POST', '/presets', { name, preset: { ...preset, limit: 'none' } })
  const { id: delivery } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
    ...recipe,
    starts: new Date(Date.now() + 3_600_000).toISOString(),
  })
  const group = await client.get<{ id: string }>('POST', '/groups', { name, members: [{ address: account.email, name }] })
  const [series] = await client.get<{ id: string }[]>('POST', '/series', { name })
  const drive = { name, kind: 'webdav', address: 'http://127.0.0.1:9/dav', user: name, word: 'heron' }
  const place = await client.get<{ id: string }>('POST', '/places', drive)
  await client.get('POST', '/rules', { rules: { ...RULES, name } })
  const [rules] = await client.get<{ id: string }[]>('GET', '/rules')
  await client.get('PUT', `/talks/${talk}/hand-in`, { rules: RULES })
  const shown = view.slides[0]?.steps[0]?.picture
  const { call, entrant, entry } = await answeredCall(product.url, client, name)
  return {
    client,
    ids: {
      talk,
      slide,
      other,
      take,
      stretch: String(film.stretches[0]?.id),
      visit: String(film.programme.pieces[0]?.visit),
      stroke,
      rehearsal,
      picture: picture?.asset ?? '',
      screen: shown?.kind === 'page' ? shown.screen : '',
      preset: kept.id,
      delivery,
      group: group.id,
      series: series?.id ?? '',
      place: place.id,
      rules: rules?.id ?? '',
      call,
      entrant,
      entry,
    },
  }
}

let owner: Person
let stranger: Person
beforeAll(async () => {
  product = await startProduct({ AISLE_ACCOUNTS: 'on', AISLE_SIGN_UP: 'open' })
  owner = await personWith('maren', 200)
  stranger = await personWith('ilse', 40)
})
afterAll(async () => {
  await product.stop()
})

/** What a page of the stranger's can send, with every kind of edit, cue and intent. */
function requestsOf({
  talk,
  slide,
  other,
  take,
  stretch,
  visit,
  stroke,
  picture,
  group,
  series,
  delivery,
  place,
  call,
  entrant,
  entry,
}: Person['ids']) {
  const author = randomUUID()
  const drawn = { id: randomUUID(), slide, colour: 'moss', width: 'fine', pressure: false, points: [{ dt: 0, x: 0.1, y: 0.1, p: 0.5 }] }
  const composition = {
    layout: 'points',
    theme: 'paper',
    heading: 'Low water',
    body: '',
    second: '',
    pictures: [{ asset: picture, size: { width: 60, height: 40 }, alt: '' }],
    reveal: 'slide',
  }
  const framing = {
    rect: { x: 0.7, y: 0.7, w: 0.2, h: 0.2 },
    placing: 'over',
    outline: 'round',
    border: 'thin',
    mirrored: false,
    zoom: 1,
    centre: { x: 0.5, y: 0.5 },
    off: false,
  }
  const clip = {
    id: randomUUID(),
    name: 'tank.mp4',
    media: {
      file: picture,
      length: 1000,
      picture: { size: { width: 60, height: 40 }, rate: { num: 25, den: 1 }, poster: picture },
      sound: false,
      loudness: null,
    },
    box: { x: 0.1, y: 0.1, w: 0.5, h: 0.5 },
    step: 0,
    start: 'click',
    from: 0,
    to: 1000,
    loop: false,
    gain: 0,
  }
  const object = randomUUID()
  const drawing = {
    objects: [
      {
        id: object,
        form: { kind: 'picture', asset: picture, size: { width: 60, height: 40 }, alt: '' },
        box: { x: 0.1, y: 0.1, w: 0.5, h: 0.5 },
        turn: 0,
        colour: 'mark',
        opacity: 1,
        locked: false,
        group: null,
      },
    ],
    motions: [
      { id: randomUUID(), object, step: 1, start: 'step', delay: 0, duration: 100, ease: 'calm', does: { kind: 'comes', how: 'fade' } },
    ],
    starts: [{ step: 1, after: 'begun', wait: 100 }],
    theme: 'paper',
  }
  const deck = [
    { kind: 'move', slides: [slide], before: other },
    { kind: 'set', slides: [slide], fields: { notes: 'x', composition, clips: [clip], drawing } },
    { kind: 'remove', slides: [slide] },
    { kind: 'restore', slides: [slide], at: 0 },
    {
      kind: 'compose',
      at: 0,
      slide: {
        id: randomUUID(),
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
      },
    },
    { kind: 'merge', slides: [slide, other] },
    { kind: 'split', slide, keep: 1, as: randomUUID() },
    { kind: 'shape', shape: { width: 16, height: 9 } },
    { kind: 'all', edits: [{ kind: 'remove', slides: [slide] }] },
  ]
  const over = { id: randomUUID(), visit, offset: 0, length: 1000 }
  const programme = [
    { kind: 'cut', parts: [{ from: 100, to: 200 }] },
    { kind: 'drop', visits: [visit] },
    { kind: 'reopen', seam: visit },
    { kind: 'move', visit, before: visit },
    { kind: 'repeat', visit, before: visit, name: 'abc' },
    { kind: 'tempo', visits: [visit], rate: { num: 21, den: 20 } },
    { kind: 'hold', visit, length: 1000 },
    { kind: 'hush', visits: [visit] },
    { kind: 'looked', visits: [visit] },
    { kind: 'linger', visit, length: 1000, step: 0, of: { stretch, at: 100 } },
    { kind: 'insert', slide, version: 1, length: 1000, before: visit, name: randomUUID() },
    { kind: 'framing', visits: [visit], framing },
    { kind: 'captions', style: { size: 'large', place: 'foot', ground: 'light' } },
    { kind: 'overlay', overlay: { kind: 'text', ...over, theme: 'paper', at: null, text: 'Low water' } },
    {
      kind: 'overlay',
      overlay: {
        kind: 'picture',
        ...over,
        asset: picture,
        size: { width: 60, height: 40 },
        alt: '',
        box: { x: 0.1, y: 0.1, w: 0.2, h: 0.2 },
      },
    },
    {
      kind: 'bed',
      bed: {
        id: randomUUID(),
        visit,
        offset: 0,
        length: null,
        name: 'music',
        media: { file: picture, length: 9000, picture: null, sound: true, loudness: -20 },
        from: 0,
        repeat: true,
        fadeIn: 100,
        fadeOut: 100,
        gain: -9,
        instead: false,
        credit: '',
      },
    },
    { kind: 'bare', ids: [over.id] },
    {
      kind: 'voice',
      stretches: [stretch],
      visits: [visit],
      treatment: { noise: 'learned', hum: null, rumble: true, sibilance: false, level: true },
    },
    { kind: 'light', stretches: [stretch], visits: [visit], light: { brightness: 0.1, contrast: 1.1, warmth: 0.2 } },
    { kind: 'backdrop', stretches: [stretch], visits: [visit], backdrop: { kind: 'picture', asset: picture, finder: 'cloth' } },
    { kind: 'ink', visit, strokes: [stroke], change: { kind: 'delete' } },
    { kind: 'draw', ink: { visit, over: { kind: 'stretch', id: stretch }, at: 100, stroke: drawn } },
    { kind: 'all', edits: [{ kind: 'draw', ink: { visit, over: { kind: 'stretch', id: stretch }, at: 100, stroke: drawn } }] },
  ]
  const cues = [
    { kind: 'clip', at: 0, clip: clip.id, place: 0, playing: true },
    { kind: 'show', at: 1, slide, step: 0 },
    { kind: 'ink', at: 1, stroke: drawn },
    { kind: 'erase', at: 1, stroke },
    { kind: 'wipe', at: 1, slide },
    { kind: 'point', at: 1, path: [{ dt: 0, x: 0.1, y: 0.1 }] },
    { kind: 'blank', at: 1, on: true },
    { kind: 'inset', at: 1, on: true },
    { kind: 'mute', at: 1, on: true },
    { kind: 'stumble', at: 1 },
  ]
  const intents = [
    { kind: 'replaceAll' },
    { kind: 'append' },
    { kind: 'replaceFrom', at: 10 },
    { kind: 'retake', visit },
    { kind: 'range', visit, from: 1, to: 20 },
    { kind: 'dub', at: 10 },
  ]
  const recipe = { quality: 'good', name: 'file', limit: { kind: 'none' }, lines: 480, part: { kind: 'slides', slides: [slide] } }
  const share = { presenter: '', description: '', handout: true, viewerNotes: true, film: null, questions: true }
  const opening = { slide, step: 0, blank: false, inset: true, ink: [drawn] }
  return {
    deck,
    programme,
    cues,
    intents,
    all: [
      ...deck.map((edit) => ['POST', `/talks/${talk}/deck`, { revision: 0, edit }] as const),
      ...programme.map((edit) => ['POST', `/talks/${talk}/programme`, { revision: 0, author, edit }] as const),
      ['POST', `/talks/${talk}/programme/use`, { revision: 0, author, visit, take, showing: visit, name: 'abc' }] as const,
      ...cues.map((cue) => ['PUT', `/stretches/${stretch}/cues`, { first: 50, cues: [cue] }] as const),
      ...intents.map((intent) => ['PUT', `/talks/${talk}/takes/${randomUUID()}`, { kind: 'full', intent }] as const),
      ['POST', `/takes/${take}/recover`, { browser: author }] as const,
      ['PUT', `/stretches/${randomUUID()}`, { take, number: 5, camera: false, voice: false, mime: 'audio/webm', opening }] as const,
      ['POST', `/talks/${talk}/copies`, { from: talk, slides: [slide], at: 0 }] as const,
      ['PUT', `/talks/${talk}/share`, { ...share, level: 'group', group }] as const,
      ['PUT', `/talks/${talk}/share/people`, { people: [] }] as const,
      ['DELETE', `/talks/${talk}/words/brought`, {}] as const,
      ['POST', `/talks/${talk}/words/corrections`, { corrections: [{ stretch, from: 0, until: 500, text: 'Tide' }] }] as const,
      ['POST', `/talks/${talk}/words/listen`, {}] as const,
      ['PUT', `/talks/${talk}/words/terms`, { terms: ['Skerrow'] }] as const,
      ['PUT', `/series/${series}`, { name: 'Others', description: '', shelved: false, group, talks: [talk] }] as const,
      ['POST', `/series/${series}/letters`, { talk }] as const,
      ['PUT', `/groups/${group}`, { name: 'Others', members: [] }] as const,
      ['PUT', `/talks/${talk}/hand-in`, { rules: RULES }] as const,
      ['PATCH', `/talks/${talk}/hand-in`, { fields: { surname: 'Lund' }, cover: slide }] as const,
      ['PUT', `/calls/${call}`, callFields({ audience: 'group', group: asId(group), deck: talk })] as const,
      ['POST', `/calls/${call}/letters`, { entrants: [entrant] }] as const,
      ['POST', `/calls/${call}/entrants/${entrant}/link`, {}] as const,
      ['PATCH', `/calls/${call}/entries/${entry}`, { review: 'sent-back', remark: 'Once more.' }] as const,
      ['PUT', `/places/${place}`, { name: 'Other', kind: 'tus', address: 'http://127.0.0.1:9', user: '' }] as const,
      ['POST', `/places/${place}/try`, {}] as const,
      ['POST', `/deliveries/${delivery}/send`, { kind: 'place', place }] as const,
      ['POST', `/deliveries/${delivery}/mail`, { to: 'ilse@harbour.example', with: 'link' }] as const,
      ['PUT', `/talks/${talk}/recipe`, recipe] as const,
      ['POST', `/talks/${talk}/estimate`, recipe] as const,
      ['POST', `/talks/${talk}/deliveries`, { ...recipe, starts: new Date(Date.now() + 3_600_000).toISOString() }] as const,
      [
        'PUT',
        `/talks/${talk}/rehearsals/${randomUUID()}`,
        { started: new Date().toISOString(), visits: [{ slide, length: 1000 }] },
      ] as const,
    ],
  }
}

/** Every kind that a schema knows, wherever it stands in it. */
const kindsIn = (schema: { describe: () => Description }): ReadonlySet<string> =>
  new Set((schema.describe() as { keys?: { kind?: { allow?: string[] } } }).keys?.kind?.allow ?? [])

/** Ids of things, and digests of what is kept. */
const SHAPES = [/^[0-9a-f]{8}-[0-9a-f-]{27}/, /^[0-9a-f]{64}$/]

/** A value with one of its ids exchanged for another of its shape, for every id in it. */
function withEachIdExchanged(value: unknown, by: string): readonly unknown[] {
  if (typeof value === 'string') return SHAPES.some((shape) => shape.test(value) && shape.test(by)) ? [by] : []
  if (Array.isArray(value))
    return value.flatMap((inner: unknown, n) =>
      withEachIdExchanged(inner, by).map((other) => value.map((own: unknown, k) => (k === n ? other : own))),
    )
  if (value === null || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([key, inner]) => withEachIdExchanged(inner, by).map((other) => ({ ...value, [key]: other })))
}

const AUTHOR = randomUUID()

/** All that a person has, as they are shown it. */
async function allOf({ client, ids: { talk, call } }: Person): Promise<unknown> {
  const paths = [
    '/talks',
    `/talks/${talk}`,
    `/talks/${talk}/film`,
    `/talks/${talk}/deliveries`,
    `/talks/${talk}/programme/history?browser=${AUTHOR}`,
    '/presets',
    '/groups',
    '/series',
    `/talks/${talk}/share`,
    `/talks/${talk}/share/people`,
    `/talks/${talk}/hand-in`,
    '/places',
    '/rules',
    `/calls/${call}/register`,
  ]
  return await Promise.all(paths.map((path) => client.get('GET', path)))
}

describe('an id of another person', () => {
  it('is tried in every place of every kind that the schemas know', () => {
    const { deck, programme, cues, intents } = requestsOf(stranger.ids)
    for (const [schema, samples] of [
      [schemas.deckEdit, deck],
      [schemas.programmeEdit, programme],
      [schemas.cue, cues],
      [schemas.intent, intents],
    ] as const) {
      expect(new Set(samples.map(({ kind }) => kind))).toEqual(kindsIn(schema))
    }
  })

  it('brings nothing of theirs, and changes nothing of theirs, in any place of any request', async () => {
    const before = await allOf(owner)
    const {
      client,
      ids: { talk },
    } = stranger
    let tried = 0
    let revisions: { deck: number; programme: number } | null = null
    for (const [method, path, body] of requestsOf(stranger.ids).all) {
      for (const foreign of new Set(Object.values(owner.ids))) {
        for (const bad of withEachIdExchanged(body, foreign)) {
          revisions ??= {
            deck: (await client.get<TalkView>('GET', `/talks/${talk}`)).revision,
            programme: (await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme.revision,
          }
          const { status } = await client.ask(
            method,
            path,
            'revision' in body ? { ...(bad as object), revision: path.endsWith('/deck') ? revisions.deck : revisions.programme } : bad,
          )
          // What was let through has changed them.
          if (status < 300) revisions = null
          expect([method, path, JSON.stringify(bad), status < 500]).toEqual([method, path, JSON.stringify(bad), true])
          tried += 1
        }
      }
      const [method2, ownPath] = [
        method,
        path
          .replace(talk, owner.ids.talk)
          .replace(stranger.ids.take, owner.ids.take)
          .replace(stranger.ids.stretch, owner.ids.stretch)
          .replace(stranger.ids.group, owner.ids.group)
          .replace(stranger.ids.series, owner.ids.series)
          .replace(stranger.ids.place, owner.ids.place)
          .replace(stranger.ids.call, owner.ids.call)
          .replace(stranger.ids.delivery, owner.ids.delivery),
      ]
      if (ownPath !== path) expect([ownPath, (await client.ask(method2, ownPath, body)).status]).toEqual([ownPath, 404])
    }
    expect(tried).toBeGreaterThan(300)
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    const shown = JSON.stringify([
      film.stretches.map(({ id }) => id),
      film.slides,
      view.slides,
      film.programme.slides,
      view.takes.map(({ id }) => id),
      view.rehearsals,
    ])
    for (const kind of ['slide', 'other', 'take', 'stretch', 'rehearsal', 'picture', 'screen'] as const)
      expect([kind, shown.includes(owner.ids[kind])]).toEqual([kind, false])
    expect((await client.ask('GET', `/talks/${talk}/assets/${owner.ids.screen}`)).status).toBe(404)
    expect(await allOf(owner)).toEqual(before)
  })
})
