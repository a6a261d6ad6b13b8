import { Agent, buildConnector, interceptors, request } from 'undici'
import type { Dispatcher } from 'undici'
import { Refusal } from '@core/model'
import { guarded } from './guarded-agents'

/** What others answer is not read beyond so many bytes. */
const MOST_BYTES = 256 * 1024
/** Somebody who does not answer in so long is taken for gone, in ms; a desk reads a whole film before it answers. */
const PATIENCE = 120_000
const MOST_REDIRECTS = 5

/** Connects as `guarded` lets it, each time: what a redirect leads to is asked about as well. */
const connect: buildConnector.connector = (options, done) => {
  try {
    buildConnector({ timeout: PATIENCE, ...guarded(options.hostname, Number(options.port)) })(options, done)
  } catch (error) {
    done(error instanceof Error ? error : new Error(String(error)), null)
  }
}

let dispatcher: Dispatcher | undefined
const outside = (): Dispatcher =>
  (dispatcher ??= new Agent({ connect, headersTimeout: PATIENCE, bodyTimeout: PATIENCE }).compose(
    interceptors.redirect({ maxRedirections: MOST_REDIRECTS }),
  ))

/**
 * Turns what a request to somebody outside ended with into what can be shown.
 * @param host as it is named to people
 */
export function outsideRefusal(error: unknown, host: string): Refusal {
  if (error instanceof Refusal) return error
  const cause = error instanceof Error ? error.cause : undefined
  if (cause instanceof Refusal) return cause
  const why = error instanceof Error ? error.message : String(error)
  // What an agent refuses while it looks a name up may come as the reason of another error.
  const refused = /[^\s:]+ is inside a private network.*$/s.exec(why)
  if (refused !== null) return new Refusal('not-allowed', refused[0])
  return new Refusal('unavailable', `${host} does not answer (${why === '' ? 'no connection' : why}). Nothing was lost; try again later.`)
}

/** What somebody outside answered. */
export interface OutsideAnswer {
  readonly status: number
  /** null: it was no JSON. */
  readonly body: unknown
}

type Ask = Pick<Dispatcher.RequestOptions, 'method' | 'headers' | 'body'>

/** Asks, and reads what is answered. @throws Refusal as of `askOutside` */
async function ask(address: string, options: Ask): Promise<{ status: number; headers: Dispatcher.ResponseData['headers']; text: string }> {
  try {
    const answer = await request(address, { ...options, dispatcher: outside(), signal: AbortSignal.timeout(PATIENCE) })
    const parts: Buffer[] = []
    let bytes = 0
    for await (const part of answer.body as AsyncIterable<Buffer>) {
      bytes += part.length
      if (bytes > MOST_BYTES) throw new Error('it answered with more than anybody asked for')
      parts.push(part)
    }
    return { status: answer.statusCode, headers: answer.headers, text: Buffer.concat(parts).toString('utf8') }
  } catch (error) {
    throw outsideRefusal(error, new URL(address).hostname)
  }
}

/**
 * Asks somebody outside for JSON. The one way in which the server does.
 * @throws Refusal `unavailable` when nobody answers, `not-allowed` when the address is inside a private network
 */
export async function askOutside(address: string, method: 'GET' | 'POST', body?: unknown): Promise<OutsideAnswer> {
  const { status, text } = await ask(address, {
    method,
    headers: { accept: 'application/json', ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  return { status, body: jsonOrNull(text) }
}

/** Asks what is possible at an address. @throws Refusal as of `askOutside` */
export async function askHeaders(
  address: string,
  headers: Readonly<Record<string, string>>,
): Promise<Pick<Dispatcher.ResponseData, 'headers'> & { readonly status: number }> {
  return await ask(address, { method: 'OPTIONS', headers: { ...headers } })
}

function jsonOrNull(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  } catch {
    return null
  }
}
