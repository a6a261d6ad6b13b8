import pino from 'pino'

/** The one logger. Never given passwords, cookies, notes or anything a person wrote. */
export const log = pino({
  level: process.env['AISLE_LOG'] ?? 'info',
  redact: ['req.headers.cookie', 'password', '*.password'],
  base: null,
})
