import { randomBytes } from 'node:crypto'

/** Bytes of a key: nobody finds one by trying. */
const BYTES = 16

/** A key that whoever has it has the link to something. */
export const newKey = (): string => randomBytes(BYTES).toString('base64url')
