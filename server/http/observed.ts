import { randomUUID } from 'node:crypto'
import { getRequestHeader, getResponseStatus, setResponseHeader } from 'h3'
import type { H3Event } from 'h3'
import { inRequest, log } from '@server/log'
import { settings } from '@server/settings'
import { requestTook } from './metrics'

/** What a proxy of ours may have called a request already. */
const REQUEST_ID = /^[\w.-]{8,64}$/

/** The route that answers, with the names of its parts and not what stands in them. */
function routeOf(event: H3Event): string {
  const { matchedRoute } = event.context
  return typeof matchedRoute?.path === 'string' ? matchedRoute.path : 'other'
}

/**
 * Answers a request under an id that the answer, every line of the log and every job that it adds name; how long it took until the answer
 * began is counted, and said when it was long.
 */
export async function observed<Result>(event: H3Event, work: () => Promise<Result>): Promise<Result> {
  const said = getRequestHeader(event, 'x-request-id') ?? ''
  const id = settings().trustedProxies > 0 && REQUEST_ID.test(said) ? said : randomUUID()
  setResponseHeader(event, 'x-request-id', id)
  return await inRequest(id, async () => {
    const began = performance.now()
    try {
      return await work()
    } finally {
      const took = performance.now() - began
      const of = { method: event.method, route: routeOf(event), status: getResponseStatus(event) }
      requestTook(of, took)
      if (took > settings().slowRequest) log.warn({ ...of, ms: Math.round(took) }, 'slow request')
    }
  })
}
