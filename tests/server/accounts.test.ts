import { randomUUID } from 'node:crypto'
import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { KNOTS, fileForm, makePdf } from '../harness/decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'

let product: Product
let owner: Client
let stranger: Client
let talk: string
let view: TalkView
const take = randomUUID()
const stretch = randomUUID()

/** Makes an account and signs in, as the page does. */
async function signUp(client: Client, { name, email, password }: ReturnType<typeof person>): Promise<void> {
  await client.get('POST', '/people', { name, email, password })
  await client.get('POST', '/session', { email, password })
}

const person = (name: string) => ({ name, email: `${name}@harbour.example`, password: 'twelve twelfths' })

beforeAll(async () => {
  product = await startProduct({ AISLE_ACCOUNTS: 'on', AISLE_SIGN_UP: 'open' })
  owner = new Client(product.url)
  stranger = new Client(product.url)
  for (const [client, name] of [
    [owner, 'maren'],
    [stranger, 'ilse'],
  ] as const)
    await signUp(client, person(name))
  talk = (await owner.get<{ id: string }>('POST', '/talks', { name: 'Knots', limit: 60_000 })).id
  await owner.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  view = await until('the deck', async () => {
    const now = await owner.get<TalkView>('GET', `/talks/${talk}`)
    return now.imports[0]?.state === 'done' && now
  })
  await owner.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  await owner.get('PUT', `/stretches/${stretch}`, {
    take,
    number: 0,
    camera: false,
    voice: true,
    mime: 'audio/webm;codecs=opus',
    opening: { slide: view.slides[0]?.id, step: 0, blank: false, inset: true, ink: [] },
  })
})
afterAll(async () => {
  await product.stop()
})

describe('with accounts on', () => {
  it('reads page labels as steps and the largest text as title', () => {
    expect(view.slides.map((slide) => [slide.title, slide.steps.length])).toEqual([
      ['Bowline', 1],
      ['Clove hitch', 2],
      ['Reef knot', 1],
    ])
    expect(view.shape).toEqual({ width: 16, height: 9 })
  })

  it('keeps what it is given from other users of the machine', async () => {
    const store = join(product.data, 'store')
    const files = (await readdir(store, { recursive: true, withFileTypes: true })).filter(
      (entry) => entry.isFile() && entry.parentPath.includes('assets'),
    )
    expect(files.length).toBeGreaterThan(0)
    for (const file of files) expect((await stat(join(file.parentPath, file.name))).mode & 0o077).toBe(0)
  })

  it('answers nobody who is not signed in', async () => {
    const nobody = new Client(product.url)
    const { status, body } = await nobody.ask('GET', '/talks')
    expect(status).toBe(401)
    expect(sentenceOf(body)).toBe('Sign in to go on.')
  })

  it('tells another person that nothing of a talk is there', async () => {
    const shown = view.slides[0]?.steps[0]?.picture
    const digest = shown?.kind === 'page' ? shown.screen : ''
    const delivery = randomUUID()
    await owner.get('POST', `/talks/${talk}/exports`, { kind: 'archive' })
    await until('the archive', async () =>
      (await owner.get<readonly { state: string }[]>('GET', `/talks/${talk}/exports`)).some(({ state }) => state === 'done'),
    )
    const routes: readonly (readonly [string, string, unknown?])[] = [
      ['GET', `/talks/${talk}`],
      ['PATCH', `/talks/${talk}`, { name: 'Mine' }],
      ['DELETE', `/talks/${talk}`],
      ['POST', `/talks/${talk}/restore`],
      ['POST', `/talks/${talk}/duplicate`],
      ['GET', `/talks/${talk}/film`],
      ['GET', `/talks/${talk}/notes.md?kind=notes`],
      ['GET', `/talks/${talk}/handout.pdf?kind=notes`],
      ['POST', `/talks/${talk}/pictures`],
      [
        'PUT',
        `/talks/${talk}/rehearsals/${randomUUID()}`,
        { started: new Date().toISOString(), visits: [{ slide: view.slides[0]?.id, length: 1000 }] },
      ],
      ['DELETE', `/talks/${talk}/rehearsals/${randomUUID()}`],
      ['POST', `/talks/${talk}/imports/${randomUUID()}/settle`],
      ['POST', `/talks/${talk}/imports/${randomUUID()}/seen`],
      ['POST', `/talks/${talk}/copies`, { from: talk, slides: [view.slides[0]?.id], at: 0 }],
      ['GET', `/talks/${talk}/assets/${digest}`],
      ['POST', `/talks/${talk}/deck`, { revision: 99, edit: { kind: 'remove', slides: [view.slides[0]?.id] } }],
      ['POST', `/talks/${talk}/imports`],
      ['PUT', `/talks/${talk}/recipe`, view.recipe],
      ['POST', `/talks/${talk}/estimate`, view.recipe],
      ['GET', `/talks/${talk}/deliveries`],
      ['POST', `/talks/${talk}/deliveries`, view.recipe],
      ['GET', `/talks/${talk}/exports`],
      ['POST', `/talks/${talk}/exports`, { kind: 'archive' }],
      ['GET', `/talks/${talk}/exports/archive/file`],
      ['DELETE', `/talks/${talk}/exports/archive`],
      ['POST', `/talks/${talk}/film`, fileForm('film.mp4', new Uint8Array(9))],
      ['PUT', `/talks/${talk}/takes/${randomUUID()}`, { kind: 'full', intent: { kind: 'append' } }],
      ['POST', `/takes/${take}/finish`],
      ['POST', `/takes/${take}/recover`],
      ['DELETE', `/takes/${take}`],
      ['POST', `/takes/${take}/restore`],
      ['GET', `/takes/${take}/report`],
      [
        'PUT',
        `/stretches/${randomUUID()}`,
        {
          take,
          number: 1,
          camera: false,
          voice: true,
          mime: 'audio/webm',
          opening: { slide: view.slides[0]?.id, step: 0, blank: false, inset: true, ink: [] },
        },
      ],
      ['GET', `/stretches/${stretch}`],
      ['PUT', `/stretches/${stretch}/offsets`, { picture: 0, sound: 0 }],
      ['PUT', `/stretches/${stretch}/kept`, { kept: 0 }],
      ['PUT', `/stretches/${stretch}/cues`, { first: 0, cues: [{ kind: 'blank', at: 0, on: true }] }],
      ['PUT', `/stretches/${stretch}/chunks/0`],
      ['POST', `/stretches/${stretch}/close`, { chunks: 0, cues: 0, length: 0 }],
      ['GET', `/stretches/${stretch}/recording`],
      ['GET', `/stretches/${stretch}/backdrop?kind=soft&finder=outline`],
      ['GET', `/stretches/${stretch}/backdrop-still?kind=soft&finder=outline&at=0`],
      ['POST', `/talks/${talk}/backdrops`],
      ['GET', `/talks/${talk}/spelling`],
      ['GET', `/deliveries/${delivery}/file`],
      ['GET', `/deliveries/${delivery}/preview`],
      ['POST', `/deliveries/${delivery}/cancel`],
      ['POST', `/deliveries/${delivery}/retry`],
    ]
    for (const [method, path, body] of routes) {
      expect([path, (await stranger.ask(method, path, body)).status]).toEqual([path, 404])
    }
    expect(await stranger.get('GET', '/talks')).toEqual([])
    expect(await stranger.get('GET', '/archives')).toEqual([])
    expect((await stranger.ask('GET', '/archives/all')).status).toBe(409)
    expect((await new Client(product.url).ask('POST', '/talks/archive', fileForm('a.zip', new Uint8Array(9)))).status).toBe(401)
    expect((await owner.get<TalkView>('GET', `/talks/${talk}`)).name).toBe('Knots')
    expect((await owner.ask('GET', `/talks/${talk}/assets/${digest}`)).status).toBe(200)
  })

  it('does not let a take of one person be opened in a talk of another', async () => {
    const theirs = (await stranger.get<{ id: string }>('POST', '/talks', { name: 'Other', limit: null })).id
    const { status } = await stranger.ask('PUT', `/talks/${theirs}/takes/${take}`, { kind: 'full', intent: { kind: 'append' } })
    expect(status).toBe(409)
  })

  it('tells of changes only those whose talk it is', async () => {
    const [own, other] = [await owner.listen(), await stranger.listen()]
    const theirs = (await stranger.get<{ id: string }>('POST', '/talks', { name: 'Mine', limit: null })).id
    await owner.get('PATCH', `/talks/${talk}`, { name: 'Knots' })
    await stranger.get('PATCH', `/talks/${theirs}`, { name: 'Still mine' })
    const heard = await Promise.all(
      [own, other].map((line) => until('an event', () => Promise.resolve(line.heard[0] !== undefined && line.heard), 60_000)),
    )
    own.end()
    other.end()
    expect(heard.map((events) => [...new Set(events.map((event) => event.talk))])).toEqual([[talk], [theirs]])
  })

  it("does not copy slides out of another person's talk", async () => {
    const theirs = (await stranger.get<{ id: string }>('POST', '/talks', { name: 'Copies', limit: null })).id
    expect((await stranger.ask('POST', `/talks/${theirs}/copies`, { from: talk, slides: [view.slides[0]?.id], at: 0 })).status).toBe(404)
  })

  it('refuses requests that come from a foreign page', async () => {
    const { status } = await owner.ask('DELETE', `/talks/${talk}`, undefined, { origin: 'http://elsewhere.example' })
    expect(status).toBe(403)
  })

  it('limits attempts to sign in, and says for how long', async () => {
    const guesser = new Client(product.url)
    const tries = await Promise.all(
      Array.from({ length: 10 }, () => guesser.ask('POST', '/session', { email: person('maren').email, password: 'wrong wrong wrong' })),
    )
    expect(tries.map((one) => one.status)).toContain(401)
    const limited = tries.find((one) => one.status === 429)
    expect(sentenceOf(limited?.body)).toMatch(/^Too many attempts to sign in\. Try again in \d+ minutes\.$/)
  })

  it('signs in with the right password and out again', async () => {
    const browser = new Client(product.url)
    expect((await browser.ask('POST', '/session', { email: 'ILSE@harbour.example', password: 'twelve twelfths' })).status).toBe(200)
    expect(await browser.get('GET', '/session')).toMatchObject({ accounts: true, person: { name: 'ilse' } })
    await browser.get('DELETE', '/session')
    expect(await browser.get('GET', '/session')).toMatchObject({ person: null })
  })

  it('ends a session where it is kept: a copy of its cookie is worth nothing afterwards', async () => {
    const answer = await fetch(`${product.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: person('ilse').email, password: person('ilse').password }),
    })
    const [set = ''] = answer.headers.getSetCookie()
    expect(set).toMatch(/^__Host-aisle=[^;]+;(?=.*HttpOnly)(?=.*Secure)(?=.*Path=\/)(?=.*SameSite=Lax)/i)
    expect(set).not.toMatch(/domain=/i)
    const cookie = set.split(';')[0] ?? ''
    const who = async (): Promise<unknown> =>
      ((await (await fetch(`${product.url}/api/session`, { headers: { cookie } })).json()) as { person: unknown }).person
    expect(await who()).toMatchObject({ name: 'ilse' })
    await fetch(`${product.url}/api/session`, { method: 'DELETE', headers: { cookie } })
    expect(await who()).toBeNull()
  })

  it('takes as long to refuse whether there is such an account or not', async () => {
    const took = async (email: string): Promise<number> => {
      const began = performance.now()
      await new Client(product.url).ask('POST', '/session', { email, password: 'wrong wrong wrong' })
      return performance.now() - began
    }
    await took('warm@harbour.example')
    const [there, not] = [await took(person('ilse').email), await took('nobody@harbour.example')]
    expect(not).toBeGreaterThan(there / 4)
  })

  it('answers who asks for an account the same whether there is one, and changes none that is there', async () => {
    const asker = new Client(product.url)
    const asked = await Promise.all(
      ['ilse', 'wenna'].map((name) =>
        asker.ask('POST', '/people', { name: 'Somebody', email: person(name).email, password: 'another password' }),
      ),
    )
    expect(asked[0]).toEqual(asked[1])
    expect(await asker.get('GET', '/session')).toMatchObject({ person: null })
    expect((await asker.ask('POST', '/session', { email: person('ilse').email, password: 'another password' })).status).toBe(401)
    for (const [password, sentence] of [
      ['eleven char', /twelve characters/],
      ['password1234', /first that are tried/],
    ] as const) {
      const weak = await asker.ask('POST', '/people', { name: 'Somebody', email: 'weak@harbour.example', password })
      expect([weak.status, sentenceOf(weak.body)]).toEqual([400, expect.stringMatching(sentence)])
    }
    expect((await asker.ask('POST', '/session', { email: person('wenna').email, password: 'another password' })).status).toBe(200)
  })

  it('keeps no more of a request than it may be, and says so', async () => {
    const large = await fetch(`${product.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: 'x'.repeat(100_000),
    })
    expect(large.status).toBe(413)
    // One that does not say how long it is.
    const stream = new ReadableStream<Uint8Array>({
      start: (controller) => {
        for (let n = 0; n < 40; n += 1) controller.enqueue(new Uint8Array(10_000).fill(120))
        controller.close()
      },
    })
    const unsaid = await fetch(`${product.url}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: stream,
      duplex: 'half',
    } as RequestInit)
    expect(unsaid.status).toBe(413)
    let deep: unknown = { kind: 'remove', slides: [view.slides[0]?.id] }
    for (let n = 0; n < 400; n += 1) deep = { kind: 'all', edits: [deep] }
    const nested = await owner.ask('POST', `/talks/${talk}/deck`, { revision: 1, edit: deep })
    expect([nested.status, sentenceOf(nested.body)]).toEqual([400, expect.stringMatching(/nested too deeply/)])
    expect((await owner.ask('GET', `/talks/${talk}`)).status).toBe(200)
  })

  it("takes no recording, slide or run-through of another person's talk into an edit of one's own", async () => {
    const own = (await stranger.get<{ id: string }>('POST', '/talks', { name: 'Foreign ids', limit: null })).id
    const author = randomUUID()
    const foreignSlide = view.slides[0]?.id
    const run = randomUUID()
    await owner.get('PUT', `/talks/${talk}/rehearsals/${run}`, {
      started: new Date().toISOString(),
      visits: [{ slide: foreignSlide, length: 1000 }],
    })
    const ink = {
      visit: 'x',
      over: { kind: 'stretch', id: stretch },
      at: 0,
      stroke: {
        id: randomUUID(),
        slide: foreignSlide,
        colour: 'moss',
        width: 'fine',
        pressure: false,
        points: [{ dt: 0, x: 0.1, y: 0.1, p: 0.5 }],
      },
    }
    for (const edit of [
      { kind: 'insert', slide: foreignSlide, version: 1, length: 1000, before: null, name: randomUUID() },
      { kind: 'draw', ink },
      { kind: 'linger', visit: 'x', length: 1000, step: 0, of: { stretch, at: 0 } },
      { kind: 'all', edits: [{ kind: 'draw', ink }] },
    ]) {
      expect([edit.kind, (await stranger.ask('POST', `/talks/${own}/programme`, { revision: 0, author, edit })).status]).toEqual([
        edit.kind,
        404,
      ])
    }
    expect(
      (await stranger.ask('POST', `/talks/${own}/programme/use`, { revision: 0, author, visit: 'x', take, showing: 'x', name: 'a' }))
        .status,
    ).toBe(404)
    const theirTake = randomUUID()
    await stranger.get('PUT', `/talks/${own}/takes/${theirTake}`, { kind: 'full', intent: { kind: 'append' } })
    const opening = { slide: foreignSlide, step: 0, blank: false, inset: true, ink: [] }
    expect(
      (
        await stranger.ask('PUT', `/stretches/${randomUUID()}`, {
          take: theirTake,
          number: 0,
          camera: false,
          voice: true,
          mime: 'audio/webm',
          opening,
        })
      ).status,
    ).toBe(404)
    await stranger.ask('DELETE', `/talks/${own}/rehearsals/${run}`)
    expect((await owner.get<TalkView>('GET', `/talks/${talk}`)).rehearsals.some((one) => one.id === run)).toBe(true)
  })

  it('tells browsers what its pages may load, and of whom they may be part', async () => {
    const page = await fetch(product.url)
    expect(page.headers.get('content-security-policy')).toMatch(
      /default-src 'self'.*object-src 'none'; frame-src 'self'.*script-src 'self' 'sha256-/,
    )
    const policy = page.headers.get('content-security-policy') ?? ''
    for (const part of ["frame-ancestors 'self'", "connect-src 'self'", "object-src 'none'"]) expect(policy).toContain(part)
    expect(policy).not.toContain('unsafe-eval')
    expect(page.headers.get('permissions-policy')).toContain('camera=(self)')
    expect(page.headers.get('referrer-policy')).toBe('same-origin')
    expect(page.headers.get('x-powered-by')).toBeNull()
    // What is kept is no file of the pages.
    for (const path of ['/store/assets', '/store/stretches/', '/.data/session-secret'])
      expect((await fetch(`${product.url}${path}`)).headers.get('content-type')).toMatch(/^text\/html/)
    expect((await fetch(`${product.url}/api/session`)).headers.get('x-content-type-options')).toBe('nosniff')
  })
})
