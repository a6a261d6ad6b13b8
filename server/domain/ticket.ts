import { createHash, randomBytes } from 'node:crypto'

/** Bytes of a ticket: nobody finds one by trying. */
const BYTES = 32

/** What opens something once, and is in a letter alone. */
export const newTicket = (): string => randomBytes(BYTES).toString('base64url')

/** What is kept of it. */
export const digestOfTicket = (ticket: string): string => createHash('sha256').update(ticket).digest('base64url')
