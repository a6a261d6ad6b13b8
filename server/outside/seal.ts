import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'

/** AES-256 in Galois counter mode (NIST SP 800-38D), with a nonce of its own for each text. */
const CIPHER = 'aes-256-gcm'
const NONCE = 12
const TAG = 16

/** Seals a text. @param key 32 bytes @returns nonce, tag and what is sealed */
export function seal(text: string, key: Buffer): Buffer {
  const nonce = randomBytes(NONCE)
  const cipher = createCipheriv(CIPHER, key, nonce, { authTagLength: TAG })
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed])
}

/** Opens what was sealed. @throws Error when the key is another one, or it was changed */
export function unseal(sealed: Buffer, key: Buffer): string {
  const decipher = createDecipheriv(CIPHER, key, sealed.subarray(0, NONCE), { authTagLength: TAG })
  decipher.setAuthTag(sealed.subarray(NONCE, NONCE + TAG))
  return Buffer.concat([decipher.update(sealed.subarray(NONCE + TAG)), decipher.final()]).toString('utf8')
}
