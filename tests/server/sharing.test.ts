import { XMLParser } from 'fast-xml-parser'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type {
  GroupView,
  LetterView,
  ScreeningView,
  SeriesFields,
  SeriesPage,
  SeriesView,
  ShareChange,
  ShelfView,
  WatchedView,
} from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { readable, startMailServer } from '../harness/mail'
import type { MailServer } from '../harness/mail'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { shareTalk } from '../harness/screening'
import { knotsTalk } from '../harness/talks'

const [MAREN, TOMAS] = ['maren@harbour.example', 'tomas@harbour.example']
let mail: MailServer
let product: Product
let client: Client
beforeAll(async () => {
  mail = await startMailServer()
  product = await startProduct({ AISLE_SMTP_URL: mail.url })
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
  await mail.close()
})

async function recorded(name: string): Promise<string> {
  const { talk, slides } = await knotsTalk(client, name)
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media: await toneRecording(2), length: 2000, slide: slides[0] ?? '' }])
  return talk
}
const share = (talk: string, more: Partial<ShareChange>) => shareTalk(client, talk, more)
const named = (talk: string, ...people: readonly string[]) =>
  client.get('PUT', `/talks/${talk}/share/people`, { people: people.map((address) => ({ address, name: '' })) })
/** What somebody is answered who asks for a page: its view, or what they are asked first. */
async function comesTo(visitor: Client, key: string): Promise<ScreeningView | string> {
  const { status, body } = await visitor.ask('GET', `/screenings/${key}`)
  if (status === 200) return body as ScreeningView
  const { error } = body as { error: { detail: { asks?: string } } }
  return error.detail.asks ?? String(status)
}
const isShown = async (visitor: Client, key: string): Promise<boolean> => typeof (await comesTo(visitor, key)) !== 'string'
const mediaStatus = async ({ media }: ScreeningView): Promise<number> => (await fetch(`${product.url}${media}/film.json`)).status
/** The newest link that came to an address. */
const ticketOf = (address: string): string | undefined =>
  mail.taken
    .filter(({ to }) => to.includes(address))
    .map(({ text }) => /#ticket=([\w-]{43})/.exec(readable(text))?.[1])
    .at(-1)
async function letIn(key: string, address: string): Promise<Client> {
  const visitor = new Client(product.url)
  const before = ticketOf(address)
  await visitor.get('POST', `/screenings/${key}/tickets`, { address })
  await expect.poll(() => ticketOf(address)).not.toBe(before)
  await visitor.get('POST', `/screenings/${key}/enter`, { ticket: ticketOf(address) })
  return visitor
}
async function viewOf(visitor: Client, key: string): Promise<ScreeningView> {
  const view = await comesTo(visitor, key)
  if (typeof view === 'string') throw new Error(`not let in: ${view}`)
  return view
}

describe('a talk for people who are named', () => {
  it('is opened by a letter to their address, once, and to nobody else; media too', async () => {
    const talk = await recorded('Named')
    const { key } = await share(talk, { level: 'people' })
    await named(talk, MAREN)
    const stranger = new Client(product.url)
    expect(await comesTo(stranger, key)).toBe('address')
    const page = await fetch(`${product.url}/s/${key}`)
    expect([page.status, (await page.text()).includes('Named')]).toEqual([401, false])
    // Whoever asks is told the same, and written to only when it is for them.
    const asked = [
      await stranger.ask('POST', `/screenings/${key}/tickets`, { address: TOMAS }),
      await stranger.ask('POST', `/screenings/${key}/tickets`, { address: MAREN.toUpperCase() }),
      await stranger.ask('POST', `/screenings/${'A'.repeat(22)}/tickets`, { address: MAREN }),
    ]
    expect(new Set(asked.map((one) => JSON.stringify(one)))).toHaveLength(1)
    await expect.poll(() => ticketOf(MAREN)).toBeDefined()
    expect(ticketOf(TOMAS)).toBeUndefined()
    const ticket = ticketOf(MAREN) ?? ''
    const maren = new Client(product.url)
    // What opens links in letters asks for the page, as often as it likes.
    for (let n = 0; n < 3; n += 1) expect((await fetch(`${product.url}/s/${key}`)).status).toBe(401)
    await maren.get('POST', `/screenings/${key}/enter`, { ticket })
    const view = await viewOf(maren, key)
    expect([view.title, view.abroad, await mediaStatus(view)]).toEqual(['Named', null, 200])
    // Sent on to somebody else, it is over.
    const again = await stranger.ask('POST', `/screenings/${key}/enter`, { ticket })
    expect([again.status, sentenceOf(again.body)]).toEqual([403, expect.stringMatching(/was used before/)])
    // Of another talk that is not for them they see nothing, and a ticket opens no other.
    const other = await recorded('Of another')
    const { key: otherKey } = await share(other, { level: 'people' })
    await named(other, TOMAS)
    expect(await comesTo(maren, otherKey)).toBe('address')
    await maren.get('POST', `/screenings/${key}/tickets`, { address: MAREN })
    await expect.poll(() => ticketOf(MAREN)).not.toBe(ticket)
    expect((await maren.ask('POST', `/screenings/${otherKey}/enter`, { ticket: ticketOf(MAREN) })).status).toBe(403)
    // Taken off, they see no more of it, whatever they had opened.
    await named(talk, TOMAS)
    expect(await comesTo(maren, key)).toBe('address')
    await expect.poll(() => mediaStatus(view)).toBe(404)
  })

  it('is closed to a ticket that is over an hour old by the clock of the database', async () => {
    const talk = await recorded('Late')
    const { key } = await share(talk, { level: 'people' })
    await named(talk, MAREN)
    const maren = new Client(product.url)
    const before = ticketOf(MAREN)
    await maren.get('POST', `/screenings/${key}/tickets`, { address: MAREN })
    await expect.poll(() => ticketOf(MAREN)).not.toBe(before)
    await product.db.updateTable('viewer_ticket').set({ until: new Date() }).where('talk', '=', talk).execute()
    expect((await maren.ask('POST', `/screenings/${key}/enter`, { ticket: ticketOf(MAREN) })).status).toBe(403)
  })

  it('says in the outbox what became of its letters, and keeps nothing there that opens something', async () => {
    const talk = await recorded('Bounces')
    const { key } = await share(talk, { level: 'people' })
    await named(talk, 'nobody@harbour.example', MAREN)
    await letIn(key, MAREN)
    await client.get('POST', `/screenings/${key}/tickets`, { address: 'nobody@harbour.example' })
    const letters = () => client.get<readonly LetterView[]>('GET', '/letters')
    const failed = async () => (await letters()).find(({ recipient }) => recipient.startsWith('nobody'))
    await expect.poll(async () => (await failed())?.state).toBe('failed')
    expect(await failed()).toMatchObject({ said: expect.stringContaining('No such mailbox') as string, body: null })
    const sent = (await letters()).find(({ recipient, state }) => recipient === MAREN && state === 'sent')
    expect(sent).toMatchObject({ subject: 'To watch: Bounces', body: null })
  })

  it('writes no more than a few letters to an address', async () => {
    const visitor = new Client(product.url)
    const statuses: number[] = []
    for (let n = 0; n < 10; n += 1)
      statuses.push((await visitor.ask('POST', `/screenings/${'B'.repeat(22)}/tickets`, { address: 'often@harbour.example' })).status)
    expect([statuses[0], statuses.at(-1)]).toEqual([200, 429])
  })
})

describe('a talk for a group', () => {
  it('is seen by its members, as long as they are that', async () => {
    const talk = await recorded('For the class')
    const member = (address: string) => ({ address, name: '' })
    const group = await client.get<GroupView>('POST', '/groups', { name: 'Tides', members: [member(MAREN)] })
    const { key } = await share(talk, { level: 'group', group: group.id })
    const maren = await letIn(key, MAREN)
    const view = await viewOf(maren, key)
    expect(await mediaStatus(view)).toBe(200)
    await client.get('PUT', `/groups/${group.id}`, { name: 'Tides', members: [member(TOMAS)] })
    expect(await comesTo(maren, key)).toBe('address')
    await expect.poll(() => mediaStatus(view)).toBe(404)
    const tomas = await letIn(key, TOMAS)
    expect(await isShown(tomas, key)).toBe(true)
    await client.get('DELETE', `/groups/${group.id}`)
    expect(await comesTo(tomas, key)).toBe('address')
  })

  it('takes five hundred people, and none twice or without an address', async () => {
    const members = Array.from({ length: 500 }, (_, n) => ({ address: `p${String(n)}@harbour.example`, name: `Pupil ${String(n)}` }))
    const { id } = await client.get<GroupView>('POST', '/groups', { name: 'All', members })
    const found = (await client.get<readonly GroupView[]>('GET', '/groups')).find((group) => group.id === id)
    expect(found?.members).toHaveLength(500)
    for (const wrong of [[...members, members[0]], [{ address: 'no address', name: '' }]])
      expect((await client.ask('PUT', `/groups/${id}`, { name: 'All', members: wrong })).status).toBe(400)
  })
})

describe('a pass phrase', () => {
  it('is asked for before anything is said of the talk, and another one ends what the first opened', async () => {
    const talk = await recorded('Said aloud')
    const { key } = await share(talk, { level: 'link', phrase: 'spring tide' })
    const visitor = new Client(product.url)
    expect(await comesTo(visitor, key)).toBe('phrase')
    expect((await fetch(`${product.url}/s/${key}/slide.jpg`)).status).toBe(401)
    expect((await visitor.ask('POST', `/screenings/${key}/phrase`, { phrase: 'neap tide' })).status).toBe(403)
    await visitor.get('POST', `/screenings/${key}/phrase`, { phrase: 'spring tide' })
    const view = await viewOf(visitor, key)
    // It stays while other things are changed.
    await share(talk, { level: 'link' })
    expect(await isShown(visitor, key)).toBe(true)
    await share(talk, { level: 'link', phrase: 'slack water' })
    expect(await comesTo(visitor, key)).toBe('phrase')
    await expect.poll(() => mediaStatus(view)).toBe(404)
    await share(talk, { level: 'link', phrase: null })
    expect(await isShown(new Client(product.url), key)).toBe(true)
    const { phrase } = await product.db.selectFrom('share').select('phrase').where('talk', '=', talk).executeTakeFirstOrThrow()
    expect(phrase).toBeNull()
  })
})

describe('a share', () => {
  it('ends at its time, page and media alike', async () => {
    const talk = await recorded('Until then')
    const visitor = new Client(product.url)
    const { key } = await share(talk, { until: new Date(Date.now() + 4000).toISOString() })
    const view = await viewOf(visitor, key)
    expect(await mediaStatus(view)).toBe(200)
    await expect.poll(() => comesTo(visitor, key)).toBe('404')
    await expect.poll(() => mediaStatus(view)).toBe(404)
    await share(talk, { until: null })
    expect(await isShown(visitor, key)).toBe(true)
  })

  it('that gets another link ends what was opened by the old one', async () => {
    const talk = await recorded('Renewed')
    const visitor = new Client(product.url)
    const { key } = await share(talk, {})
    const view = await viewOf(visitor, key)
    await client.get('POST', `/talks/${talk}/share/link`)
    await expect.poll(() => mediaStatus(view)).toBe(404)
  })

  it('stands on the shelf for everybody, is found there, and nothing else is', async () => {
    const [shelved, linked] = [await recorded('Knots for 100% of us'), await recorded('Knots for the crew')]
    const { path } = await share(shelved, { level: 'shelf' })
    await share(linked, { level: 'link' })
    const shelf = (find: string) => new Client(product.url).get<ShelfView>('GET', `/shelf?find=${encodeURIComponent(find)}`)
    expect((await shelf('')).talks.map((talk) => talk.title)).toEqual(['Knots for 100% of us'])
    expect((await shelf('100%')).count).toBe(1)
    expect((await shelf('1_0%')).count).toBe(0)
    const picture = await fetch(`${product.url}${(await shelf('maren')).talks[0]?.picture ?? ''}`)
    expect([picture.headers.get('content-type'), (await picture.arrayBuffer()).byteLength > 1000]).toEqual(['image/jpeg', true])
    const page = await fetch(`${product.url}${path}`)
    expect(page.headers.get('x-robots-tag')).toBeNull()
    const html = await page.text()
    expect([html.includes('property="og:image"'), html.includes('noindex')]).toEqual([true, false])
    await share(shelved, { level: 'shelf', until: new Date().toISOString() })
    expect((await shelf('')).count).toBe(0)
  })

  it('may be shown within the sites that are named, and says how to pages that ask', async () => {
    const talk = await recorded('Within')
    const { path } = await share(talk, { embedOn: ['https://class.example'] })
    const ask = (more = '') => fetch(`${product.url}/api/oembed?url=${encodeURIComponent(`${product.url}${path}`)}${more}`)
    const page = await fetch(`${product.url}${path}?embed`)
    expect(page.headers.get('content-security-policy')).toContain("frame-ancestors 'self' https://class.example;")
    expect(page.headers.get('x-frame-options')).toBeNull()
    expect(await page.text()).toContain('application/json+oembed')
    const told = (await (await ask('&maxwidth=480')).json()) as { html: string; width: number; type: string }
    expect(told).toMatchObject({ version: '1.0', type: 'video', title: 'Within', width: 480 })
    expect(told.html).toContain(`${path}?embed`)
    expect((await ask('&format=xml')).status).toBe(501)
    // Where nobody was named, or something is asked first, it stays by itself.
    for (const more of [{ embedOn: [] }, { embedOn: ['https://class.example'], phrase: 'ebb and flow' }] as const) {
      await share(talk, more)
      const alone = await fetch(`${product.url}${path}`)
      expect(alone.headers.get('x-frame-options')).toBe('SAMEORIGIN')
      expect(alone.headers.get('content-security-policy')).toContain("frame-ancestors 'self';")
      expect((await ask()).ok).toBe(false)
    }
    for (const site of ['https://class.example/path', "https://x.example; script-src 'none'", 'javascript:1', '*'])
      expect((await client.ask('PUT', `/talks/${talk}/share`, { ...OPEN, embedOn: [site] })).status).toBe(400)
  })
})

describe('a series', () => {
  const made = async (name: string): Promise<SeriesView> => {
    const found = (await client.get<readonly SeriesView[]>('POST', '/series', { name })).find((one) => one.name === name)
    if (found === undefined) throw new Error('no series')
    return found
  }
  const change = (id: string, fields: Partial<SeriesFields>) =>
    client.ask('PUT', `/series/${id}`, { name: 'Six evenings', description: '', shelved: false, group: null, talks: [], ...fields })
  const pageOf = (address: string) => new Client(product.url).get<SeriesPage>('GET', `/series-pages/${address.split('/').at(-1) ?? ''}`)

  it('shows its talks in order to whoever has its link, but none that is closed or over', async () => {
    const [first, second, closed] = [await recorded('First'), await recorded('Second'), await recorded('Closed')]
    await share(first, {})
    await share(second, { phrase: 'half tide' })
    const { id, address } = await made('Six evenings')
    expect((await change(id, { talks: [second, closed, first].map((talk) => asId(talk)) })).status).toBe(200)
    expect((await pageOf(address)).talks.map(({ title, open }) => [title, open])).toEqual([
      ['Second', false],
      ['First', true],
    ])
    await change(id, { talks: [first, second].map((talk) => asId(talk)) })
    expect((await pageOf(address)).talks.map(({ title }) => title)).toEqual(['First', 'Second'])
    await share(first, { until: new Date().toISOString() })
    expect((await pageOf(address)).talks.map(({ title }) => title)).toEqual(['Second'])
    // On the shelf it is found by its name.
    const shelf = async () => (await client.get<ShelfView>('GET', '/shelf?find=six')).series.map(({ path }) => path)
    expect(await shelf()).toEqual([])
    await change(id, { talks: [asId(second)], shelved: true })
    expect(await shelf()).toEqual([new URL(address).pathname])
    await client.get('DELETE', `/series/${id}`)
    expect((await new Client(product.url).ask('GET', `/series-pages/${address.split('/').at(-1) ?? ''}`)).status).toBe(404)
  })

  it('has a feed that programs can follow', async () => {
    const talk = await recorded('Tides & <knots>')
    const { key } = await share(talk, { description: 'Ropes, "taut" & slack' })
    const { id, address } = await made('Feed')
    await change(id, { name: 'Feed & more', talks: [asId(talk)] })
    const answer = await fetch(`${address}/feed.xml`)
    expect(answer.headers.get('content-type')).toMatch(/^application\/atom\+xml/)
    const feed = new XMLParser({ ignoreAttributes: false, isArray: (name) => name === 'entry' || name === 'link' }).parse(
      await answer.text(),
      true,
    ) as { feed: Record<string, unknown> & { entry: Record<string, unknown>[] } }
    // RFC 4287, 4.1.1 and 4.1.2: what a feed and its entries must have.
    expect(feed.feed).toMatchObject({
      '@_xmlns': 'http://www.w3.org/2005/Atom',
      id: address,
      title: 'Feed & more',
      updated: expect.stringMatching(/^\d{4}-\d\d-\d\dT[\d:.]+Z$/) as string,
      author: { name: 'Maren Holt' },
    })
    const [entry] = feed.feed.entry
    expect(JSON.stringify([entry?.['id'], entry?.['title']])).toContain(`/s/${key}`)
    expect(JSON.stringify(entry?.['title'])).toContain('Tides & <knots>')
    expect(entry?.['updated']).toMatch(/^\d{4}-\d\d-\d\dT[\d:.]+Z$/)
  })

  it('is written of to its group, but not to those who want no letters', async () => {
    const talk = await recorded('New tonight')
    const group = await client.get<GroupView>('POST', '/groups', {
      name: 'Evening',
      members: ['pia@harbour.example', 'jonas@harbour.example'].map((address) => ({ address, name: '' })),
    })
    const { id, address } = await made('Letters')
    const tell = () => client.ask('POST', `/series/${id}/letters`, { talk })
    await change(id, { talks: [asId(talk)] })
    expect((await tell()).status).toBe(400)
    await change(id, { talks: [asId(talk)], group: group.id })
    expect(sentenceOf((await tell()).body)).toMatch(/shown to nobody yet/)
    await share(talk, {})
    expect((await tell()).body).toEqual({ count: 2 })
    const letters = (to: string) => mail.taken.filter((one) => one.to.includes(to)).map(({ text }) => readable(text))
    await expect.poll(() => letters('pia@harbour.example').length).toBe(1)
    const [, token] = /\?off=([\w-]+)&of=/.exec(letters('pia@harbour.example')[0] ?? '') ?? []
    const visitor = new Client(product.url)
    const off = (whose: string) => visitor.ask('POST', `/series-pages/${address.split('/').at(-1) ?? ''}/off`, { address: whose, token })
    expect([(await off('jonas@harbour.example')).status, (await off('pia@harbour.example')).status]).toEqual([403, 200])
    expect((await tell()).body).toEqual({ count: 1 })
  })
})

describe('how a talk is watched', () => {
  const part = (n: number) => ({ visit: '', part: n })
  const told = (visit: string, more: object) => ({
    begun: false,
    finished: false,
    played: [],
    back: [],
    left: null,
    stayed: null,
    visit,
    ...more,
  })
  const tell = async (visitor: Client, key: string, visit: string, more: object): Promise<number> => {
    const { visit: own, ...report } = told(visit, more)
    const body = JSON.parse(JSON.stringify(report).replaceAll('"visit":""', `"visit":"${own}"`)) as object
    return (await visitor.ask('POST', `/screenings/${key}/watched`, body)).status
  }
  const watched = (talk: string) => client.get<WatchedView>('GET', `/talks/${talk}/share/watched`)

  it('is counted by day and part, and nothing is kept of who it was', async () => {
    const { talk, slides } = await knotsTalk(client, 'Counted')
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
      { media: await toneRecording(12), length: 12_000, slide: slides[0] ?? '' },
    ])
    const { key } = await share(talk, {})
    const visitor = new Client(product.url)
    const { visits } = await viewOf(visitor, key)
    const visit = String(visits[0]?.id)
    await tell(visitor, key, visit, { begun: true, played: [part(0), part(0), part(1)], left: part(1) })
    await tell(visitor, key, visit, { played: [part(2)], back: [part(0)], left: part(2), stayed: part(1), finished: true })
    await tell(visitor, key, visit, { begun: true, played: [part(0), part(900)], left: part(0) })
    const view = await watched(talk)
    expect([view.visits, view.finished, view.days.length, view.people]).toEqual([2, 1, 1, null])
    expect(view.parts).toEqual([
      { at: 0, played: 2, back: 1, left: 1 },
      { at: 5000, played: 1, back: 0, left: 0 },
      { at: 10_000, played: 1, back: 0, left: 1 },
    ])
    expect(await tell(visitor, 'C'.repeat(22), visit, { begun: true })).toBe(404)
    // All that is in the tables of counts is numbers, days, talks and visits.
    for (const table of ['watched_day', 'watched_part', 'watched_by'] as const) {
      const text = JSON.stringify(await product.db.selectFrom(table).selectAll().where('talk', '=', talk).execute())
      expect(text.replaceAll(talk, '').replaceAll(visit, '')).not.toMatch(/@|127\.0|::1|cookie|Mozilla|node|[0-9a-f]{16}/)
    }
  })

  it('is told of those who are named and know it, and of nobody else', async () => {
    const talk = await recorded('Told')
    const { key } = await share(talk, { level: 'people' })
    await named(talk, MAREN, 'hanne@harbour.example')
    const hanne = await letIn(key, 'hanne@harbour.example')
    const visit = String((await viewOf(hanne, key)).visits[0]?.id)
    await tell(hanne, key, visit, { begun: true, finished: true })
    expect([(await viewOf(hanne, key)).reports, (await watched(talk)).people]).toEqual([false, null])
    await share(talk, { level: 'people', reports: true })
    const before = (await watched(talk)).people
    expect(before?.map(({ finished }) => finished)).toEqual([null, null])
    expect((await viewOf(hanne, key)).reports).toBe(true)
    await tell(hanne, key, visit, { finished: true })
    const after = (await watched(talk)).people?.filter(({ finished }) => finished !== null)
    expect(after?.map(({ address }) => address)).toEqual(['hanne@harbour.example'])
  })
})

const OPEN = { level: 'link', presenter: '', description: '', handout: true, viewerNotes: true, film: null, questions: true }
