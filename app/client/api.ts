import { FetchError, ofetch } from 'ofetch'
import { Refusal } from '@core/model'
import type { NewBackdrop, VoiceTreatment } from '@core/model'
import type { FaultBody } from '@contracts'

const isFault = (body: unknown): body is FaultBody =>
  typeof body === 'object' && body !== null && 'error' in body && typeof (body as FaultBody).error.sentence === 'string'

/** Turns whatever a request ended with into the one error that can be shown. */
function asRefusal(error: unknown): Refusal {
  if (error instanceof FetchError && isFault(error.data)) {
    const { code, sentence, detail } = error.data.error
    return new Refusal(code, sentence, detail)
  }
  if (error instanceof FetchError && error.status !== undefined) {
    return new Refusal('internal', 'The server could not do this. What was there before is unchanged; try again.')
  }
  return new Refusal('unavailable', 'The server does not answer. What you did last is kept on this page and tried again when it is back.')
}

/** A request that has no answer after so long never gets one, in ms: a line may be dead without saying so. */
const PATIENCE = 120_000

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** Asks, and turns whatever goes wrong into a Refusal. */
async function refused<Answer>(answer: () => Promise<Answer>): Promise<Answer> {
  try {
    return await answer()
  } catch (error) {
    throw asRefusal(error)
  }
}

const ask = <Answer>(method: Method, path: string, body?: unknown, headers?: Record<string, string>): Promise<Answer> =>
  refused(() =>
    ofetch<Answer>(`/api${path}`, {
      method,
      retry: 0,
      // A deck may take as long as its line takes.
      ...(body instanceof FormData ? {} : { timeout: PATIENCE }),
      ...(body === undefined ? {} : { body: body as Record<string, unknown> }),
      ...(headers === undefined ? {} : { headers }),
    }),
  )

/** The one way in which pages talk to the server. Every call throws a Refusal and nothing else. */
export const api = {
  get: <Answer>(path: string): Promise<Answer> => ask('GET', path),
  post: <Answer>(path: string, body?: unknown): Promise<Answer> => ask('POST', path, body),
  put: <Answer>(path: string, body: unknown, headers?: Record<string, string>): Promise<Answer> => ask('PUT', path, body, headers),
  patch: <Answer>(path: string, body: unknown): Promise<Answer> => ask('PATCH', path, body),
  delete: <Answer>(path: string): Promise<Answer> => ask('DELETE', path),
  /** A file, as bytes. */
  file: (path: string): Promise<Blob> => refused(() => ofetch(`/api${path}`, { retry: 0, timeout: PATIENCE, responseType: 'blob' })),
}

export const assetUrl = (talk: string, digest: string): string => `/api/talks/${talk}/assets/${digest}`
/** A picture of a screening. @param media path of its media */
export const mediaUrl = (media: string, digest: string): string => `${media}/assets/${digest}`
export const recordingUrl = (stretch: string): string => `/api/stretches/${stretch}/recording`
/** A voice as a treatment has it sound: what is not done is left out. */
export function treatedUrl(stretch: string, { noise, hum, rumble, sibilance, level }: VoiceTreatment): string {
  const done = Object.entries({ noise, hum, rumble, sibilance, level }).filter(([, value]) => value !== null && value !== false)
  return `/api/stretches/${stretch}/treated?${new URLSearchParams(done.map(([name, value]) => [name, String(value)])).toString()}`
}

/** A backdrop as addresses name it. */
export const backdropQuery = (backdrop: NewBackdrop): string => new URLSearchParams(Object.entries(backdrop)).toString()
/** A camera with another backdrop, once it was made. */
export const backdropUrl = (stretch: string, backdrop: NewBackdrop): string =>
  `/api/stretches/${stretch}/backdrop?${backdropQuery(backdrop)}`

/**
 * The sentence of an error, for showing. What is no refusal is a fault of ours: it is told to the browser's own log, and a person is
 * not bothered with its words.
 */
export function sentenceOf(error: unknown): string {
  if (error instanceof Refusal) return error.message
  reportError(error)
  return 'Something went wrong. Nothing that was there before has changed.'
}
