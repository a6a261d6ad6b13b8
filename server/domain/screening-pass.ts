import { createHmac, timingSafeEqual } from 'node:crypto'
import { Refusal } from '@core/model'
import type { Audience } from './access'
import { secretFor } from './secret-for'

/** Which version of a talk somebody was let in to see: a programme, or a deck at its planned times. */
export interface ScreeningVersion {
  readonly talk: string
  readonly timing: 'recorded' | 'planned'
  readonly revision: number
}

/*
 * A pass stands in the path of everything that a screening page loads. It says what may be seen and until when, and is signed, so a cache
 * in front can serve what it knows without asking. Everybody who is let in as the same audience at about the same time gets the same one.
 */

/** Passes end together, so many hours apart; each is good for at least as long. */
const HOURS = 6
const SPAN = HOURS * 3_600_000
/** Bytes of a pass: talk, kind, revision, end in hours since 1970, audience, and so many of its signature (RFC 2104, 5: half of it). */
const [TALK, KIND, REVISION, END, AUDIENCE, SIGNATURE] = [16, 1, 4, 4, 8, 16]
const SIGNED = TALK + KIND + REVISION + END + AUDIENCE

const signatureOf = (bytes: Buffer): Buffer =>
  createHmac('sha256', secretFor('screening pass')).update(bytes).digest().subarray(0, SIGNATURE)

const uuidText = (bytes: Buffer): string => bytes.toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')

/** A pass to one version of a talk. @param audience as whom it is seen @param now ms since 1970 */
export function passFor({ talk, timing, revision }: ScreeningVersion, audience: Audience, now: number): string {
  const bytes = Buffer.alloc(SIGNED)
  Buffer.from(talk.replaceAll('-', ''), 'hex').copy(bytes)
  bytes.writeUInt8(timing === 'recorded' ? 1 : 0, TALK)
  bytes.writeUInt32BE(revision, TALK + KIND)
  bytes.writeUInt32BE((Math.floor(now / SPAN) + 2) * HOURS, TALK + KIND + REVISION)
  Buffer.from(audience, 'hex').copy(bytes, SIGNED - AUDIENCE)
  return Buffer.concat([bytes, signatureOf(bytes)]).toString('base64url')
}

/** What a pass is for, and for whom. @throws Refusal `not-found` when it is none, or over */
export function readPass(pass: string, now: number): { readonly version: ScreeningVersion; readonly audience: Audience } {
  const bytes = Buffer.from(pass, 'base64url')
  const signed = bytes.subarray(0, SIGNED)
  const whole = bytes.length === SIGNED + SIGNATURE && timingSafeEqual(bytes.subarray(SIGNED), signatureOf(signed))
  if (!whole || bytes.readUInt32BE(TALK + KIND + REVISION) * 3_600_000 <= now)
    throw new Refusal('not-found', 'This link to a part of a talk is over. Load its page again.')
  return {
    version: {
      talk: uuidText(signed.subarray(0, TALK)),
      timing: bytes.readUInt8(TALK) === 1 ? 'recorded' : 'planned',
      revision: bytes.readUInt32BE(TALK + KIND),
    },
    audience: signed.subarray(SIGNED - AUDIENCE).toString('hex'),
  }
}
