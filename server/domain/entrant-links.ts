import { createHmac, timingSafeEqual } from 'node:crypto'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { secretFor } from './secret-for'

/*
 * The link by which somebody finds their talk for a call again. It names their part and is signed, so it can be written once more in
 * every letter, and is kept nowhere. Another number makes an older one worth nothing.
 */

/** Bytes of the part's id, and of what signs it (RFC 2104, 5: half of the digest). */
const [ID, SIGNATURE] = [16, 16]

/** Somebody's part in a call as their browser keeps it. */
export interface KnownPart {
  readonly entrant: string
  readonly number: number
}

const signatureOf = ({ entrant, number }: KnownPart): Buffer =>
  createHmac('sha256', secretFor('link of an entrant'))
    .update(`${entrant} ${String(number)}`)
    .digest()
    .subarray(0, SIGNATURE)

/** Words that open somebody's part in a call. */
export const tokenOf = (part: KnownPart): string =>
  Buffer.concat([Buffer.from(part.entrant.replaceAll('-', ''), 'hex'), signatureOf(part)]).toString('base64url')

/** Path of the page of a call, and its address. */
export const callPath = (key: string): string => `/c/${key}`
export const callAddress = (key: string): string => `${settings().publicAddress}${callPath(key)}`

/** Behind the sign of a fragment: it reaches no server's log. */
export const ownAddress = (key: string, part: KnownPart): string => `${callAddress(key)}#own=${tokenOf(part)}`

/** Which part a token opens; null: none. */
export async function partByToken(q: Queries, token: string): Promise<(KnownPart & { readonly call: string }) | null> {
  const bytes = Buffer.from(token, 'base64url')
  if (bytes.length !== ID + SIGNATURE) return null
  const entrant = bytes.toString('hex', 0, ID).replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')
  const row = await q.selectFrom('entrant').select(['call', 'link_number']).where('id', '=', entrant).executeTakeFirst()
  if (row === undefined) return null
  const part = { entrant, number: row.link_number }
  return timingSafeEqual(bytes.subarray(ID), signatureOf(part)) ? { ...part, call: row.call } : null
}
