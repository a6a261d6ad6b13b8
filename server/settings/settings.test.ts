import { describe, expect, it } from 'vitest'
import { isLoopback, readSettings } from '.'

const DATABASE_URL = 'postgresql://aisle:x@127.0.0.1:5432/aisle'

describe('settings', () => {
  it('refuse to open a server without accounts to others, in words', () => {
    for (const host of ['0.0.0.0', '::', '192.168.1.7', 'school.example'])
      expect(() => readSettings({ DATABASE_URL, AISLE_HOST: host })).toThrow(
        /AISLE_ACCOUNTS is off, so whoever reaches it would be the presenter/,
      )
    expect(readSettings({ DATABASE_URL, AISLE_HOST: '0.0.0.0', AISLE_ACCOUNTS: 'on' }).host).toBe('0.0.0.0')
  })

  it('take this machine by each of its names', () => {
    expect(['127.0.0.1', '127.3.2.1', 'localhost', '::1'].map(isLoopback)).toEqual([true, true, true, true])
    expect(['127.0.0.1.example', '10.0.0.1', '', '::'].map(isLoopback)).toEqual([false, false, false, false])
    expect(readSettings({ DATABASE_URL, AISLE_HOST: '::1', AISLE_PORT: '4400' }).publicAddress).toBe('http://[::1]:4400')
  })

  it('name all that is missing or out of range at once', () => {
    expect(() => readSettings({ AISLE_PORT: '99999', AISLE_WORKERS: 'many' })).toThrow(/DATABASE_URL.*AISLE_PORT.*AISLE_WORKERS/s)
  })

  it('refuse an address that others reach without TLS, accounts or a secret of its own, all at once', () => {
    const reached = { DATABASE_URL, AISLE_PUBLIC_ADDRESS: 'http://talks.school.example' }
    expect(() => readSettings(reached)).toThrow(/AISLE_ACCOUNTS is off.*without TLS.*NUXT_SESSION_PASSWORD is not set/s)
    const safe = { AISLE_PUBLIC_ADDRESS: 'https://talks.school.example', AISLE_ACCOUNTS: 'on', NUXT_SESSION_PASSWORD: 'x'.repeat(32) }
    expect(readSettings({ DATABASE_URL, ...safe }).publicAddress).toBe('https://talks.school.example')
    const provider = { AISLE_OIDC_CLIENT: 'aisle', AISLE_OIDC_SECRET: 'secret' }
    expect(() => readSettings({ DATABASE_URL, ...safe, ...provider, AISLE_OIDC_ISSUER: 'http://id.school.example' })).toThrow(
      /sign in as anybody/,
    )
    expect(readSettings({ DATABASE_URL, ...provider, AISLE_OIDC_ISSUER: 'http://127.0.0.1:3000' }).provider?.name).toBe('your school')
    expect(() => readSettings({ DATABASE_URL, AISLE_OIDC_ISSUER: 'http://127.0.0.1:3000' })).toThrow(/AISLE_OIDC_CLIENT/)
  })

  it('say where media are kept, and refuse an object store without a key, without TLS, or that is both old and new', () => {
    expect(readSettings({ DATABASE_URL })).toMatchObject({ store: { kind: 'folder' }, formerStore: null })
    const keys = { AISLE_S3_KEY: 'key', AISLE_S3_SECRET: 'secret' }
    const objects = { DATABASE_URL, ...keys, AISLE_STORE: 's3://talks/school/media' }
    expect(readSettings({ ...objects, AISLE_STORE_FORMER: 'folder' })).toMatchObject({
      store: { kind: 'objects', bucket: 'talks', prefix: 'school/media/', endpoint: null, region: 'us-east-1', key: 'key' },
      formerStore: { kind: 'folder' },
    })
    expect(() => readSettings({ DATABASE_URL, AISLE_STORE: 's3://talks' })).toThrow(/AISLE_S3_KEY.*AISLE_S3_SECRET/s)
    expect(() => readSettings({ DATABASE_URL, AISLE_STORE_FORMER: 's3://talks' })).toThrow(/AISLE_S3_KEY/)
    expect(() => readSettings({ DATABASE_URL, AISLE_STORE: '/srv/talks' })).toThrow(/is "folder" or the address of a bucket/)
    expect(() => readSettings({ ...objects, AISLE_S3_ENDPOINT: 'http://objects.school.example' })).toThrow(/could read and change/)
    expect(() => readSettings({ ...objects, AISLE_STORE_FORMER: objects.AISLE_STORE })).toThrow(/Leave AISLE_STORE_FORMER out/)
  })

  it('say who may make an account, and how many jobs of each queue a worker does', () => {
    expect(readSettings({ DATABASE_URL })).toMatchObject({ signUp: 'invitation', filmMinutes: null, shares: {} })
    expect(() => readSettings({ DATABASE_URL, AISLE_SIGN_UP: 'domain' })).toThrow(/AISLE_SIGN_UP_DOMAINS/)
    const { signUpDomains, shares } = readSettings({
      DATABASE_URL,
      AISLE_SIGN_UP: 'domain',
      AISLE_SIGN_UP_DOMAINS: 'harbour.example, Quay.example',
      AISLE_QUEUES: 'films=0,decks=3',
    })
    expect([signUpDomains, shares]).toEqual([['harbour.example', 'quay.example'], { films: 0, decks: 3 }])
    expect(() => readSettings({ DATABASE_URL, AISLE_QUEUES: 'everything=3' })).toThrow(/the queues are takes, decks/)
  })
})
