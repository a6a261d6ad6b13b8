import { createServer } from 'node:http'
import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import { listenOnLoopback } from '../../stand-ins/listen'

/** A server on loopback that takes uploads by the tus protocol. */
export interface TusServer {
  readonly address: string
  /** What was uploaded to its end: names as they were said, and where the bytes lie. */
  readonly taken: readonly { readonly name: string; readonly path: string }[]
  readonly close: () => Promise<void>
}

/** Starts one that lets in whoever has the name and the word. */
export async function startTus(name: string, word: string): Promise<TusServer> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-tus-'))
  const taken: { name: string; path: string }[] = []
  const uploads = new Server({
    path: '/files',
    datastore: new FileStore({ directory: folder }),
    onUploadFinish: (_, upload) => {
      taken.push({ name: upload.metadata?.['filename'] ?? '', path: join(folder, upload.id) })
      return Promise.resolve({})
    },
  })
  const wanted = `Basic ${Buffer.from(`${name}:${word}`).toString('base64')}`
  const server = createServer((request, response) => {
    if (request.headers.authorization === wanted) void uploads.handle(request, response)
    else response.writeHead(401).end()
  })
  const address = await listenOnLoopback(server, 0)
  return {
    address: `${address}/files`,
    taken,
    close: () =>
      new Promise((resolve) => {
        server.close(() => {
          resolve()
        })
      }),
  }
}
