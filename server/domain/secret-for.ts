import { hkdfSync } from 'node:crypto'
import { settings } from '@server/settings'

const BYTES = 32
const known = new Map<string, Buffer>()

/** The server's secret for one purpose (HKDF, RFC 5869): what is signed for one says nothing for another. */
export function secretFor(purpose: string): Buffer {
  const found = known.get(purpose) ?? Buffer.from(hkdfSync('sha256', settings().secret, '', purpose, BYTES))
  known.set(purpose, found)
  return found
}
