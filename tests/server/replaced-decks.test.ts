import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Slide } from '@core/model'
import type { BroughtDeck, FilmView, TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { makePdf } from '../harness/decks'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
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

const view = (talk: string): Promise<TalkView> => client.get<TalkView>('GET', `/talks/${talk}`)
const bring = (talk: string, name: string, file: Uint8Array, wish?: string): Promise<TalkView> =>
  broughtInto(client, talk, name, file, wish)

const page = (title: string, ...lines: readonly string[]): string => [`# ${title}`, '', ...lines.map((line) => `- ${line}`)].join('\n')
const deckOf = (...pages: readonly string[]): Uint8Array => Buffer.from(pages.join('\n\n'))
const BOWLINE = page('The bowline', 'a loop that holds', 'is undone by hand')
const HITCH = page('The clove hitch', 'round a post', 'slips when it is not under load')
const REEF = page('The reef knot', 'two ends of one rope', 'never joins two ropes')
const TIDES = page('Tides', 'twice a day', 'higher with a new moon')
const titles = ({ slides }: { readonly slides: readonly Slide[] }): readonly string[] => slides.map(({ title }) => title)

/** A talk whose first three slides were recorded, four seconds each, with notes. */
async function recordedTalk(name: string): Promise<{ readonly talk: string; readonly now: TalkView }> {
  const { id: talk } = await client.get<{ id: string }>('POST', '/talks', { name, limit: null })
  const { slides, revision } = await bring(talk, 'knots.md', deckOf(BOWLINE, HITCH, REEF))
  const edit = { kind: 'set', slides: [slides[0]?.id], fields: { notes: 'Show it with the rope.', planned: 30_000 } }
  await client.get('POST', `/talks/${talk}/deck`, { revision, edit })
  const show = (at: number, n: number) => ({ kind: 'show', at, slide: slides[n]?.id, step: 0 })
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    { media: await toneRecording(12), length: 12_000, slide: slides[0]?.id ?? '', cues: [show(4000, 1), show(8000, 2)] },
  ])
  return { talk, now: await view(talk) }
}
const film = (talk: string): Promise<FilmView> => client.get<FilmView>('GET', `/talks/${talk}/film`)
const changedSlides = async (talk: string): Promise<readonly string[]> => {
  const { programme, slides } = await film(talk)
  const marked = new Set(programme.changedUnder)
  const ids = new Set(programme.pieces.filter(({ visit }) => marked.has(visit)).map(({ slide }) => slide))
  return slides.filter(({ id }) => ids.has(id)).map(({ title }) => title)
}

describe('a deck that is replaced', () => {
  it('changes nothing before it is taken over, then its slides are themselves, and what was changed is marked', async () => {
    const { talk, now } = await recordedTalk('Next year')
    const changed = HITCH.replace('slips', 'slides')
    const brought = await bring(talk, 'knots-2027.md', deckOf(TIDES, BOWLINE, changed), '?replace=1')
    const [newest] = brought.imports
    expect(newest).toMatchObject({ state: 'done', replaces: 'waiting' })
    expect(titles(brought)).toEqual(titles(now))
    expect((await film(talk)).programme).toEqual((await film(talk)).programme)

    const path = `/talks/${talk}/imports/${newest?.id ?? ''}`
    const deck = await client.get<BroughtDeck>('GET', `${path}/brought`)
    expect(titles(deck)).toEqual(['Tides', 'The bowline', 'The clove hitch'])
    const named = new Map([...now.slides, ...deck.slides].map(({ id, title }) => [id, title]))
    expect(deck.pairs.map(({ slide, brought: is, changed: other }) => [named.get(slide), named.get(is), other])).toEqual([
      ['The bowline', 'The bowline', false],
      ['The clove hitch', 'The clove hitch', true],
    ])

    const pairs = deck.pairs.map(({ slide, brought: is }) => ({ slide, brought: is }))
    await client.get('POST', `${path}/take-over`, { revision: brought.revision, pairs })
    const after = await view(talk)
    expect(titles(after)).toEqual(['Tides', 'The bowline', 'The clove hitch'])
    expect(after.slides.slice(1).map(({ id }) => id)).toEqual(now.slides.slice(0, 2).map(({ id }) => id))
    expect(after.slides[1]).toMatchObject({ notes: 'Show it with the rope.', planned: 30_000 })
    expect(after.slides[2]?.steps[0]?.text).toContain('slides when')
    // All that was said is still there, on its slides, and one of them is to be looked at.
    const { programme } = await film(talk)
    expect(programme.pieces.map(({ slide }) => slide)).toEqual(now.slides.map(({ id }) => id))
    expect(await changedSlides(talk)).toEqual(['The clove hitch'])
    const looked = { kind: 'looked', visits: programme.changedUnder }
    const author = '5b3f7f64-1a0a-4a53-9a53-0e2f6d1c8a12'
    await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author, edit: looked })
    expect(await changedSlides(talk)).toEqual([])

    const again = await client.ask('POST', `${path}/take-over`, { revision: after.revision, pairs })
    expect([again.status, sentenceOf(again.body)]).toEqual([409, expect.stringContaining('Nothing was changed')])
  })

  it('is given back as it was, with the words that were written since', async () => {
    const { talk, now } = await recordedTalk('Given back')
    const brought = await bring(talk, 'other.md', deckOf(REEF.replace('never', 'not ever'), TIDES), '?replace=1')
    const path = `/talks/${talk}/imports/${brought.imports[0]?.id ?? ''}`
    const deck = await client.get<BroughtDeck>('GET', `${path}/brought`)
    await client.get('POST', `${path}/take-over`, {
      revision: brought.revision,
      pairs: deck.pairs.map(({ slide, brought: is }) => ({ slide, brought: is })),
    })
    const taken = await view(talk)
    expect(titles(taken)).toEqual(['The reef knot', 'Tides'])
    expect(await changedSlides(talk)).toEqual(['The reef knot'])
    const edit = { kind: 'set', slides: [taken.slides[0]?.id], fields: { notes: 'Right over left.' } }
    await client.get('POST', `/talks/${talk}/deck`, { revision: taken.revision, edit })
    await client.get('POST', `${path}/give-back`)
    const back = await view(talk)
    expect(back.slides.map(({ id, title, notes }) => [id, title, notes])).toEqual(
      now.slides.map(({ id, title, notes }) => [id, title, title === 'The reef knot' ? 'Right over left.' : notes]),
    )
    expect(back.slides[2]?.steps[0]?.text).toContain('never joins')
    expect(await changedSlides(talk)).toEqual([])
    expect((await client.ask('POST', `${path}/give-back`)).status).toBe(409)
  })

  it('goes across kinds, and is left where nothing of it is wanted', async () => {
    const { talk, now } = await recordedTalk('Another kind')
    const pdf = await makePdf([
      { title: 'The reef knot', colour: [240, 235, 200] },
      { title: 'Fog', colour: [190, 205, 235] },
    ])
    const brought = await bring(talk, 'knots.pdf', pdf, '?replace=1')
    const path = `/talks/${talk}/imports/${brought.imports[0]?.id ?? ''}`
    const { pairs } = await client.get<BroughtDeck>('GET', `${path}/brought`)
    expect(pairs.map(({ slide }) => now.slides.find(({ id }) => id === slide)?.title)).toEqual(['The reef knot'])
    await client.get('DELETE', `${path}/brought`)
    expect((await view(talk)).imports[0]).toMatchObject({ replaces: 'dropped', slides: [] })
    expect(titles(await view(talk))).toEqual(titles(now))
    expect((await client.ask('GET', `${path}/brought`)).status).toBe(409)
  })

  it('is refused where pairs make no sense, the deck was changed meanwhile, or nothing came', async () => {
    const { talk } = await recordedTalk('Refused')
    const brought = await bring(talk, 'new.md', deckOf(BOWLINE, TIDES), '?replace=1')
    const path = `/talks/${talk}/imports/${brought.imports[0]?.id ?? ''}`
    const deck = await client.get<BroughtDeck>('GET', `${path}/brought`)
    const [one, two] = deck.slides.map(({ id }) => id)
    const [old] = brought.slides.map(({ id }) => id)
    const tried = async (pairs: readonly unknown[], revision = brought.revision) =>
      (await client.ask('POST', `${path}/take-over`, { revision, pairs })).status
    expect(
      await tried([
        { slide: old, brought: one },
        { slide: old, brought: two },
      ]),
    ).toBe(400)
    expect(await tried([{ slide: one, brought: two }])).toBe(409)
    expect(await tried([], brought.revision - 1)).toBe(409)
    expect(titles(await view(talk))).toEqual(titles(brought))
    const empty = await bring(talk, 'empty.pdf', Buffer.from('%PDF-1.4 nothing'), '?replace=1')
    expect(empty.imports[0]?.state).toBe('failed')
    expect(titles(empty)).toEqual(titles(brought))
  })
})
