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
})
