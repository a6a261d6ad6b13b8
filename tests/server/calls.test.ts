import { randomUUID } from 'node:crypto'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fieldsOfCall } from '@contracts'
import type { CallFields, CallSheet, CallView, EntrantView, LetterView, RegisterRow, RegisterView, TalkView } from '@contracts'
import type { Rules } from '@core/rules'
import { callFields } from '../harness/calls'
import { Client, sentenceOf } from '../harness/client'
import { fileForm, makePdf, KNOTS } from '../harness/decks'
import { readable, startMailServer } from '../harness/mail'
import type { MailServer } from '../harness/mail'
import { filmFile } from '../harness/office-decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { settledDelivery } from '../harness/talks'
import { unzipped } from '../harness/unzipped'

let product: Product
let mail: MailServer
let teacher: Client
beforeAll(async () => {
  mail = await startMailServer()
  product = await startProduct({
    AISLE_ACCOUNTS: 'on',
    AISLE_SIGN_UP: 'open',
    AISLE_SMTP_URL: mail.url,
    AISLE_MAIL_FROM: 'harbour@school.example',
  })
  teacher = await signedIn('Maren Holt', 'maren@harbour.example')
})
afterAll(async () => {
  await product.stop()
  await mail.close()
})

async function signedIn(name: string, email: string): Promise<Client> {
  const client = new Client(product.url)
  const password = 'heron lantern gravel'
  await client.get('POST', '/people', { name, email, password })
  await product.db.updateTable('person').set({ verified: new Date() }).where('email', '=', email).execute()
  await client.get('POST', '/session', { email, password })
  return client
}

const RULES = callFields().rules
const YESTERDAY = () => new Date(Date.now() - 86_400_000).toISOString()
const called = (change: Partial<CallFields> = {}, by = teacher): Promise<CallView> => by.get('POST', '/calls', callFields(change))
const changed = (call: CallView, change: Partial<CallFields>): Promise<CallView> =>
  teacher.get('PUT', `/calls/${call.id}`, { ...fieldsOfCall(call), ...change })
const keyOf = (call: CallView): string => call.link.split('/').at(-1) ?? ''
const tokenOf = (link: string): string => link.split('#own=')[1] ?? ''
const register = async (call: CallView): Promise<readonly RegisterRow[]> =>
  (await teacher.get<RegisterView>('GET', `/calls/${call.id}/register`)).rows
const partOf = ({ client, talk }: Entrant): Promise<EntrantView> => client.get('GET', `/talks/${talk}/entry`)

interface Entrant {
  readonly client: Client
  readonly talk: string
  readonly link: string
}

/** Somebody begins who has no account. */
async function begun(call: CallView, name: string, address: string | null = null): Promise<Entrant> {
  const client = new Client(product.url)
  return { client, ...(await client.get<{ talk: string; link: string }>('POST', `/entrances/${keyOf(call)}/begin`, { name, address })) }
}

/** Somebody records a few seconds. */
async function recorded({ client, talk }: Entrant, seconds = 4): Promise<void> {
  await client.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  const view = await until('the deck', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return now.imports[0]?.state === 'done' && now
  })
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    { media: await toneRecording(seconds), length: seconds * 1000 - 100, slide: view.slides[0]?.id ?? '' },
  ])
}

async function delivered({ client, talk }: Entrant, change: object = {}): Promise<string> {
  const { recipe } = await client.get<TalkView>('GET', `/talks/${talk}`)
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, { ...recipe, ...change })
  expect((await settledDelivery(client, talk, id)).state).toBe('done')
  return id
}

const handIn = ({ client, talk }: Entrant, delivery: string | null) => client.ask('POST', `/talks/${talk}/entry`, { delivery })
const settledPart = (entrant: Entrant): Promise<EntrantView> =>
  until('the entry', async () => {
    const part = await partOf(entrant)
    return part.entries.every(({ state }) => state === 'taken' || state === 'refused') && part
  })

/** Brings files that were recorded elsewhere, and waits until they were looked at. */
async function brought({ client, talk }: Entrant, files: readonly (readonly [string, Uint8Array])[]): Promise<EntrantView> {
  const form = new FormData()
  for (const [name, bytes] of files) form.append('files', new Blob([new Uint8Array(bytes)]), name)
  const { status, body } = await client.ask('POST', `/talks/${talk}/entry/files`, form)
  if (status !== 200) throw new Error(sentenceOf(body))
  return await settledPart({ client, talk, link: '' })
}

const lettersTo = (address: string): readonly string[] =>
  mail.taken.filter(({ to }) => to.includes(address)).map(({ text }) => readable(text))
const letterTo = (address: string, saying: string): Promise<string> =>
  until(`a letter to ${address}`, () => Promise.resolve(lettersTo(address).find((text) => text.includes(saying))))
const linkIn = (letter: string): string => /http\S+#own=[\w-]+/.exec(letter)?.[0] ?? ''

describe('a call', () => {
  it('is shown to whoever has its link, and gives a talk with limit and rules to somebody without an account', async () => {
    const call = await called()
    const stranger = new Client(product.url)
    expect(await stranger.get<CallSheet>('GET', `/entrances/${keyOf(call)}`)).toMatchObject({
      title: 'Knots of the harbour',
      organiser: 'Maren Holt',
      over: false,
      own: null,
    })
    const entrant = await begun(call, 'Ilse Rook', 'ilse@harbour.example')
    expect(await entrant.client.get<TalkView>('GET', `/talks/${entrant.talk}`)).toMatchObject({
      limit: 10_000,
      recipe: { lines: 480, limit: { kind: 'hold', limit: 10_000 } },
      call: { title: 'Knots of the harbour', guest: true },
    })
    expect(await entrant.client.get('GET', `/entrances/${keyOf(call)}`)).toMatchObject({ own: { name: 'Ilse Rook', talk: entrant.talk } })
    // Who begins twice has one talk.
    expect(await entrant.client.get('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Ilse', address: null })).toMatchObject({
      talk: entrant.talk,
    })
    expect((await register(call)).map(({ name, entry }) => ({ name, entry }))).toEqual([{ name: 'Ilse Rook', entry: null }])
  })

  it('begins with a deck of whoever calls, as a copy', async () => {
    const { id: deck } = await teacher.get<{ id: string }>('POST', '/talks', { name: 'Frame', limit: null, starter: 'report' })
    const slides = (await teacher.get<TalkView>('GET', `/talks/${deck}`)).slides
    const entrant = await begun(await called({ deck }), 'Ode Marr')
    const own = (await entrant.client.get<TalkView>('GET', `/talks/${entrant.talk}`)).slides
    expect(own.map(({ title }) => title)).toEqual(slides.map(({ title }) => title))
    expect(own.map(({ id }) => id)).not.toEqual(slides.map(({ id }) => id))
    expect((await entrant.client.ask('GET', `/talks/${deck}`)).status).toBe(404)
  })

  it('asks those who are to have an account to sign in, and the talk is theirs', async () => {
    const call = await called({ accounts: true })
    const { status } = await new Client(product.url).ask('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Ilse', address: null })
    expect(status).toBe(401)
    const pupil = await signedIn('Tove Lind', 'tove@harbour.example')
    const { talk } = await pupil.get<{ talk: string }>('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Tove Lind', address: null })
    expect(await pupil.get<TalkView>('GET', `/talks/${talk}`)).toMatchObject({ call: { guest: false } })
    expect((await pupil.get<{ id: string }[]>('GET', '/talks')).map(({ id }) => id)).toContain(talk)
    expect((await register(call)).map(({ name }) => name)).toEqual(['Tove Lind'])
  })

  it('is answered in words where what is said of it cannot be', async () => {
    const refused = async (change: object): Promise<number> => (await teacher.ask('POST', '/calls', { ...callFields(), ...change })).status
    expect(await refused({ title: '' })).toBe(400)
    expect(await refused({ until: 'soon' })).toBe(400)
    expect(await refused({ audience: 'group' })).toBe(400)
    expect(await refused({ audience: 'group', group: randomUUID() })).toBe(404)
    expect(await refused({ deck: randomUUID() })).toBe(404)
    expect(await refused({ rules: { kind: 'menu' } })).toBe(400)
    const required = await called({ address: 'required' })
    const { body } = await new Client(product.url).ask('POST', `/entrances/${keyOf(required)}/begin`, { name: 'Ilse', address: null })
    expect(sentenceOf(body)).toContain('address')
  })
})

describe('handing in', () => {
  it('takes a finished file at once, gives a receipt by page and mail, and shows it in the register', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ilse Rook', 'ilse2@harbour.example')
    await recorded(entrant)
    await entrant.client.get('PATCH', `/talks/${entrant.talk}`, { name: 'The bowline' })
    expect((await handIn(entrant, await delivered(entrant))).status).toBe(200)
    const { entries } = await partOf(entrant)
    expect(entries).toMatchObject([{ state: 'taken', late: false, title: 'The bowline', review: 'unseen', plays: 'video/mp4' }])
    const [entry] = entries
    expect(await letterTo('ilse2@harbour.example', 'SHA-256')).toContain(String(entry?.digest))
    const [row] = await register(call)
    expect(row).toMatchObject({ name: 'Ilse Rook', limit: 10_000, entries: 1, entry: { id: entry?.id, title: 'The bowline' } })
    expect(row?.entry?.lines.every(({ state }) => state === 'met')).toBe(true)
    const film = await teacher.bytes(`/calls/${call.id}/entries/${String(entry?.id)}/film?show`)
    expect(film.length).toBe(entry?.bytes)
    const part = await teacher.ask('GET', `/calls/${call.id}/entries/${String(entry?.id)}/film?show`, undefined, { range: 'bytes=0-99' })
    expect(part.status).toBe(206)
    // What was handed in stays, whatever becomes of the talk.
    await entrant.client.get('DELETE', `/talks/${entrant.talk}`)
    expect((await teacher.bytes(`/calls/${call.id}/entries/${String(entry?.id)}/film`)).length).toBe(entry?.bytes)
  })

  it('makes the file where there is none, as the talk is at that moment', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ode Marr')
    await recorded(entrant)
    expect((await handIn(entrant, null)).status).toBe(200)
    // A second press while it is being made hands nothing in twice.
    expect((await handIn(entrant, null)).status).toBe(409)
    expect((await settledPart(entrant)).entries).toMatchObject([{ state: 'taken', late: false }])
    expect((await register(call))[0]).toMatchObject({ entries: 1 })
  })

  it('tells somebody whose talk is over before a file is made, and again for a file that is', async () => {
    const call = await called({ rules: { ...RULES, length: { most: 3 } } })
    const entrant = await begun(call, 'Ilse Rook')
    await recorded(entrant, 5)
    expect(sentenceOf((await handIn(entrant, null)).body)).toContain('over its limit')
    const long = await delivered(entrant, { limit: { kind: 'none' } })
    expect(sentenceOf((await handIn(entrant, long)).body)).toContain('too long')
    expect((await partOf(entrant)).entries).toEqual([])
  })

  it('takes what does not keep the rules where whoever called says so, and says what is not kept', async () => {
    const call = await called({ rules: { ...RULES, length: { most: 3 } }, faulty: 'marked' })
    const entrant = await begun(call, 'Ilse Rook')
    await recorded(entrant, 5)
    expect((await handIn(entrant, null)).status).toBe(200)
    expect((await settledPart(entrant)).entries[0]?.state).toBe('taken')
    expect((await register(call))[0]?.entry?.lines.find(({ kind }) => kind === 'length')?.state).toBe('wrong')
  })

  it('can be done again until the last day, from two machines at once, and the newest counts', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ilse Rook', 'ilse3@harbour.example')
    await recorded(entrant)
    const delivery = await delivered(entrant)
    const second = new Client(product.url)
    await second.get('POST', `/entrances/${keyOf(call)}/own`, { token: tokenOf(entrant.link) })
    const answers = await Promise.all([handIn(entrant, delivery), handIn({ ...entrant, client: second }, delivery)])
    // Either the other came first and was done, or it was on its way.
    expect(answers.map(({ status }) => status).filter((status) => status === 200).length).toBeGreaterThan(0)
    const { entries } = await settledPart(entrant)
    expect(entries.every(({ state }) => state === 'taken')).toBe(true)
    expect((await handIn({ ...entrant, client: second }, delivery)).status).toBe(200)
    const rows = await register(call)
    expect(rows).toHaveLength(1)
    expect(rows[0]).toMatchObject({ entries: entries.length + 1, entry: { id: (await partOf(entrant)).entries[0]?.id } })
    // Of what something newer took the place of nothing is shown any more.
    expect((await teacher.ask('GET', `/calls/${call.id}/entries/${String(entries.at(-1)?.id)}/film`)).status).toBe(404)
  })

  it('is over after the last moment, or late, as whoever called says', async () => {
    const call = await called()
    const [entrant, other] = [await begun(call, 'Ilse Rook'), await begun(call, 'Ode Marr')]
    await recorded(entrant)
    const delivery = await delivered(entrant)
    await changed(call, { until: YESTERDAY() })
    expect(sentenceOf((await handIn(entrant, delivery)).body)).toContain('last day is over')
    expect((await partOf(entrant)).closed).toContain('last day is over')
    expect((await new Client(product.url).ask('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Tove', address: null })).status).toBe(409)
    await changed(call, { until: YESTERDAY(), late: 'marked' })
    expect((await handIn(entrant, delivery)).status).toBe(200)
    expect((await register(call))[0]?.entry).toMatchObject({ late: true })
    // What is late never takes the place of what there is.
    expect((await handIn(entrant, delivery)).status).toBe(409)
    expect((await partOf(other)).wouldBeLate).toBe(true)
  })
})

describe('what was recorded elsewhere', () => {
  it('is measured and held against the same rules', async () => {
    const call = await called({ rules: { ...RULES, lines: { least: 100 }, containers: ['mp4'], transcript: {} } })
    const entrant = await begun(call, 'Tove Lind', 'tove2@harbour.example')
    const film = await filmFile(4, 'teal', 440)
    expect((await brought(entrant, [['knot.mp4', film]])).entries[0]).toMatchObject({
      state: 'refused',
      sentence: 'A transcript. None came with it.',
    })
    expect(await letterTo('tove2@harbour.example', 'was not taken')).toContain('transcript')
    const { entries } = await brought(entrant, [
      ['knot.mp4', film],
      ['said.txt', Buffer.from('Over, under, and through.')],
    ])
    expect(entries[0]).toMatchObject({ state: 'taken', brought: true, companions: [{ role: 'transcript', ending: 'txt' }] })
    const said = await teacher.bytes(`/calls/${call.id}/entries/${String(entries[0]?.id)}/transcript`)
    expect(Buffer.from(said).toString()).toContain('through')
  })

  it('is refused in words when it is too long, no film, several, or cut short', async () => {
    const call = await called()
    const entrant = await begun(call, 'Tove Lind')
    const sentence = async (...files: readonly (readonly [string, Uint8Array])[]): Promise<string> =>
      brought(entrant, files).then(
        ({ entries }) => entries[0]?.sentence ?? '',
        (error: unknown) => String(error),
      )
    expect(await sentence(['long.mp4', await filmFile(12, 'teal', 440)])).toContain('too long')
    expect(await sentence(['notes.mp4', Buffer.from('Over and under.')])).toContain('no film or sound')
    expect(await sentence(['empty.mp4', Buffer.alloc(0)])).toContain('is empty')
    expect(await sentence(['a.mp4', Buffer.from('a')], ['b.mp4', Buffer.from('b')])).toContain('several films')
    expect(await sentence(['said.txt', Buffer.from('a')])).toContain('No film')
    expect(await sentence(['film', Buffer.from('a')])).toContain('no ending')
    expect((await register(call))[0]?.entry).toBeNull()
  })

  it('counts from the moment at which it was begun to be sent', async () => {
    const call = await called({ rules: { ...RULES, lines: { least: 100 } } })
    const { client, talk } = await begun(call, 'Tove Lind')
    const form = fileForm('knot.mp4', Buffer.from(await filmFile(3, 'teal', 440)))
    const whole = new Response(form)
    const bytes = Buffer.from(await whole.arrayBuffer())
    let goOn: () => void = () => undefined
    const overTheDay = new Promise<void>((resolve) => {
      goOn = resolve
    })
    const halves = new ReadableStream<Uint8Array>({
      start: async (stream) => {
        stream.enqueue(bytes.subarray(0, bytes.length / 2))
        await overTheDay
        stream.enqueue(bytes.subarray(bytes.length / 2))
        stream.close()
      },
    })
    const sending = client.send('POST', `/talks/${talk}/entry/files`, halves, whole.headers.get('content-type') ?? '')
    // It has begun to arrive once a file stands among the uploads.
    await until('the upload', async () => (await readFilesIn(join(product.data, 'store', 'uploads'))) > 0)
    await changed(call, { until: new Date(Date.now() - 1).toISOString() })
    goOn()
    expect(await sending).toBe(200)
    expect((await settledPart({ client, talk, link: '' })).entries[0]).toMatchObject({ state: 'taken', late: false })
    expect((await client.ask('POST', `/talks/${talk}/entry/files`, fileForm('knot.mp4', bytes))).status).toBe(409)
  })
})

async function readFilesIn(folder: string): Promise<number> {
  return (await readdir(folder).catch(() => [])).length
}

describe('a change while people are at it', () => {
  it('of the rules leaves those held to the earlier ones who have begun, and whoever changed them is told', async () => {
    const call = await called()
    const early = await begun(call, 'Ilse Rook')
    await recorded(early, 4)
    const strict: Rules = { ...RULES, length: { most: 2 } }
    expect(await changed(call, { rules: strict })).toMatchObject({ earlierRules: 1, rulesVersion: 2 })
    const later = await begun(call, 'Ode Marr')
    expect(await later.client.get<TalkView>('GET', `/talks/${later.talk}`)).toMatchObject({ limit: 2000 })
    expect((await partOf(early)).newRules).toEqual(strict)
    expect((await handIn(early, await delivered(early))).status).toBe(200)
    expect((await register(call)).map(({ name, earlierRules, limit }) => ({ name, earlierRules, limit }))).toEqual([
      { name: 'Ilse Rook', earlierRules: true, limit: 10_000 },
      { name: 'Ode Marr', earlierRules: false, limit: 2000 },
    ])
    // They may take the new ones, and are held to those then.
    await early.client.get('POST', `/talks/${early.talk}/entry/rules`)
    expect(await early.client.get<TalkView>('GET', `/talks/${early.talk}`)).toMatchObject({ limit: 2000 })
    expect((await partOf(early)).newRules).toBeNull()
  })

  it('that takes a call back leaves people their talks, and can be undone', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ilse Rook')
    await recorded(entrant)
    const delivery = await delivered(entrant)
    expect((await handIn(entrant, delivery)).status).toBe(200)
    await teacher.get('DELETE', `/calls/${call.id}`)
    expect((await teacher.ask('GET', `/calls/${call.id}/register`)).status).toBe(404)
    expect(await new Client(product.url).get('GET', `/entrances/${keyOf(call)}`)).toMatchObject({ withdrawn: true })
    expect(sentenceOf((await handIn(entrant, delivery)).body)).toContain('taken back')
    expect(await entrant.client.get<TalkView>('GET', `/talks/${entrant.talk}`)).toMatchObject({ id: entrant.talk })
    await teacher.get('POST', `/calls/${call.id}/restore`)
    expect(await register(call)).toMatchObject([{ entry: { state: 'taken' } }])
  })

  it('of what is said of an entry goes to whom it is from, and something sent back can be handed in after the last day', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ilse Rook', 'ilse4@harbour.example')
    await recorded(entrant)
    const delivery = await delivered(entrant)
    await handIn(entrant, delivery)
    const [row] = await register(call)
    const say = (review: string, remark = '', id = row?.entry?.id ?? '') =>
      teacher.ask('PATCH', `/calls/${call.id}/entries/${id}`, { review, remark })
    expect((await say('sent-back')).status).toBe(400)
    expect((await say('sent-back', 'The rope is not seen. Once more, please.')).status).toBe(200)
    expect(await letterTo('ilse4@harbour.example', 'Sent back')).toContain('The rope is not seen')
    expect((await partOf(entrant)).entries[0]).toMatchObject({ review: 'sent-back', remark: 'The rope is not seen. Once more, please.' })
    await changed(call, { until: YESTERDAY() })
    expect((await handIn(entrant, delivery)).status).toBe(200)
    // What was looked at is not what counts any more.
    expect((await say('accepted')).status).toBe(404)
    const [again] = await register(call)
    expect(again).toMatchObject({ entries: 2, entry: { late: true, review: 'unseen' } })
    expect((await say('accepted', '', again?.entry?.id)).status).toBe(200)
    expect(sentenceOf((await handIn(entrant, delivery)).body)).toContain('accepted')
  })
})

describe('those who are asked by their addresses', () => {
  const people = [
    { address: 'una@harbour.example', name: 'Una Berg' },
    { address: 'per@harbour.example', name: 'Per Rask' },
  ]

  it('get a link of their own, by which they begin and find their talk again', async () => {
    const call = await called({ audience: 'people', people })
    const stranger = new Client(product.url)
    expect((await stranger.ask('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Una', address: 'una@harbour.example' })).status).toBe(
      403,
    )
    expect(await teacher.get('POST', `/calls/${call.id}/letters`, {})).toEqual({ written: 2 })
    const link = linkIn(await letterTo('una@harbour.example', 'A talk is asked of you'))
    expect(link).toContain(call.link)
    const una = new Client(product.url)
    await una.get('POST', `/entrances/${keyOf(call)}/own`, { token: tokenOf(link) })
    expect(await una.get('GET', `/entrances/${keyOf(call)}`)).toMatchObject({ own: { name: 'Una Berg', talk: null } })
    const { talk } = await una.get<{ talk: string }>('POST', `/entrances/${keyOf(call)}/begin`, { name: 'x', address: null })
    // From another machine, by the same link.
    const other = new Client(product.url)
    await other.get('POST', `/entrances/${keyOf(call)}/own`, { token: tokenOf(link) })
    expect(await other.get<TalkView>('GET', `/talks/${talk}`)).toMatchObject({ id: talk })
    expect((await register(call)).map(({ name, begun: at }) => [name, at !== null])).toEqual([
      ['Per Rask', false],
      ['Una Berg', true],
    ])
    // Nobody is written to twice within the hour.
    expect(await teacher.get('POST', `/calls/${call.id}/letters`, {})).toEqual({ written: 0 })
  })

  it('have a lost link sent again, and another one ends it', async () => {
    const call = await called({ audience: 'people', people: [{ address: 'siv@harbour.example', name: 'Siv Dahl' }] })
    const stranger = new Client(product.url)
    const ask = (address: string) => stranger.ask('POST', `/entrances/${keyOf(call)}/link`, { address })
    // Whoever asks is told the same.
    expect(await ask('nobody-known@harbour.example')).toEqual(await ask('siv@harbour.example'))
    const link = linkIn(await letterTo('siv@harbour.example', 'Your link'))
    const siv = new Client(product.url)
    await siv.get('POST', `/entrances/${keyOf(call)}/own`, { token: tokenOf(link) })
    const { talk } = await siv.get<{ talk: string }>('POST', `/entrances/${keyOf(call)}/begin`, { name: 'Siv', address: null })
    const { link: fresh } = await siv.get<EntrantView>('POST', `/talks/${talk}/entry/link`)
    expect(fresh).not.toBe(link)
    expect((await stranger.ask('POST', `/entrances/${keyOf(call)}/own`, { token: tokenOf(link) })).status).toBe(404)
    expect((await siv.ask('GET', `/talks/${talk}`)).status).toBe(200)
    expect(lettersTo('nobody-known@harbour.example')).toEqual([])
  })

  it('are let in by no guessed link, nor by that of another call', async () => {
    const [call, other] = [await called(), await called()]
    const entrant = await begun(other, 'Ilse Rook')
    const stranger = new Client(product.url)
    const own = (token: string) => stranger.ask('POST', `/entrances/${keyOf(call)}/own`, { token })
    const token = tokenOf(entrant.link)
    expect((await own(token)).status).toBe(404)
    expect((await own(Buffer.alloc(32, 7).toString('base64url'))).status).toBe(404)
    const altered = `${token.slice(0, -1)}${token.endsWith('A') ? 'E' : 'A'}`
    expect((await stranger.ask('POST', `/entrances/${keyOf(other)}/own`, { token: altered })).status).toBe(404)
    expect((await stranger.ask('GET', `/entrances/${randomUUID().replaceAll('-', '').slice(0, 22)}`)).status).toBe(404)
  })

  it('take part once by an address', async () => {
    const call = await called()
    await begun(call, 'Ilse Rook', 'twice@harbour.example')
    const { status, body } = await new Client(product.url).ask('POST', `/entrances/${keyOf(call)}/begin`, {
      name: 'Ilse',
      address: 'twice@harbour.example',
    })
    expect(status).toBe(409)
    expect(sentenceOf(body)).toContain('begun by this address already')
  })
})

describe('what is whose', () => {
  it('keeps takes, decks and links from whoever called, and the register from those who take part', async () => {
    const call = await called()
    const entrant = await begun(call, 'Ilse Rook', 'ilse5@harbour.example')
    await recorded(entrant)
    const delivery = await delivered(entrant)
    await handIn(entrant, delivery)
    const [row] = await register(call)
    const { takes } = await entrant.client.get<TalkView>('GET', `/talks/${entrant.talk}`)
    for (const path of ['', '/film', '/deliveries', '/words', '/entry', '/hand-in', '/share'])
      expect((await teacher.ask('GET', `/talks/${entrant.talk}${path}`)).status).toBe(404)
    expect((await teacher.ask('GET', `/takes/${String(takes[0]?.id)}/report`)).status).toBe(404)
    expect((await teacher.ask('GET', `/deliveries/${delivery}/file`)).status).toBe(404)
    expect(JSON.stringify(await teacher.get('GET', `/calls/${call.id}/register`))).not.toContain(entrant.talk)
    expect((await teacher.get<LetterView[]>('GET', '/letters')).filter((letter) => letter.private && letter.body !== null)).toEqual([])
    const paths: readonly (readonly [string, string, unknown?])[] = [
      ['GET', '/calls'],
      ['GET', `/calls/${call.id}`],
      ['PUT', `/calls/${call.id}`, fieldsOfCall(call)],
      ['DELETE', `/calls/${call.id}`],
      ['POST', `/calls/${call.id}/restore`],
      ['GET', `/calls/${call.id}/register`],
      ['GET', `/calls/${call.id}/table`],
      ['GET', `/calls/${call.id}/zip`],
      ['POST', `/calls/${call.id}/letters`, {}],
      ['POST', `/calls/${call.id}/entrants/${String(row?.entrant)}/link`],
      ['PATCH', `/calls/${call.id}/entries/${String(row?.entry?.id)}`, { review: 'accepted' }],
      ['GET', `/calls/${call.id}/entries/${String(row?.entry?.id)}/film`],
      ['GET', `/calls/${call.id}/entries/${String(row?.entry?.id)}/transcript`],
    ]
    const colleague = await signedIn('Brage Holm', 'brage@harbour.example')
    for (const [method, path, body] of paths) {
      expect([path, (await entrant.client.ask(method, path, body)).status]).toEqual([path, 401])
      if (path !== '/calls') expect([path, (await colleague.ask(method, path, body)).status]).toEqual([path, 404])
    }
    expect(await colleague.get('GET', '/calls')).toEqual([])
    // Somebody else's entry is none of one's own call.
    const own = await called({}, colleague)
    const foreign = `/calls/${own.id}/entries/${String(row?.entry?.id)}`
    expect((await colleague.ask('GET', `${foreign}/film`)).status).toBe(404)
    expect((await colleague.ask('PATCH', foreign, { review: 'seen' })).status).toBe(404)
    expect((await colleague.ask('POST', `/calls/${own.id}/entrants/${String(row?.entrant)}/link`)).status).toBe(404)
  })

  it('lets somebody without an account do nothing beyond their talk', async () => {
    const call = await called()
    const [entrant, other] = [await begun(call, 'Ilse Rook'), await begun(call, 'Ode Marr')]
    const { talk, client } = entrant
    const share = { presenter: '', description: '', handout: true, viewerNotes: true, film: null, questions: true, level: 'shelf' }
    const beyond: readonly (readonly [string, string, unknown?])[] = [
      ['GET', '/talks'],
      ['POST', '/talks', { name: 'Another', limit: null }],
      ['POST', `/talks/${talk}/duplicate`],
      ['GET', `/talks/${talk}/share`],
      ['PUT', `/talks/${talk}/share`, share],
      ['PUT', `/talks/${talk}/hand-in`, { rules: RULES }],
      ['DELETE', `/talks/${talk}/hand-in`],
      ['GET', '/groups'],
      ['GET', '/places'],
      ['GET', '/letters'],
      ['POST', '/rules', { rules: RULES }],
      ['POST', '/calls', callFields()],
      ['POST', '/series', { name: 'Mine' }],
    ]
    for (const [method, path, body] of beyond) expect([path, (await client.ask(method, path, body)).status]).toEqual([path, 401])
    for (const path of ['', '/film', '/entry', '/deliveries'])
      expect((await client.ask('GET', `/talks/${other.talk}${path}`)).status).toBe(404)
    expect((await handIn({ ...other, client }, null)).status).toBe(404)
    expect((await client.ask('POST', `/talks/${other.talk}/entry/link`)).status).toBe(404)
    const stranger = new Client(product.url)
    expect((await stranger.ask('GET', `/talks/${talk}`)).status).toBe(401)
    expect((await stranger.ask('POST', `/talks/${talk}/entry`, { delivery: null })).status).toBe(401)
  })
})

describe('everything at once', () => {
  it('is a zip with films by a pattern, what goes with them, and a table that names them', async () => {
    const call = await called({ rules: { ...RULES, lines: { least: 100 } } })
    const film = await filmFile(3, 'teal', 440)
    const [one, two] = [await begun(call, 'Ilse Rook'), await begun(call, 'ilse rook')]
    await begun(call, 'Nobody yet')
    for (const entrant of [one, two])
      await brought(entrant, [
        ['knot.mp4', film],
        ['said.txt', Buffer.from('Over.')],
      ])
    const files = await unzipped(await teacher.bytes(`/calls/${call.id}/zip?pattern=${encodeURIComponent('{name}')}`))
    expect([...files.keys()].sort()).toEqual(
      ['Ilse Rook-2-transcript.txt', 'Ilse Rook-2.mp4', 'ilse rook-transcript.txt', 'ilse rook.mp4', 'register.csv'].sort(),
    )
    expect(files.get('ilse rook.mp4')?.equals(film)).toBe(true)
    const { data } = Papa.parse<Record<string, string>>(files.get('register.csv')?.toString() ?? '', { header: true, skipEmptyLines: true })
    expect(data.map((row) => [row['name'], row['file']]).sort()).toEqual([
      ['Ilse Rook', 'Ilse Rook-2.mp4'],
      ['Nobody yet', ''],
      ['ilse rook', 'ilse rook.mp4'],
    ])
    const [row] = await register(call)
    const chosen = await unzipped(await teacher.bytes(`/calls/${call.id}/zip?entries=${String(row?.entry?.id)}`))
    expect([...chosen.keys()].filter((name) => name.endsWith('.mp4'))).toHaveLength(1)
    expect((await teacher.ask('GET', `/calls/${call.id}/zip?entries=x`)).status).toBe(400)
    expect((await teacher.ask('GET', `/calls/${(await called()).id}/zip`)).status).toBe(409)
  })
})
