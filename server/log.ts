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

/** The one logger. Never given passwords, cookies, notes or anything a person wrote. */
export const log = pino({
  level: process.env['AISLE_LOG'] ?? 'info',
  redact: ['req.headers.cookie', 'password', '*.password'],
  serializers: { err: told },
  base: null,
})
