import { randomUUID } from 'node:crypto'
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

const person = (name: string) => ({ name, email: `${name}@harbour.example`, password: 'twelve twelfths' })

beforeAll(async () => {
  product = await startProduct({ AISLE_ACCOUNTS: 'on' })
  owner = new Client(product.url)
  stranger = new Client(product.url)
  await owner.get('POST', '/people', person('maren'))
  await stranger.get('POST', '/people', person('ilse'))
  talk = (await owner.get<{ id: string }>('POST', '/talks', { name: 'Knots', limit: 60_000 })).id
  await owner.get('POST', `/talks/${talk}/imports`, fileForm('knots.pdf', await makePdf(KNOTS)))
  view = await until('the deck', async () => {
    const now = await owner.get<TalkView>('GET', `/talks/${talk}`)
    return now.imports[0]?.state === 'done' && now
  })
  await owner.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
  await owner.get('PUT', `/stretches/${stretch}`, {
    take, number: 0, camera: false, voice: true, mime: 'audio/webm;codecs=opus', opening: { slide: view.slides[0]?.id, step: 0, blank: false, inset: true, ink: [] },
  })
})
afterAll(async () => { await product.stop() })

describe('with accounts on', () => {
  it('reads page labels as steps and the largest text as title', () => {
    expect(view.slides.map((slide) => [slide.title, slide.steps.length])).toEqual([['Bowline', 1], ['Clove hitch', 2], ['Reef knot', 1]])
    expect(view.shape).toEqual({ width: 16, height: 9 })
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
    const routes: readonly (readonly [string, string, unknown?])[] = [
      ['GET', `/talks/${talk}`], ['PATCH', `/talks/${talk}`, { name: 'Mine' }], ['DELETE', `/talks/${talk}`], ['POST', `/talks/${talk}/restore`],
      ['POST', `/talks/${talk}/duplicate`], ['GET', `/talks/${talk}/film`], ['GET', `/talks/${talk}/notes.md?kind=notes`], ['GET', `/talks/${talk}/handout.pdf?kind=notes`], ['POST', `/talks/${talk}/pictures`], ['PUT', `/talks/${talk}/rehearsals/${randomUUID()}`, { started: new Date().toISOString(), visits: [{ slide: view.slides[0]?.id, length: 1000 }] }], ['DELETE', `/talks/${talk}/rehearsals/${randomUUID()}`], ['POST', `/talks/${talk}/imports/${randomUUID()}/settle`],
      ['POST', `/talks/${talk}/copies`, { from: talk, slides: [view.slides[0]?.id], at: 0 }], ['GET', `/talks/${talk}/assets/${digest}`],
      ['POST', `/talks/${talk}/deck`, { revision: 99, edit: { kind: 'remove', slides: [view.slides[0]?.id] } }], ['POST', `/talks/${talk}/imports`],
      ['PUT', `/talks/${talk}/recipe`, view.recipe], ['POST', `/talks/${talk}/estimate`, view.recipe],
      ['GET', `/talks/${talk}/deliveries`], ['POST', `/talks/${talk}/deliveries`, view.recipe],
      ['PUT', `/talks/${talk}/takes/${randomUUID()}`, { kind: 'full', intent: { kind: 'append' } }],
      ['POST', `/takes/${take}/finish`], ['POST', `/takes/${take}/recover`], ['DELETE', `/takes/${take}`], ['POST', `/takes/${take}/restore`], ['GET', `/takes/${take}/report`],
      ['PUT', `/stretches/${randomUUID()}`, { take, number: 1, camera: false, voice: true, mime: 'audio/webm', opening: { slide: view.slides[0]?.id, step: 0, blank: false, inset: true, ink: [] } }],
      ['GET', `/stretches/${stretch}`], ['PUT', `/stretches/${stretch}/offsets`, { picture: 0, sound: 0 }], ['PUT', `/stretches/${stretch}/kept`, { kept: 0 }], ['PUT', `/stretches/${stretch}/cues`, { first: 0, cues: [{ kind: 'blank', at: 0, on: true }] }],
      ['PUT', `/stretches/${stretch}/slices/0`], ['POST', `/stretches/${stretch}/close`, { slices: 0, cues: 0, length: 0 }], ['GET', `/stretches/${stretch}/recording`],
      ['GET', `/deliveries/${delivery}/file`], ['GET', `/deliveries/${delivery}/look`], ['POST', `/deliveries/${delivery}/cancel`], ['POST', `/deliveries/${delivery}/retry`],
    ]
    for (const [method, path, body] of routes) {
      expect([path, (await stranger.ask(method, path, body)).status]).toEqual([path, 404])
    }
    expect(await stranger.get('GET', '/talks')).toEqual([])
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
    const heard = await Promise.all([own, other].map((line) => until('an event', () => Promise.resolve(line.heard[0] !== undefined && line.heard), 60_000)))
    own.end()
    other.end()
    expect(heard.map((events) => [...new Set(events.map((event) => event.talk))])).toEqual([[talk], [theirs]])
  })

  it('does not copy slides out of another person\'s talk', async () => {
    const theirs = (await stranger.get<{ id: string }>('POST', '/talks', { name: 'Copies', limit: null })).id
    expect((await stranger.ask('POST', `/talks/${theirs}/copies`, { from: talk, slides: [view.slides[0]?.id], at: 0 })).status).toBe(404)
  })

  it('refuses requests that come from a foreign page', async () => {
    const { status } = await owner.ask('DELETE', `/talks/${talk}`, undefined, { origin: 'http://elsewhere.example' })
    expect(status).toBe(403)
  })

  it('limits attempts to sign in, and says for how long', async () => {
    const guesser = new Client(product.url)
    const tries = await Promise.all(Array.from({ length: 10 }, () => guesser.ask('POST', '/session', { email: person('maren').email, password: 'wrong wrong wrong' })))
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
})
