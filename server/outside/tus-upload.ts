import { createReadStream } from 'node:fs'
import { DefaultHttpStack, Upload } from 'tus-js-client'
import { Refusal } from '@core/model'
import { askHeaders } from './ask-outside'
import { agentFor } from './guarded-agents'
import type { SignIn } from './sign-in'

/** A piece is sent in so many bytes; what is cut off in the middle of one is sent again. */
const PIECE = 8 * 1024 * 1024
/** After what is broken off it is tried again so long after, in ms; then the upload has failed, and can be gone on with. */
const AGAIN = [0, 1000, 3000, 6000, 12_000]

/** What signs in by name and password (RFC 7617). */
export const basicHeaders = ({ user, word }: Pick<SignIn, 'user' | 'word'>): Readonly<Record<string, string>> =>
  user === '' ? {} : { authorization: `Basic ${Buffer.from(`${user}:${word}`).toString('base64')}` }

/** Looks whether uploads are taken somewhere. @throws Error with a `status` when they are not */
export async function tryTus({ address, user, word }: SignIn): Promise<void> {
  const { status, headers } = await askHeaders(address, basicHeaders({ user, word }))
  if (status >= 400) throw Object.assign(new Error(`it answered ${String(status)}`), { status })
  if (headers['tus-resumable'] === undefined && headers['tus-version'] === undefined) {
    throw new Refusal('conflict', `${new URL(address).hostname} answers, and does not speak the tus protocol there.`)
  }
}

/** A file that is sent by the tus protocol. */
export interface TusOrder {
  /** Where uploads are made (tus 1.0, creation extension). */
  readonly endpoint: string
  /** Of an upload that was begun before; null: none was. */
  readonly begun: string | null
  readonly path: string
  readonly bytes: number
  readonly metadata: Readonly<Record<string, string>>
  readonly headers: Readonly<Record<string, string>>
  readonly signal: AbortSignal
  /** An upload has an address: what is sent can be gone on with from there. */
  readonly onAddress: (address: string) => void
  /** @param sent bytes that the other side has */
  readonly onProgress: (sent: number) => void
}

/**
 * Sends a file by the tus protocol, from where an earlier attempt came to. What is broken off is gone on with by itself a few times.
 * @throws Error when the other side refuses or stays away
 */
export function tusUpload(order: TusOrder): Promise<void> {
  const { endpoint, begun, path, bytes, metadata, headers, signal, onAddress, onProgress } = order
  return new Promise((resolve, reject) => {
    const upload = new Upload(createReadStream(path), {
      endpoint,
      ...(begun === null ? {} : { uploadUrl: begun }),
      uploadSize: bytes,
      chunkSize: PIECE,
      retryDelays: AGAIN,
      metadata: { ...metadata },
      headers: { ...headers },
      httpStack: new DefaultHttpStack({ agent: agentFor(endpoint) }),
      onUploadUrlAvailable: () => {
        if (upload.url !== null) onAddress(upload.url)
      },
      onChunkComplete: (_, accepted) => {
        onProgress(accepted)
      },
      onError: reject,
      onSuccess: () => {
        resolve()
      },
    })
    signal.addEventListener(
      'abort',
      () => {
        void upload.abort().finally(() => {
          reject(signal.reason instanceof Error ? signal.reason : new Error('cancelled'))
        })
      },
      { once: true },
    )
    upload.start()
  })
}
