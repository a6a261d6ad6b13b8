import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { factsOfDelivery, judge, remedyOf } from '@core/rules'
import type { Remedy, RuleKind, RuleLine, Rules } from '@core/rules'
import type { Recipe } from '@core/model'
import { companyOf } from '@contracts'
import type { DeliveryView, FilmView, HandInView, SendingView, TalkView } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { startStandIns } from '../harness/stand-ins'
import type { StandInsRunning } from '../harness/stand-ins'
import { heardTalk, knotsTalk, settledDelivery } from '../harness/talks'

const RULES: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: 'Small talks of the rope works',
  length: { most: 60 },
  containers: ['mp4'],
  videoCodecs: ['h264'],
  lines: { least: 480, most: 720 },
  shape: { width: 16, height: 9 },
  rates: [25, 30],
  loudness: { least: -18, most: -13 },
  fileName: '{paper}-{surname}',
  captions: { where: 'inside', language: 'en' },
  transcript: { language: 'en' },
  fields: [
    { key: 'paper', label: 'Paper', signs: 'digits' },
    { key: 'surname', label: 'Surname' },
  ],
}
const FIELDS = { paper: '127', surname: 'Brandt' }

let product: Product
let client: Client
let standIns: StandInsRunning
let talk: string
beforeAll(async () => {
  standIns = await startStandIns({ rules: RULES })
  product = await startProduct({ AISLE_STAND_INS: standIns.address, AISLE_PRIVATE_PLACES: 'on' })
  client = new Client(product.url)
  talk = await heardTalk(client, 'Swifts over the rope works')
})
afterAll(async () => {
  await product.stop()
  await standIns.close()
})

const view = (): Promise<HandInView> => client.get<HandInView>('GET', `/talks/${talk}/hand-in`)
const recipe = async (): Promise<Recipe> => (await client.get<TalkView>('GET', `/talks/${talk}`)).recipe

/** Begins with rules that are all kept. */
async function begin(desk = `${standIns.address}/desk`): Promise<void> {
  for (const { id } of await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)) await client.get('DELETE', `/deliveries/${id}`)
  await client.get('PUT', `/talks/${talk}/hand-in`, { desk })
  await client.get('PATCH', `/talks/${talk}/hand-in`, { fields: FIELDS })
  await client.get('PUT', `/talks/${talk}/recipe`, { ...(await recipe()), bits: { kind: 'free' } })
}

async function make(wanted: Recipe): Promise<DeliveryView> {
  const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, wanted)
  const made = await settledDelivery(client, talk, id)
  expect([made.state, made.sentence]).toEqual(['done', null])
  return made
}

/** Rules that are not kept by a file, with the way out of each. */
async function open(film: DeliveryView): Promise<readonly (RuleLine & { readonly remedy: Remedy })[]> {
  const [held, wanted, { shape }] = [await view(), await recipe(), await client.get<TalkView>('GET', `/talks/${talk}`)]
  if (held.rules === null || film.facts === null) throw new Error('there is nothing to look at')
  const found = factsOfDelivery(film.file, film.recipe.format, film.facts)
  const { rules, words, fields } = held
  const tooLong = found.length > (rules.length?.most ?? Infinity) * 1000
  const of = { rules, recipe: wanted, shape, bytes: found.bytes, made: true, words, fields, tooLong }
  return judge(rules, found, companyOf(held, Date.now()))
    .filter(({ state }) => state !== 'met')
    .map((line) => ({ ...line, remedy: remedyOf(line, of) }))
}

/** Does what the button beside a rule does. */
async function put(remedy: Remedy, film: DeliveryView): Promise<DeliveryView> {
  switch (remedy.kind) {
    case 'recipe':
      await client.get('PUT', `/talks/${talk}/recipe`, remedy.recipe)
      return await make(remedy.recipe)
    case 'make':
      return await make(await recipe())
    case 'rename': {
      await client.get('PATCH', `/deliveries/${film.id}`, { name: remedy.name, exact: true })
      return (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find(({ id }) => id === film.id) ?? film
    }
    case 'fill-in':
      await client.get('PATCH', `/talks/${talk}/hand-in`, { fields: FIELDS })
      return film
    case 'fit': {
      const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
      const edit = { kind: 'cut', parts: [{ from: 3000, to: 60_000 }] }
      await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author: crypto.randomUUID(), edit })
      return await make(await recipe())
    }
    default:
      throw new Error(`there is no button for ${remedy.kind} here`)
  }
}

/** Refused by our rules for one thing, put right by the button beside it, and taken by the desk. */
async function throughTheDesk(kind: RuleKind, bad: DeliveryView): Promise<void> {
  const wrong = await open(bad)
  expect(wrong.map((line) => line.kind)).toEqual([kind])
  const refused = await client.ask('POST', `/deliveries/${bad.id}/send`, { kind: 'desk' })
  expect([refused.status, sentenceOf(refused.body)]).toEqual([409, expect.stringContaining(wrong[0]?.found ?? '?') as string])
  let film = bad
  for (const { remedy } of wrong) film = await put(remedy, film)
  // A name that was taken has a number; the button beside it takes that off.
  for (const { remedy } of await open(film)) film = await put(remedy, film)
  expect(await open(film)).toEqual([])
  const { id } = await client.get<{ id: string }>('POST', `/deliveries/${film.id}/send`, { kind: 'desk' })
  const sending = await until('the desk', async () => {
    const found = (await view()).sendings.find((one): one is SendingView => one.id === id)
    return found !== undefined && !['queued', 'sending'].includes(found.state) && found
  })
  expect([sending.state, sending.sentence]).toEqual(['done', null])
}

describe('a talk is refused for one fault, put right by the button beside it, and taken', () => {
  it.each<readonly [RuleKind, Partial<Recipe>]>([
    ['format', { format: 'webm' }],
    ['lines', { lines: 1080 }],
    ['shape', { size: { width: 640, height: 480, fit: 'bars' } }],
    ['rate', { rate: 24 }],
    ['loudness', { loudness: -23 }],
    ['captions', { captions: 'none' }],
    ['name', { name: 'final' }],
  ])('%s %o', async (kind, change) => {
    await begin()
    await throughTheDesk(kind, await make({ ...(await recipe()), ...change }))
  })

  it('fields', async () => {
    await begin()
    const film = await make(await recipe())
    await client.get('PATCH', `/talks/${talk}/hand-in`, { fields: { ...FIELDS, paper: 'P127' } })
    await client.get('PATCH', `/deliveries/${film.id}`, { name: 'P127-Brandt', exact: true })
    const renamed = (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`))[0] ?? film
    await throughTheDesk('fields', renamed)
  })

  it('size', async () => {
    // Of a still slide nothing can be saved: somebody is seen in a grainy picture.
    const spoken = talk
    const seen = await knotsTalk(client, 'Swifts in the rain')
    talk = seen.talk
    const media = await facedRecording(6, 'magenta', 40)
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, camera: true, length: 6000, slide: seen.slides[0] ?? '' }])
    const { captions: _, transcript: __, ...rules } = RULES
    const without = await startStandIns({ rules })
    await begin(`${without.address}/desk`)
    const film = await make({ ...(await recipe()), quality: 'fine' })
    const desk = await startStandIns({ rules: { ...rules, bytes: Math.round((film.facts?.bytes ?? 0) * 0.8) } })
    try {
      await client.get('PUT', `/talks/${talk}/hand-in`, { desk: `${desk.address}/desk` })
      await throughTheDesk('size', film)
    } finally {
      talk = spoken
      await without.close()
      await desk.close()
    }
  })

  it('length', async () => {
    await begin()
    const film = await make({ ...(await recipe()), limit: { kind: 'none' } })
    const desk = await startStandIns({ rules: { ...RULES, length: { most: 4 } } })
    try {
      await client.get('PUT', `/talks/${talk}/hand-in`, { desk: `${desk.address}/desk` })
      await throughTheDesk('length', film)
    } finally {
      await desk.close()
    }
  })
})
