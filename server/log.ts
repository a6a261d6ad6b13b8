import { AsyncLocalStorage } from 'node:async_hooks'
import pino from 'pino'

/**
 * What is told of an error: what kind it is and where it came from. What the database says besides (`detail`, `where`, parameters) may
 * hold what a person wrote.
 */
function told(error: unknown): unknown {
  if (!(error instanceof Error)) return { message: typeof error === 'string' ? error : 'no error was thrown' }
  const { name, message, stack, cause } = error
  const code = 'code' in error && typeof error.code === 'string' ? error.code : undefined
  return { name, message, stack, ...(code === undefined ? {} : { code }), ...(cause === undefined ? {} : { cause: told(cause) }) }
}

const requests = new AsyncLocalStorage<string>()

/** The request that what runs here was asked by; null: by none. */
export const currentRequest = (): string | null => requests.getStore() ?? null

/** Does something on behalf of a request: what is logged meanwhile, and jobs that are added, name it. */
export const inRequest = <Result>(id: string | null, work: () => Result): Result => (id === null ? work() : requests.run(id, work))

/** The one logger. Never given passwords, cookies, notes or anything a person wrote. */
export const log = pino({
  level: process.env['AISLE_LOG'] ?? 'info',
  redact: ['req.headers.cookie', 'password', '*.password'],
  serializers: { err: told },
  base: null,
  mixin: () => {
    const request = currentRequest()
    return request === null ? {} : { request }
  },
})
