import type { H3Event } from 'h3'
import { expect, it, vi } from 'vitest'

/** A request over a connection from one address, with what its header says of others. */
const eventFrom = (socket: string, forwarded: string | undefined): H3Event =>
  ({
    node: { req: { socket: { remoteAddress: socket }, headers: forwarded === undefined ? {} : { 'x-forwarded-for': forwarded } } },
  }) as never

it("takes a request to come from the last address that is not one of our own proxies', whatever else its header says", async () => {
  process.env['DATABASE_URL'] ??= 'postgres://nobody@127.0.0.1:1/none'
  process.env['AISLE_TRUSTED_PROXIES'] = '1'
  // Settings are read once, and other tests may have read them.
  vi.resetModules()
  const { networkOf } = await import('./attempts')
  expect(networkOf(eventFrom('10.0.0.1', '203.0.113.7'))).toBe('203.0.113.7')
  // Somebody made up the rest.
  expect(networkOf(eventFrom('10.0.0.1', '198.51.100.1, 127.0.0.1, 203.0.113.7'))).toBe('203.0.113.7')
  expect(networkOf(eventFrom('10.0.0.1', undefined))).toBe('10.0.0.1')
  delete process.env['AISLE_TRUSTED_PROXIES']
  vi.resetModules()
})
