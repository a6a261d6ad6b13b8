import type { Readable } from 'node:stream'
import { getRequestHeader, sendStream, setResponseHeaders, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { readKept, sizeOf } from '@server/store'

export interface SentFile {
  readonly path: string
  readonly mime: string
  /** Name to be saved under; the browser shows the file when left out. */
  readonly download?: string
  /** The bytes under this address never change. */
  readonly fixed: boolean
  /** Names the bytes; a reader that has them already is told so. */
  readonly tag?: string
  /** Whether caches that many share may keep it: who may have it is said by its address. */
  readonly shared?: boolean
}

/** Reads a byte range (RFC 9110, 14.1.2), one range only. */
function rangeOf(header: string | undefined, size: number): { readonly start: number; readonly end: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (match === null) return null
  const [, from = '', to = ''] = match
  const start = from === '' ? Math.max(0, size - Number(to)) : Number(from)
  const end = from === '' || to === '' ? size - 1 : Math.min(size - 1, Number(to))
  return start <= end && start < size ? { start, end } : null
}

const cacheControl = ({ fixed, shared }: SentFile): string =>
  `${shared === true ? 'public' : 'private'}, ${fixed ? 'max-age=31536000, immutable' : 'no-cache'}`

/** What is said of a file's bytes to whoever may keep them. */
const keptHeaders = (file: SentFile): Record<string, string> => ({
  'cache-control': cacheControl(file),
  ...(file.tag === undefined ? {} : { etag: `"${file.tag}"` }),
})

/** Sends a file of the media store, whole or the part that is asked for. Never shown as a page of ours. */
export async function sendFile(event: H3Event, file: SentFile): Promise<void> {
  const size = await sizeOf(file.path)
  if (size === null) throw new Refusal('not-found', 'This file is not there.')
  setResponseHeaders(event, keptHeaders(file))
  if (file.tag !== undefined && getRequestHeader(event, 'if-none-match') === `"${file.tag}"`) {
    setResponseStatus(event, 304)
    return
  }
  const range = rangeOf(getRequestHeader(event, 'range'), size)
  const { start, end } = range ?? { start: 0, end: size - 1 }
  setResponseStatus(event, range === null ? 200 : 206)
  setResponseHeaders(event, {
    'content-type': file.mime,
    'content-length': size === 0 ? 0 : end - start + 1,
    'accept-ranges': 'bytes',
    'content-security-policy': "sandbox; default-src 'none'",
    ...(range === null ? {} : { 'content-range': `bytes ${String(start)}-${String(end)}/${String(size)}` }),
    ...(file.download === undefined ? {} : { 'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.download)}` }),
  })
  if (size > 0) await sendStream(event, await readKept(file.path, { start, end }))
}

/** Sends an archive that is made while it is sent, to be saved under a name. */
export async function sendZip(event: H3Event, stream: Readable, download: string): Promise<void> {
  setResponseHeaders(event, savedAs('application/zip', download))
  await sendStream(event, stream)
}

/** What is said of something that is made for this answer alone. */
const savedAs = (mime: string, download: string): Record<string, string> => ({
  'content-type': mime,
  'cache-control': 'private, no-store',
  'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(download)}`,
})

/** Sends what was made just now, to be saved under a name. */
export function sendMade(event: H3Event, body: string | Buffer, mime: string, download: string): string | Buffer {
  setResponseHeaders(event, savedAs(mime, download))
  return body
}
