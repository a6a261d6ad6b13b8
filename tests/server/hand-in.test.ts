import { readFile, readdir } from 'node:fs/promises'
import type { ServerResponse } from 'node:http'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { RULE_SETS } from '@core/rules'
import type { Rules } from '@core/rules'
import type { DeliveryView, HandInView, LetterView, SendingView, TalkView } from '@contracts'
import { DESK_RULES } from '../../stand-ins/desk/rules'
import { Client, sentenceOf } from '../harness/client'
import { startMailServer } from '../harness/mail'
import type { MailServer } from '../harness/mail'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf } from '../harness/recording'
import { startStandIns } from '../harness/stand-ins'
import type { StandInsRunning } from '../harness/stand-ins'
import { heardTalk, settledDelivery } from '../harness/talks'
import { startTus } from '../harness/tus-server'
import { startWebdav } from '../harness/webdav-server'
import { wobblyLine } from '../harness/wobbly-line'

let product: Product
let client: Client
let mail: MailServer
let standIns: StandInsRunning
let talk: string
beforeAll(async () => {
  standIns = await startStandIns()
  mail = await startMailServer()
  product = await startProduct({
    AISLE_STAND_INS: standIns.address,
    AISLE_PRIVATE_PLACES: 'on',
    AISLE_SMTP_URL: mail.url,
    AISLE_MAIL_FROM: 'harbour@school.example',
  })
  client = new Client(product.url)
  talk = await heardTalk(client, 'Swifts over the rope works')
})
afterAll(async () => {
  await product.stop()
  await mail.close()
  await standIns.close()
})

const handIn = (of = talk) => client.get<HandInView>('GET', `/talks/${of}/hand-in`)
const desk = () => `${standIns.address}/desk`

/** Makes a file by the talk's recipe. */
async function made(change: object = {}): Promise<DeliveryView> {
  const { recipe } = await client.get<TalkView>('GET', `/talks/${talk}`)
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, { ...recipe, ...change })
  return await settledDelivery(client, talk, id)
}

const settled = (id: string): Promise<SendingView> =>
  until('the sending', async () => {
    const found = (await handIn()).sendings.find((one) => one.id === id)
    return found !== undefined && !['queued', 'sending'].includes(found.state) && found
  })
async function sent(delivery: string, wish: object): Promise<SendingView> {
  const { id } = await client.get<{ id: string }>('POST', `/deliveries/${delivery}/send`, wish)
  return await settled(id)
}

describe('rules', () => {
  it('come from a desk, and set recipe and limit in one go', async () => {
    const view = await client.get<HandInView>('PUT', `/talks/${talk}/hand-in`, { desk: `${desk()}/` })
    expect(view).toMatchObject({ rules: DESK_RULES, desk: desk(), words: 'en', tries: 0 })
    expect(await client.get<TalkView>('GET', `/talks/${talk}`)).toMatchObject({
      limit: 600_000,
      recipe: { format: 'mp4', lines: 1080, name: '{paper}-{surname}', limit: { kind: 'hold', limit: 600_000 } },
    })
  })

  it('are refused in words when they are none, or nobody is there', async () => {
    const refused = async (body: object): Promise<string> => sentenceOf((await client.ask('PUT', `/talks/${talk}/hand-in`, body)).body)
    expect(await refused({ desk: `${standIns.address}/nowhere` })).toContain('There is no desk at')
    expect(await refused({ desk: 'http://127.0.0.1:9' })).toContain('does not answer')
    expect(await refused({ desk: 'ftp://harbour.example' })).toContain('http')
    expect(await refused({ rules: { kind: 'menu' } })).toContain('no document of rules')
    const [rules] = RULE_SETS
    expect(await refused({ rules: { ...rules, version: 2 } })).toContain('version that is not known')
    expect(await refused({ rules: { ...rules, fileName: '{ship}' } })).toContain('“ship”')
    expect(await refused({ rules: { ...rules, length: { least: 10, most: 5 } } })).not.toBe('')
    expect((await handIn()).rules).toEqual(DESK_RULES)
  })

  it('are kept for other talks, exchanged by their name, and dropped', async () => {
    const rules: Rules = { kind: 'talk-rules', version: 1, name: 'Class 9b', length: { most: 300 } }
    await client.get('POST', '/rules', { rules })
    await client.get('POST', '/rules', { rules: { ...rules, length: { most: 240 } } })
    const kept = await client.get<{ id: string; rules: Rules }[]>('GET', '/rules')
    expect(kept.map((one) => one.rules)).toEqual([{ ...rules, length: { most: 240 } }])
    await client.get('DELETE', `/rules/${kept[0]?.id ?? ''}`)
    expect(await client.get('GET', '/rules')).toEqual([])
  })
})

describe('a hand-in', () => {
  let film: DeliveryView
  it('is refused by our own rules for what is missing, and says what', async () => {
    film = await made()
    expect(film.state).toBe('done')
    const { status, body } = await client.ask('POST', `/deliveries/${film.id}/send`, { kind: 'desk' })
    expect(status).toBe(409)
    expect(sentenceOf(body)).toMatch(/Still empty: Paper, Surname/)
    expect((await handIn()).sendings).toEqual([])
  })

  it('is taken once fields are filled in and the file is called what it should be, with the receipt of what was sent', async () => {
    await client.get('PATCH', `/talks/${talk}/hand-in`, { fields: { paper: '127', surname: 'Brandt' } })
    await client.get('PATCH', `/deliveries/${film.id}`, { name: '127-Brandt', exact: true })
    const { heard, end } = await client.listen()
    const sending = await sent(film.id, { kind: 'desk' })
    expect([sending.state, sending.sentence]).toEqual(['done', null])
    // Pages are told of a file on its way apart from files that are made.
    await until('the news', () => Promise.resolve(heard.length > 0))
    end()
    expect([...new Set(heard.map(({ kind }) => kind))]).toEqual(['sending'])
    const bytes = await client.bytes(`/deliveries/${film.id}/file`)
    expect(sending.digest).toBe(digestOf(bytes))
    const page = await (await fetch(sending.receipt?.page ?? '')).text()
    expect(page).toContain(sending.receipt?.number ?? 'none')
    expect(page).toContain(digestOf(bytes))
    expect((await handIn()).tries).toBe(1)
  })

  it('gives its name to the file that is handed in, and another to the one before', async () => {
    const again = await made()
    expect(again.file).toBe('127-Brandt-2.mp4')
    await client.get('PATCH', `/deliveries/${again.id}`, { name: '127-Brandt', exact: true })
    const files = (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).map(({ file }) => file)
    expect(new Set(files).size).toBe(files.length)
    expect(files[0]).toBe('127-Brandt.mp4')
    film = again
  })

  it('goes on where it came to when the line is cut', async () => {
    const line = await wobblyLine(desk())
    try {
      await client.get('PUT', `/talks/${talk}/hand-in`, { desk: line.address })
      const bytes = film.facts?.bytes ?? 0
      line.cutAfter(Math.round(bytes * 0.6))
      const sending = await sent(film.id, { kind: 'desk' })
      expect([sending.state, sending.sentence, line.wasCut()]).toEqual(['done', null, true])
      // What was there already was not sent again; beside it go transcript, captions and cover.
      expect(line.carried()).toBeLessThan(bytes * 1.5)
    } finally {
      await line.close()
    }
  })

  it('is not begun twice, nor more often than rules allow, and says so', async () => {
    await client.get('PUT', `/talks/${talk}/hand-in`, { desk: desk() })
    const line = await wobblyLine(desk())
    await client.get('PUT', `/talks/${talk}/hand-in`, { desk: line.address })
    line.stopAfter(20_000)
    const { id } = await client.get<{ id: string }>('POST', `/deliveries/${film.id}/send`, { kind: 'desk' })
    expect(sentenceOf((await client.ask('POST', `/deliveries/${film.id}/send`, { kind: 'desk' })).body)).toContain('on its way')
    await client.get('POST', `/sendings/${id}/cancel`)
    expect((await settled(id)).state).toBe('cancelled')
    line.goOn()
    await line.close()
    await client.get('PUT', `/talks/${talk}/hand-in`, { rules: { ...DESK_RULES, tries: 1 } })
    expect(sentenceOf((await client.ask('POST', `/deliveries/${film.id}/send`, { kind: 'desk' })).body)).toContain(
      'did not come from a desk',
    )
  })

  it('that was taken three times is refused by the desk itself, in its own words', async () => {
    await client.get('PUT', `/talks/${talk}/hand-in`, { desk: desk() })
    expect((await sent(film.id, { kind: 'desk' })).state).toBe('done')
    const { sendings } = await handIn()
    expect(sendings.filter(({ state }) => state === 'done')).toHaveLength(3)
    const over = await sent(film.id, { kind: 'desk' })
    expect([over.state, over.sentence]).toEqual(['refused', '3 tries were made.'])
  })

  it('keeps its receipt when the file is deleted', async () => {
    await client.get('DELETE', `/deliveries/${film.id}`)
    expect((await handIn()).sendings.filter(({ receipt }) => receipt !== null)).toHaveLength(3)
  })
})

describe('a file', () => {
  let film: DeliveryView
  beforeAll(async () => {
    film = await made({ lines: 480, name: 'swifts' })
  })
  const place = async (fields: object): Promise<string> => (await client.get<{ id: string }>('POST', '/places', fields)).id

  it.each([true, false])('goes to a WebDAV folder, is stopped and goes on; partial updates: %s', async (partial) => {
    const server = await startWebdav('maren', 'heron lantern', partial)
    const line = await wobblyLine(server.address)
    const name = `drive ${String(partial)}`
    const id = await place({ name, kind: 'webdav', address: line.address, user: 'maren', word: 'heron lantern' })
    await client.get('POST', `/places/${id}/try`)
    const bytes = film.facts?.bytes ?? 0
    const before = line.carried()
    line.stopAfter(Math.round(bytes * 0.5))
    const { id: sending } = await client.get<{ id: string }>('POST', `/deliveries/${film.id}/send`, { kind: 'place', place: id })
    await until('half of it', () => Promise.resolve(line.carried() - before > bytes * 0.4))
    await client.get('POST', `/sendings/${sending}/cancel`)
    expect((await settled(sending)).state).toBe('cancelled')
    line.goOn()
    await until('the rest of it to arrive', async () => (await readdir(server.folder)).some((file) => file.endsWith('.part')))
    await client.get('POST', `/sendings/${sending}/retry`)
    expect(await settled(sending)).toMatchObject({ state: 'done', sentence: null, receipt: { number: 'swifts.mp4' } })
    const [arrived = ''] = await readdir(server.folder)
    expect(arrived).toBe('swifts.mp4')
    expect(digestOf(await readFile(join(server.folder, arrived)))).toBe(digestOf(await client.bytes(`/deliveries/${film.id}/file`)))
    if (partial) expect(line.carried() - before).toBeLessThan(bytes * 1.3)
    // Somebody's own file is never written over.
    await client.get('POST', `/deliveries/${film.id}/send`, { kind: 'place', place: id })
    await until('the second', async () => (await readdir(server.folder)).includes('swifts-2.mp4'))
    await line.close()
    await server.close()
  })

  it('goes to a tus server by name and password, broken off on the way, and whoever it does not let in is told', async () => {
    const server = await startTus('maren', 'heron lantern')
    const line = await wobblyLine(server.address)
    const id = await place({ name: 'uploads', kind: 'tus', address: line.address, user: 'maren', word: 'heron lantern' })
    await client.get('POST', `/places/${id}/try`)
    const bytes = film.facts?.bytes ?? 0
    const before = line.carried()
    line.cutAfter(Math.round(bytes * 0.6))
    expect(await sent(film.id, { kind: 'place', place: id })).toMatchObject({ state: 'done', sentence: null })
    expect([line.wasCut(), line.carried() - before < bytes * 1.5]).toEqual([true, true])
    expect(server.taken.map(({ name }) => name)).toEqual(['swifts.mp4'])
    expect(digestOf(await readFile(server.taken[0]?.path ?? ''))).toBe(digestOf(await client.bytes(`/deliveries/${film.id}/file`)))
    const wrong = await place({ name: 'wrong', kind: 'tus', address: line.address, user: 'maren', word: 'gravel' })
    expect(sentenceOf((await client.ask('POST', `/places/${wrong}/try`)).body)).toContain('does not let “maren” in')
    const none = await place({ name: 'none', kind: 'tus', address: `${standIns.address}/desk`, user: '', word: '' })
    expect(sentenceOf((await client.ask('POST', `/places/${none}/try`)).body)).not.toBe('')
    await line.close()
    await server.close()
  })

  it('goes to the practice site with title, chapters and captions, broken off on the way, and is seen there', async () => {
    const line = await wobblyLine(`${standIns.address}/site`)
    line.cutAfter(Math.round((film.facts?.bytes ?? 0) * 0.5))
    const notes = { title: 'Swifts <at dusk>', description: 'Counted from the pier.', audience: 'everybody' }
    const sending = await sent(film.id, { kind: 'site', address: line.address, notes })
    expect([sending.state, sending.sentence, line.wasCut()]).toEqual(['done', null, true])
    const page = await (await fetch(sending.receipt?.page ?? '')).text()
    expect(page).toContain('Swifts &lt;at dusk&gt;')
    expect(page).toContain('0:00 Bowline')
    const films = (sending.receipt?.page ?? '').replace(line.address, `${standIns.address}/site`)
    expect(new Uint8Array(await (await fetch(`${films}/film`)).arrayBuffer())).toEqual(await client.bytes(`/deliveries/${film.id}/file`))
    expect(await (await fetch(`${films}/captions`)).text()).toContain('Skerrow harbour')
    await line.close()
  })

  it('is taken by the practice site by plain form as well, and refused when it is none', async () => {
    const form = (bytes: Uint8Array): FormData => {
      const data = new FormData()
      data.set('title', 'By hand')
      data.set('film', new Blob([new Uint8Array(bytes)]), 'swifts.mp4')
      return data
    }
    const put = async (bytes: Uint8Array) =>
      await (await fetch(`${standIns.address}/site/form`, { method: 'POST', body: form(bytes) })).text()
    expect(await put(await client.bytes(`/deliveries/${film.id}/file`))).toContain('It is here')
    expect(await put(new TextEncoder().encode('no film'))).toContain('This is no film')
  })

  it('is mailed when it is small, or its link when it is shown', async () => {
    await client.get('POST', `/deliveries/${film.id}/mail`, { to: 'ilse@school.example', with: 'file', words: 'As promised.' })
    const letter = await until('the letter', () => Promise.resolve(mail.taken.find(({ to }) => to.includes('ilse@school.example'))))
    expect(letter.text).toContain('filename=swifts.mp4')
    expect(letter.text).toContain('As promised.')
    const link = { to: 'ilse@school.example', with: 'link' }
    expect(sentenceOf((await client.ask('POST', `/deliveries/${film.id}/mail`, link)).body)).toContain('not shown to anybody')
    const share = { level: 'link', presenter: '', description: '', handout: false, viewerNotes: false, film: null, questions: false }
    await client.get('PUT', `/talks/${talk}/share`, share)
    await client.get('POST', `/deliveries/${film.id}/mail`, link)
    const letters = await client.get<LetterView[]>('GET', '/letters')
    expect(letters[0]?.recipient).toBe('ilse@school.example')
  })
})

describe('a place', () => {
  const fields = { name: 'Drive', kind: 'webdav', address: 'http://127.0.0.1:9/dav', user: 'maren', word: 'heron lantern gravel' }

  it('keeps its password sealed, never shows it, and does not carry it to another address', async () => {
    const { id } = await client.get<{ id: string }>('POST', '/places', fields)
    expect(JSON.stringify(await client.get('GET', '/places'))).not.toContain('gravel')
    const row = () => product.db.selectFrom('place').select('word').where('id', '=', id).executeTakeFirstOrThrow()
    const { word } = await row()
    expect(word?.toString('latin1')).not.toContain('gravel')
    const { word: _, ...same } = fields
    await client.get('PUT', `/places/${id}`, { ...same, name: 'My drive' })
    expect((await row()).word).toEqual(word)
    await client.get('PUT', `/places/${id}`, { ...same, address: 'http://127.0.0.1:10/dav' })
    expect((await row()).word).toBeNull()
    await client.get('DELETE', `/places/${id}`)
  })

  it('that lets nobody in, or is away, says so', async () => {
    const server = await startWebdav('maren', 'right', false)
    const { id } = await client.get<{ id: string }>('POST', '/places', { ...fields, address: server.address, word: 'wrong' })
    expect(sentenceOf((await client.ask('POST', `/places/${id}/try`)).body)).toContain('does not let “maren” in')
    await server.close()
    expect(sentenceOf((await client.ask('POST', `/places/${id}/try`)).body)).toContain('does not answer')
    await client.get('DELETE', `/places/${id}`)
  })
})

describe('inside private networks', () => {
  let open: Product
  beforeAll(async () => {
    open = await startProduct({ AISLE_STAND_INS: standIns.address })
  })
  afterAll(async () => {
    await open.stop()
  })

  it.each([
    'http://127.0.0.1:9',
    'http://localhost:9',
    'http://10.0.0.8',
    'http://192.168.1.1',
    'http://[::1]:9',
    'http://169.254.169.254',
  ])('nothing is asked of %s without the operator’s word', async (address) => {
    const other = new Client(open.url)
    const { id } = await other.get<{ id: string }>('POST', '/talks', { name: 'Tides', limit: null })
    const { status, body } = await other.ask('PUT', `/talks/${id}/hand-in`, { desk: address })
    expect([status, sentenceOf(body)]).toEqual([403, expect.stringContaining('inside a private network') as string])
  })

  it('the stand-ins are, and a redirect from there leads nowhere else', async () => {
    const other = new Client(open.url)
    const { id } = await other.get<{ id: string }>('POST', '/talks', { name: 'Tides', limit: null })
    expect((await other.ask('PUT', `/talks/${id}/hand-in`, { desk: desk() })).status).toBe(200)
    const elsewhere = await startStandIns()
    const { server, address } = elsewhere
    server.removeAllListeners('request')
    server.on('request', (_, response: ServerResponse) => {
      response.writeHead(302, { location: 'http://10.0.0.8/rules.json' }).end()
    })
    const third = await startProduct({ AISLE_STAND_INS: address })
    try {
      const asks = new Client(third.url)
      const { id: own } = await asks.get<{ id: string }>('POST', '/talks', { name: 'Tides', limit: null })
      const { status, body } = await asks.ask('PUT', `/talks/${own}/hand-in`, { desk: `${address}/desk` })
      expect([status, sentenceOf(body)]).toEqual([403, expect.stringContaining('10.0.0.8 is inside a private network') as string])
    } finally {
      await third.stop()
      await elsewhere.close()
    }
  })
})
