import type { IncomingMessage } from 'node:http'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'

/** Most bytes of a request that says who somebody is, of one that says what is to be done, and of one that carries a long edit. */
export const CREDENTIAL_BYTES = 16 * 1024
export const REQUEST_BYTES = 256 * 1024
export const EDIT_BYTES = 8 * 1_048_576

const tooLarge = (most: number): Refusal =>
  new Refusal(
    'too-large',
    `This is too much at once: up to ` +
      `${most < 1_048_576 ? `${String(Math.round(most / 1024))} kB` : `${String(Math.round(most / 1_048_576))} MB`} can be taken ` +
      `in here. Nothing was changed.`,
  )

/** How long what is still coming is let pass, in ms. */
const PASSING = 5000

/**
 * Lets what is still coming pass without keeping it, for a while: an answer that is given sooner never reaches who still sends, for
 * a connection that is closed on unread bytes is reset (RFC 9112, 9.6). The connection ends after the answer.
 */
export async function letPass({ node: { req, res } }: Pick<H3Event, 'node'>): Promise<void> {
  if (!res.headersSent) res.setHeader('connection', 'close')
  if (req.readableEnded || req.destroyed) return
  await new Promise<void>((resolve) => {
    const done = (): void => {
      clearTimeout(patience)
      resolve()
    }
    const patience = setTimeout(done, PASSING)
    req.once('end', done)
    req.once('close', done)
    req.on('error', done)
    req.resume()
  })
}

/** Bytes that a request says it carries; null when it does not say. */
export function announcedBytes(request: IncomingMessage): number | null {
  const said = Number(request.headers['content-length'] ?? NaN)
  return Number.isInteger(said) && said >= 0 ? said : null
}

/**
 * Reads the body of a request, never more than is allowed: what is more is let pass without being kept, and refused.
 * @param most bytes
 * @throws Refusal `too-large`; `malformed` when it was broken off
 */
export async function readCapped(event: H3Event, most: number): Promise<Buffer> {
  const { req } = event.node
  if ((announcedBytes(req) ?? 0) > most) {
    await letPass(event)
    throw tooLarge(most)
  }
  return await new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let bytes = 0
    const hear = (chunk: Buffer): void => {
      bytes += chunk.length
      if (bytes <= most) chunks.push(chunk)
      else {
        req.off('data', hear)
        req.off('error', brokenOff)
        req.off('aborted', brokenOff)
        void letPass(event).then(() => {
          reject(tooLarge(most))
        })
      }
    }
    const brokenOff = (): void => {
      reject(new Refusal('malformed', 'The request was broken off. Nothing was changed.'))
    }
    req.on('data', hear)
    req.once('end', () => {
      if (bytes <= most) resolve(Buffer.concat(chunks))
    })
    req.once('error', brokenOff)
    req.once('aborted', brokenOff)
  })
}
