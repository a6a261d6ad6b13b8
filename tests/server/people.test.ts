import { execFile } from 'node:child_process'
import { readFile, readdir, utimes } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { sql } from 'kysely'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AccountView, PeoplePage, PersonRow, PlaceSignedIn, SessionView, TalkCard } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { startIdentityProvider } from '../harness/identity-provider'
import type { IdentityProvider } from '../harness/identity-provider'
import { readable, startMailServer } from '../harness/mail'
import type { MailServer } from '../harness/mail'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { reclaimNow } from '../harness/reclaim'
import { knotsTalk } from '../harness/talks'

const PASSWORD = 'heron lantern gravel'
const OTHER = 'gravel lantern heron'
const run = promisify(execFile)

let mail: MailServer
let provider: IdentityProvider
let product: Product
let maren: Client
beforeAll(async () => {
  mail = await startMailServer()
  provider = await startIdentityProvider({
    ilse: { name: 'Ilse Brandt', email: 'ilse@harbour.example', email_verified: true },
    onno: { name: 'Onno Reet', email: 'onno@harbour.example', email_verified: false },
    jorun: { name: 'Jorun Vik', email: 'jorun@quay.example', email_verified: true },
  })
  product = await startProduct({
    AISLE_ACCOUNTS: 'on',
    AISLE_SIGN_UP: 'domain',
    AISLE_SIGN_UP_DOMAINS: 'harbour.example',
    AISLE_SMTP_URL: mail.url,
    AISLE_GRACE_DAYS: '0',
    AISLE_UNTOUCHED_DAYS: '365',
    ...provider.settings,
  })
  provider.sendsBackTo(product.url)
})
afterAll(async () => {
  await product.stop()
  await provider.close()
  await mail.close()
})

/** The key in the last letter to somebody with such a subject. */
const keyTo = (address: string, subject: RegExp): Promise<string> =>
  until('the letter', () => {
    const letter = mail.taken.findLast(({ to, text }) => to.includes(address) && subject.test(readable(text)))
    return Promise.resolve(/\/enter#([\w-]{43})/.exec(readable(letter?.text ?? ''))?.[1])
  })

async function invited(operator: Client, address: string, name: string): Promise<Client> {
  await operator.get('POST', '/operator/people', { email: address, operator: false })
  const client = new Client(product.url)
  await client.get('POST', '/person-links/join', { key: await keyTo(address, /invited/), name, password: PASSWORD })
  return client
}
const rowOf = async (email: string): Promise<PersonRow> => {
  const { people } = await maren.get<PeoplePage>('GET', `/operator/people?words=${encodeURIComponent(email)}`)
  if (people[0] === undefined) throw new Error(`nobody has ${email}`)
  return people[0]
}
const signedIn = async (email: string, password = PASSWORD): Promise<Client> => {
  const client = new Client(product.url)
  await client.get('POST', '/session', { email, password })
  return client
}
const who = async (client: Client): Promise<string | null> => (await client.get<SessionView>('GET', '/session')).person?.name ?? null

describe('the first operator', () => {
  it('comes by a link of the command, and no link is good twice', async () => {
    const env = { ...process.env, AISLE_DATA: product.data, DATABASE_URL: product.databaseUrl, AISLE_PUBLIC_ADDRESS: product.url }
    const command = (...args: string[]) => run(process.execPath, ['--import', 'tsx', 'scripts/people.ts', ...args], { env })
    const { stdout } = await command('invite', 'maren@harbour.example', '--operator')
    const key = stdout.trim().split('#')[1] ?? ''
    maren = new Client(product.url)
    expect(await maren.get('POST', '/person-links/look', { key })).toEqual({ kind: 'invite', address: 'maren@harbour.example' })
    await maren.get('POST', '/person-links/join', { key, name: 'Maren Holt', password: PASSWORD })
    expect((await maren.get<SessionView>('GET', '/session')).person).toMatchObject({ name: 'Maren Holt', operator: true })
    const again = await new Client(product.url).ask('POST', '/person-links/join', { key, name: 'Somebody', password: PASSWORD })
    expect([again.status, sentenceOf(again.body)]).toEqual([404, expect.stringContaining('used before')])
    expect((await command('list')).stdout).toMatch(/maren@harbour\.example {2}Maren Holt {2}0 talks, 0\.00 GB {2}operator/)
  })

  it('is not left behind: the last one neither leaves nor is made an ordinary person', async () => {
    const { id } = await rowOf('maren@harbour.example')
    const answer = await maren.ask('PATCH', `/operator/people/${id}`, { operator: false })
    expect([answer.status, sentenceOf(answer.body)]).toEqual([409, expect.stringContaining('Nobody else runs this server')])
    expect((await maren.ask('PUT', '/account/leaving', { password: PASSWORD })).status).toBe(409)
  })
})

describe('an account', () => {
  it('is made by who has an address of the domain, once they have shown it; others are invited', async () => {
    const client = new Client(product.url)
    const foreign = await client.ask('POST', '/people', { name: 'Somebody', email: 'some@quay.example', password: PASSWORD })
    expect([foreign.status, sentenceOf(foreign.body)]).toEqual([403, expect.stringContaining('end in harbour.example')])
    const email = 'wenna@harbour.example'
    await client.get('POST', '/people', { name: 'Wenna Sole', email, password: PASSWORD })
    const early = await client.ask('POST', '/session', { email, password: PASSWORD })
    expect([early.status, sentenceOf(early.body)]).toEqual([403, expect.stringContaining('Open the link in the letter')])
    expect((await client.ask('POST', '/session', { email, password: OTHER })).status).toBe(401)
    // The letter may be lost: who tries has another, by which the first opens nothing any more.
    await until('the second letter', () =>
      Promise.resolve(mail.taken.filter(({ to, text }) => to.includes(email) && readable(text).includes('Your account')).length === 2),
    )
    const key = await keyTo(email, /Your account/)
    // A link of one kind opens nothing of another.
    expect((await client.ask('POST', '/person-links/reset', { key, password: OTHER })).status).toBe(404)
    await client.get('POST', '/person-links/show', { key })
    expect(await who(await signedIn(email))).toBe('Wenna Sole')
    expect(await who(await invited(maren, 'piet@quay.example', 'Piet Korn'))).toBe('Piet Korn')
    const twice = await maren.ask('POST', '/operator/people', { email: 'piet@quay.example', operator: false })
    expect([twice.status, sentenceOf(twice.body)]).toEqual([409, expect.stringContaining('has an account already')])
  })

  it('gets another password by a letter, which ends all that was open; who asks is not told whether there is one', async () => {
    const email = 'wenna@harbour.example'
    const open = await signedIn(email)
    const asker = new Client(product.url)
    const [there, not] = [
      await asker.ask('POST', '/password-resets', { email }),
      await asker.ask('POST', '/password-resets', { email: 'no@harbour.example' }),
    ]
    expect(there).toEqual(not)
    const key = await keyTo(email, /Another password/)
    await asker.get('POST', '/person-links/reset', { key, password: OTHER })
    expect([await who(asker), await who(open)]).toEqual(['Wenna Sole', null])
    expect((await asker.ask('POST', '/session', { email, password: PASSWORD })).status).toBe(401)
    // What opens an account stands in no outbox.
    const letters = JSON.stringify(await asker.get('GET', '/letters'))
    expect(letters).toContain('Another password')
    expect(letters).not.toContain(key)
  })

  it('changes its password by the old one, and ends places one by one or all at once', async () => {
    const email = 'wenna@harbour.example'
    const [here, there, third] = [await signedIn(email, OTHER), await signedIn(email, OTHER), await signedIn(email, OTHER)]
    const wrong = await here.ask('PUT', '/session/password', { old: PASSWORD, password: 'quite another thing' })
    expect([wrong.status, sentenceOf(wrong.body)]).toEqual([403, expect.stringContaining('Nothing was changed')])
    const places = await there.get<PlaceSignedIn[]>('GET', '/session/places')
    expect(places.filter((place) => place.here)).toHaveLength(1)
    await here.get('DELETE', `/session/places/${places.find((place) => place.here)?.id ?? ''}`)
    expect([await who(there), await who(third)]).toEqual([null, 'Wenna Sole'])
    // Another person's place is not theirs to end.
    const [own] = await maren.get<PlaceSignedIn[]>('GET', '/session/places')
    expect((await here.ask('DELETE', `/session/places/${own?.id ?? ''}`)).status).toBe(404)
    await here.get('PUT', '/session/password', { old: OTHER, password: PASSWORD })
    expect([await who(here), await who(third)]).toEqual(['Wenna Sole', null])
    await until('the letter that says so', () =>
      Promise.resolve(mail.taken.some(({ to, text }) => to.includes(email) && readable(text).includes('is another one'))),
    )
    const fourth = await signedIn(email)
    await here.get('DELETE', '/session/places')
    expect([await who(here), await who(fourth)]).toEqual(['Wenna Sole', null])
  })

  it('is blocked at once, everywhere, and opened again', async () => {
    const client = await signedIn('wenna@harbour.example')
    const { id } = await rowOf('wenna@harbour.example')
    await maren.get('PATCH', `/operator/people/${id}`, { blocked: true })
    expect(await who(client)).toBeNull()
    const refused = await client.ask('POST', '/session', { email: 'wenna@harbour.example', password: PASSWORD })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([403, expect.stringContaining('blocked')])
    await maren.get('PATCH', `/operator/people/${id}`, { blocked: false })
    expect(await who(await signedIn('wenna@harbour.example'))).toBe('Wenna Sole')
  })

  it('of who is no operator finds no page of operators', async () => {
    const client = await signedIn('wenna@harbour.example')
    const { id } = await rowOf('maren@harbour.example')
    const asked = [
      await client.ask('GET', '/operator/people'),
      await client.ask('GET', '/operator/state'),
      await client.ask('POST', '/operator/people', { email: 'x@quay.example', operator: true }),
      await client.ask('PATCH', `/operator/people/${id}`, { blocked: true }),
      await client.ask('POST', `/operator/people/${id}/hand-over`, { email: 'wenna@harbour.example' }),
      await client.ask('POST', `/operator/people/${id}/reset`),
      await client.ask('DELETE', '/operator/people/invitation?email=x@quay.example'),
    ]
    expect(asked.map(({ status }) => status)).toEqual(asked.map(() => 404))
  })
})

describe('a provider of identities', () => {
  const nameAfter = async (cookie: string): Promise<string | null> => {
    const answer = await fetch(`${product.url}/api/session`, { headers: { cookie } })
    return ((await answer.json()) as SessionView).person?.name ?? null
  }

  it('signs people in: a new account, the same one again, and one that was there and is theirs by the word of both sides', async () => {
    const first = await provider.go(product.url, 'ilse')
    expect([first.path, await nameAfter(first.cookie)]).toEqual(['/series', 'Ilse Brandt'])
    await provider.go(product.url, 'ilse')
    expect((await maren.get<PeoplePage>('GET', '/operator/people?words=ilse@')).count).toBe(1)
    const there = await invited(maren, 'jorun@quay.example', 'Jorun')
    const { path, cookie } = await provider.go(product.url, 'jorun')
    expect([path, await nameAfter(cookie), await who(there)]).toEqual(['/series', 'Jorun', 'Jorun'])
  })

  it('opens no account by an address that it does not vouch for, nor one that was never shown to be somebody’s', async () => {
    await new Client(product.url).get('POST', '/people', { name: 'Not Onno', email: 'onno@harbour.example', password: PASSWORD })
    const unsure = await provider.go(product.url, 'onno')
    expect([unsure.path, await nameAfter(unsure.cookie)]).toEqual([expect.stringContaining('does not vouch for your e-mail address'), null])
    const { id } = await rowOf('ilse@harbour.example')
    await product.db.deleteFrom('identity').where('person', '=', id).execute()
    await product.db.updateTable('person').set({ verified: null }).where('id', '=', id).execute()
    const taken = await provider.go(product.url, 'ilse')
    expect([taken.path, await nameAfter(taken.cookie)]).toEqual([expect.stringContaining('has not shown that it is theirs'), null])
  })

  it('is not believed when somebody comes back who was never sent, or by another way', async () => {
    const answer = await fetch(`${product.url}/api/identity/back?code=made-up&state=made-up`, { redirect: 'manual' })
    expect(decodeURIComponent(answer.headers.get('location') ?? '')).toContain('That took too long')
    expect(answer.headers.getSetCookie().join()).not.toContain('nuxt-session')
  })
})

describe('quotas', () => {
  it('are set for one person, refuse in words that say what helps, and are seen by whose they are', async () => {
    const client = await signedIn('wenna@harbour.example')
    const { id } = await rowOf('wenna@harbour.example')
    const { talk, slides } = await knotsTalk(client, 'Splices')
    const own = (change: Partial<PersonRow['own']>) =>
      maren.get('PATCH', `/operator/people/${id}`, { own: { bytes: null, filmMinutes: null, recordings: null, ...change } })
    await own({ bytes: 1000 })
    const full = await client.ask('PUT', `/talks/${talk}/takes/${crypto.randomUUID()}`, { kind: 'full', intent: { kind: 'replaceAll' } })
    expect([full.status, sentenceOf(full.body)]).toEqual([413, expect.stringMatching(/most is in “Splices” \(0\.0 GB\)/)])
    await own({ recordings: 1 })
    await client.get('PUT', `/talks/${talk}/takes/${crypto.randomUUID()}`, { kind: 'full', intent: { kind: 'replaceAll' } })
    const second = await client.get<{ id: string }>('POST', '/talks', { name: 'Second', limit: null })
    const busy = await client.ask('PUT', `/talks/${second.id}/takes/${crypto.randomUUID()}`, {
      kind: 'full',
      intent: { kind: 'replaceAll' },
    })
    expect([busy.status, sentenceOf(busy.body)]).toEqual([429, expect.stringContaining('being recorded at this moment')])
    await own({ filmMinutes: 0 })
    const media = await toneRecording(2)
    await product.db.updateTable('take').set({ state: 'discarded', discarded: new Date() }).where('talk', '=', talk).execute()
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 2000, slide: slides[0] ?? '' }])
    const film = await client.ask('POST', `/talks/${talk}/deliveries`, {
      lines: 480,
      quality: 'good',
      name: 'film',
      limit: { kind: 'none' },
    })
    expect([film.status, sentenceOf(film.body)]).toEqual([
      429,
      expect.stringMatching(/0 minutes of film were made for you, and up to 0 minutes are/),
    ])
    expect(await client.get<AccountView>('GET', '/account')).toMatchObject({
      quota: { filmMinutes: 0, recordings: null },
      largest: [{ name: 'Splices' }],
      password: true,
      goes: null,
    })
    await own({})
  })
})

describe('talks', () => {
  it('are handed over to who goes on with them, under the same links', async () => {
    const [from, to] = [await signedIn('wenna@harbour.example'), await signedIn('piet@quay.example')]
    const cards = await from.get<TalkCard[]>('GET', '/talks')
    const heard = await to.listen()
    const { talks } = await maren.get<{ talks: number }>(
      'POST',
      `/operator/people/${(await rowOf('wenna@harbour.example')).id}/hand-over`,
      {
        email: 'piet@quay.example',
      },
    )
    expect(talks).toBe(cards.length)
    expect(await from.get('GET', '/talks')).toEqual([])
    expect((await to.get<TalkCard[]>('GET', '/talks')).map(({ name }) => name).sort()).toEqual(['Second', 'Splices'])
    await until('the news', () => Promise.resolve(heard.heard.some(({ kind }) => kind === 'owner')))
    heard.end()
    expect((await from.ask('GET', `/talks/${cards[0]?.id ?? ''}`)).status).toBe(404)
  })

  it('that nobody touches go a month after their owner was told, and stay when they are touched', async () => {
    const client = await signedIn('piet@quay.example')
    const ids = (await client.get<TalkCard[]>('GET', '/talks')).map(({ id }) => id)
    const longAgo = sql<Date>`now() - interval '400 days'`
    await product.db.updateTable('talk').set({ changed: longAgo }).where('id', 'in', ids).execute()
    await reclaimNow(product)
    const letter = await until('the letter', () =>
      Promise.resolve(mail.taken.find(({ to, text }) => to.includes('piet@quay.example') && readable(text).includes('go in a month'))),
    )
    expect(readable(letter.text)).toMatch(/- Second\r?\n- Splices/)
    // Told, and then: one is changed, of the other a month passes.
    const splices = (await client.get<TalkCard[]>('GET', '/talks')).find(({ name }) => name === 'Splices')?.id ?? ''
    await product.db
      .updateTable('talk')
      .set({ told_untouched: sql<Date>`now() - interval '31 days'` })
      .where('id', 'in', ids)
      .execute()
    await client.get('PATCH', `/talks/${splices}`, { name: 'Splices again' })
    await product.db.updateTable('talk').set({ changed: new Date() }).where('id', '=', splices).execute()
    await reclaimNow(product)
    expect((await client.get<TalkCard[]>('GET', '/talks')).map(({ name }) => name)).toEqual(['Splices again'])
  })
})

describe('who leaves', () => {
  it('is told when, can stay after all, and is gone then: from the database and from the disk', async () => {
    const client = await signedIn('piet@quay.example')
    const wrong = await client.ask('PUT', '/account/leaving', { password: OTHER })
    expect(wrong.status).toBe(403)
    await client.get('PUT', '/account/leaving', { password: PASSWORD })
    expect((await client.get<AccountView>('GET', '/account')).goes).not.toBeNull()
    await client.get('DELETE', '/account/leaving')
    expect((await client.get<AccountView>('GET', '/account')).goes).toBeNull()
    await client.get('PUT', '/account/leaving', { password: PASSWORD })
    // What names nobody any more lies for a day before it goes.
    const store = join(product.data, 'store')
    const lying = async (): Promise<readonly string[]> =>
      (await readdir(store, { recursive: true, withFileTypes: true }))
        .filter((entry) => entry.isFile() && entry.name !== 'identity')
        .map(({ parentPath, name }) => join(parentPath, name))
    const long = new Date(Date.now() - 3 * 86_400_000)
    for (const entry of await readdir(store, { recursive: true })) await utimes(join(store, entry), long, long)
    expect((await lying()).length).toBeGreaterThan(3)
    await reclaimNow(product)
    await reclaimNow(product)
    expect(await lying()).toEqual([])
    const { stdout: dump } = await run('pg_dump', ['--data-only', '--inserts', product.databaseUrl], { maxBuffer: 1e9 })
    for (const trace of ['piet@quay.example', 'Piet Korn', 'Splices', 'Reef knot']) expect(dump).not.toContain(trace)
    for (const file of await readdir(product.data, { recursive: true, withFileTypes: true })) {
      if (!file.isFile()) continue
      expect((await readFile(join(file.parentPath, file.name))).includes('piet@quay.example')).toBe(false)
    }
    expect((await client.ask('GET', '/talks')).status).toBe(401)
  })
})
